import type { EvaluatedFrame } from '../scene/draw.ts';
import { paintDraws } from './draws.ts';
import { resetContext, type Studio, type Surface2D } from './surface.ts';
import type { PaintView } from './view.ts';

export interface PaintOptions {
  /** Surface pixels per frame pixel. */
  scale: number;
  /** Where the frame's top left corner lies on the surface, in surface pixels. */
  x?: number;
  y?: number;
  /** Ground under everything; null leaves it transparent. */
  ground: string | null;
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
