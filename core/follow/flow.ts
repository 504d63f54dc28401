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
 * @param settled pixels of a step after which no other is taken
 * @returns the place in the second; null where nothing there tells how it moved
 */
export function flowOf(
  from: readonly Plane[],
  to: readonly Plane[],
  at: Point,
  guess: Point,
  settled = 0.008,
): Point | null {
  const levels = Math.min(from.length, to.length);
  const coarsest = 0.5 ** (levels - 1);
  let shift: Point | null = [guess[0] * coarsest, guess[1] * coarsest];
  for (let k = levels - 1; k >= 0; k--) {
    const scale = 0.5 ** k;
    const found: Point | null = shiftAt(from[k]!, to[k]!, [at[0] * scale, at[1] * scale], shift, settled);
    // A size too coarse to show anything says nothing; only the finest must.
    if (!found && k === 0) return null;
    const best: Point = found ?? shift;
    shift = k > 0 ? [best[0] * 2, best[1] * 2] : best;
  }
  return [at[0] + shift[0], at[1] + shift[1]];
}

const side = 2 * reach + 1;
/** Values of a window and one pixel around it. */
const framed = new Float64Array((side + 2) ** 2);
const values = new Float64Array(side * side);
const gx = new Float64Array(side * side);
const gy = new Float64Array(side * side);
const found = new Float64Array(side * side);

function shiftAt(from: Plane, to: Plane, [x, y]: Point, guess: Point, settled: number): Point | null {
  readWindow(from, x - reach - 1, y - reach - 1, side + 2, framed);
  let [xx, xy, yy] = [0, 0, 0];
  for (let v = 0, i = 0; v < side; v++)
    for (let u = 0; u < side; u++, i++) {
      const at = (v + 1) * (side + 2) + u + 1;
      values[i] = framed[at]!;
      const a = (framed[at + 1]! - framed[at - 1]!) / 2;
      const b = (framed[at + side + 2]! - framed[at - side - 2]!) / 2;
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
    readWindow(to, x + dx - reach, y + dy - reach, side, found);
    let [ex, ey] = [0, 0];
    for (let i = 0; i < found.length; i++) {
      const difference = values[i]! - found[i]!;
      ex += difference * gx[i]!;
      ey += difference * gy[i]!;
    }
    const [sx, sy] = [(yy * ex - xy * ey) / determinant, (xx * ey - xy * ex) / determinant];
    dx += sx;
    dy += sy;
    if (Math.hypot(sx, sy) < settled) break;
  }
  return Number.isFinite(dx + dy) ? [dx, dy] : null;
}

/** A square of a plane whose first pixel lies at (x, y): the share of each pixel is the same for all of it. */
function readWindow(plane: Plane, x: number, y: number, size: number, into: Float64Array): void {
  const { width, height, data } = plane;
  const [left, top] = [Math.floor(x), Math.floor(y)];
  if (left < 0 || top < 0 || left + size >= width || top + size >= height || !Number.isFinite(x + y)) {
    for (let v = 0, i = 0; v < size; v++) for (let u = 0; u < size; u++, i++) into[i] = sampled(plane, x + u, y + v);
    return;
  }
  const [fx, fy] = [x - left, y - top];
  const [a, b, c, d] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
  for (let v = 0, i = 0; v < size; v++) {
    const row = (top + v) * width + left;
    for (let u = 0; u < size; u++, i++) {
      const o = row + u;
      into[i] = data[o]! * a + data[o + 1]! * b + data[o + width]! * c + data[o + width + 1]! * d;
    }
  }
}
