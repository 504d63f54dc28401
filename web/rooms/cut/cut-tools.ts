import type { CutRecipe, Piece, SubjectRecipe } from '../../../core/scene/document.ts';
import type { CutSessionState } from './cut-session.ts';

/** What the pointer does on the picture: strokes, a box, a sample of the screen, or brushes on alpha itself. */
export type CutTool = 'keep' | 'drop' | 'box' | 'screen' | 'restore' | 'wipe' | null;

export interface CutPanelProps {
  piece: Piece | null;
  session: CutSessionState;
  tool: CutTool;
  setTool(tool: CutTool): void;
  radius: number;
  setRadius(radius: number): void;
  /** Gives the open piece this recipe, or makes a new piece with it. */
  begin(recipe: CutRecipe, step: string): void;
  /** Brings a place of the picture into view. */
  goTo(place: { x: number; y: number; width: number; height: number }): void;
}

export const emptyRecipe: SubjectRecipe = { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null };
