import { useState } from 'react';
import type { Piece } from '../../../core/document/document.ts';
import type { SingleRecipe } from '../../../core/document/recipe.ts';
import { isOutlineTool, type CutTool } from './cut-tools.ts';
import type { OpenRecipe } from './use-recipe.ts';

/** What can set a piece apart. */
export type Way = 'subject' | 'outline' | 'shape' | 'colour' | 'brightness';

const wayOfKind: Record<SingleRecipe['kind'], Way> = {
  subject: 'subject',
  figure: 'subject',
  mask: 'subject',
  shape: 'shape',
  chroma: 'colour',
  luma: 'brightness',
  unveil: 'brightness',
  whole: 'brightness',
  difference: 'colour',
};

/** The way whose controls are open, and what opens another. */
export interface OpenWay {
  way: Way;
  open(way: Way): void;
}

export function useWay(piece: Piece | null, { step, adding }: OpenRecipe, tool: CutTool): OpenWay {
  const [chosen, setChosen] = useState<{ of: string; way: Way } | null>(null);
  // A way that was opened by hand stays open until another step or piece is.
  const of = `${piece?.id} ${step?.id ?? adding}`;
  const byHand = chosen?.of === of ? chosen.way : step ? wayOfKind[step.recipe.kind] : (chosen?.way ?? 'subject');
  // A tool taken by its key opens the way it belongs to.
  const byTool = tool === 'outline' ? 'outline' : isOutlineTool(tool) ? 'shape' : null;
  const way = byTool && byHand !== 'outline' && byHand !== 'shape' ? byTool : byHand;
  return { way, open: (wanted) => setChosen({ of, way: wanted }) };
}
