import type { Draw } from '../scene/draw.ts';
import type { PaintView } from './view.ts';

/** No raster of something that is made has more pixels than this. */
const mostPixels = 9e6;

/**
 * Raster pixels a pixel of a draw's content is worth, where that is painted once and kept: whole halvings or doublings, so
 * that few pictures are.
 */
export function rasterFor({ matrix: [a, b, c, d], width, height }: Draw, view: PaintView): number {
  const shown = Math.max(Math.hypot(a, b), Math.hypot(c, d)) * view.scale;
  const most = Math.sqrt(mostPixels / (width * height));
  return Math.min(most, 2 ** Math.ceil(Math.log2(Math.max(1 / 16, shown)) - 0.01));
}
