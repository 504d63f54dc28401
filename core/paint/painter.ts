import type { BlendMode } from '../scene/blend.ts';
import type { Draw, EvaluatedFrame } from '../scene/draw.ts';
import { paintContent } from './content.ts';
import { paintApart } from './apart.ts';
import { resetContext, type Studio, type Surface2D } from './surface.ts';

export interface PaintOptions {
  /** Surface pixels per frame pixel. */
  scale: number;
  /** Where the frame's top left corner lies on the surface, in surface pixels. */
  x?: number;
  y?: number;
  /** Ground under everything; null leaves it transparent. */
  ground: string | null;
}

/** What painting a list of draws needs to know beside the draws. */
export interface PaintView {
  scale: number;
  x: number;
  y: number;
  /** Size of the frame in frame pixels. */
  frame: { width: number; height: number };
  /** Size of the surface in its pixels. */
  surface: { width: number; height: number };
  /** Files that were not there. */
  missing: string[];
}

/**
 * Draws an evaluated frame. Preview and export both come through here, so they cannot differ.
 * @param size of the surface in its pixels; when left out, that of the scaled frame
 * @returns the files that were missing; what shows them is left out
 */
export function paintFrame<Image>(
  surface: Surface2D<Image>,
  frame: EvaluatedFrame,
  studio: Studio<Image>,
  options: PaintOptions & { size?: { width: number; height: number } },
): string[] {
  const { scale, x = 0, y = 0, ground } = options;
  resetContext(surface);
  const width = frame.width * scale;
  const height = frame.height * scale;
  if (ground === null) surface.clearRect(x, y, width, height);
  else {
    surface.fillStyle = ground;
    surface.fillRect(x, y, width, height);
  }
  const view: PaintView = {
    scale,
    x,
    y,
    frame,
    surface: options.size ?? { width: Math.ceil(width), height: Math.ceil(height) },
    missing: [],
  };
  paintDraws(surface, frame.draws, studio, view);
  resetContext(surface);
  return view.missing;
}

/** Draws one after the other, each over what is there. */
export function paintDraws<Image>(
  surface: Surface2D<Image>,
  draws: readonly Draw[],
  studio: Studio<Image>,
  view: PaintView,
): void {
  for (const draw of draws) {
    if (draw.blur > 0 || draw.masks || draw.window || draw.content.kind === 'together') {
      paintApart(surface, draw, studio, view);
      continue;
    }
    surface.globalAlpha = draw.opacity;
    surface.globalCompositeOperation = operationOf(draw.blend);
    paintContent(surface, draw, studio, view);
  }
}

/** Canvas has names of its own for two of the modes. */
export function operationOf(blend: BlendMode): string {
  if (blend === 'normal') return 'source-over';
  return blend === 'plus-lighter' ? 'lighter' : blend;
}
