import type { BlendMode } from '../document/blend.ts';
import type { Matrix } from '../scene/matrix.ts';
import type { Surface2D } from './surface.ts';

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

/** Canvas has names of its own for two of the modes. */
export function operationOf(blend: BlendMode): string {
  if (blend === 'normal') return 'source-over';
  return blend === 'plus-lighter' ? 'lighter' : blend;
}

/** Lets a surface draw in the pixels that a map takes to frame pixels. */
export function setMatrix<Image>(
  surface: Surface2D<Image>,
  [a, b, c, d, e, f]: Matrix,
  { scale, x, y }: Pick<PaintView, 'scale' | 'x' | 'y'>,
): void {
  surface.setTransform(a * scale, b * scale, c * scale, d * scale, e * scale + x, f * scale + y);
}
