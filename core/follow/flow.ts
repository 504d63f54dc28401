import type { Plane } from '../pixels/raster.ts';
import { sampled } from './cutting.ts';

export type Point = [number, number];

/** Half the side of the window compared at every level, pixels of that level. */
const reach = 7;
const mostRounds = 15;
/** Gradient energy a pixel of the window must have for its motion to be told, levels squared. */
const leastDetail = 0.6;

/**
 * Where a point of one picture lies in the next: pyramidal Lucas & Kanade (1981), as Bouguet (2001) wrote it down. From the
 * coarsest size to the finest the window's shift is found by Newton's method with the gradients of the first picture.
 * @param from, to sizes of the two pictures, each half of the one before, lying alike
 * @param at the point in the first, pixels of its finest size with the middles of pixels at whole numbers
 * @param guess how far it is thought to have gone
 * @returns the place in the second; null where nothing there tells how it moved
 */
export function flowOf(from: readonly Plane[], to: readonly Plane[], at: Point, guess: Point): Point | null {
  const levels = Math.min(from.length, to.length);
  const coarsest = 0.5 ** (levels - 1);
  let shift: Point | null = [guess[0] * coarsest, guess[1] * coarsest];
  for (let k = levels - 1; k >= 0; k--) {
    const scale = 0.5 ** k;
    const found: Point | null = shiftAt(from[k]!, to[k]!, [at[0] * scale, at[1] * scale], shift);
    // A size too coarse to show anything says nothing; only the finest must.
    if (!found && k === 0) return null;
    const best: Point = found ?? shift;
    shift = k > 0 ? [best[0] * 2, best[1] * 2] : best;
  }
  return [at[0] + shift[0], at[1] + shift[1]];
}

function shiftAt(from: Plane, to: Plane, [x, y]: Point, guess: Point): Point | null {
  const side = 2 * reach + 1;
  const values = new Float64Array(side * side);
  const gx = new Float64Array(side * side);
  const gy = new Float64Array(side * side);
  let [xx, xy, yy] = [0, 0, 0];
  for (let v = -reach, i = 0; v <= reach; v++)
    for (let u = -reach; u <= reach; u++, i++) {
      values[i] = sampled(from, x + u, y + v);
      const a = (sampled(from, x + u + 1, y + v) - sampled(from, x + u - 1, y + v)) / 2;
      const b = (sampled(from, x + u, y + v + 1) - sampled(from, x + u, y + v - 1)) / 2;
      gx[i] = a;
      gy[i] = b;
      xx += a * a;
      xy += a * b;
      yy += b * b;
    }
  const least = (xx + yy - Math.hypot(xx - yy, 2 * xy)) / 2 / values.length;
  if (least < leastDetail) return null;
  const determinant = xx * yy - xy * xy;
  let [dx, dy] = guess;
  for (let round = 0; round < mostRounds; round++) {
    let [ex, ey] = [0, 0];
    for (let v = -reach, i = 0; v <= reach; v++)
      for (let u = -reach; u <= reach; u++, i++) {
        const difference = values[i]! - sampled(to, x + dx + u, y + dy + v);
        ex += difference * gx[i]!;
        ey += difference * gy[i]!;
      }
    const [sx, sy] = [(yy * ex - xy * ey) / determinant, (xx * ey - xy * ex) / determinant];
    dx += sx;
    dy += sy;
    if (Math.hypot(sx, sy) < 0.005) break;
  }
  return Number.isFinite(dx + dy) ? [dx, dy] : null;
}
