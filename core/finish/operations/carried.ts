import type { FinishPixels } from '../finish.ts';
import { kernelOf, laid } from './memory.ts';
import { addPremultiplied, writePremultiplied } from './premultiplied.ts';

/** (x, y) comes from (a x + c y + e, b x + d y + f). */
export type Carry = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/**
 * The mean of a picture carried along a way, one step after the other: `after` says where pixels come from after a share of
 * the whole way, and shares must add up as the steps of a shift, a growth or a turn do. So the mean of two moved copies, of
 * those again two, and so on is that of 2^n steps at the cost of n (after Heckbert 1986, repeated filtering).
 * @param length of the whole way in pixels where it is longest
 */
export function averagedAlong(pixels: FinishPixels, length: number, after: (share: number) => Carry): void {
  const { width, height, data } = pixels;
  // Steps of less than two pixels: each copy is mixed between pixels, so none shows by itself.
  const passes = Math.min(7, Math.ceil(Math.log2(Math.max(1, length / 1.8))));
  if (passes === 0) return;
  const maps = Array.from({ length: passes }, (_, n) => [after(-(2 ** -(n + 2))), after(2 ** -(n + 2))] as const);
  const kernel = kernelOf(data);
  const bytes = (width + 2) * (height + 2) * 8;
  const byKernel = (list: number, first: number, second: number): void => {
    let [from, to] = [first, second];
    kernel!.toFine(data.byteOffset, width, height, from);
    for (let n = 0; n < passes; n++) {
      kernel!.halfApart(from, width, height, list + n * 48, to);
      [from, to] = [to, from];
    }
    kernel!.fromFine(from, width, height, data.byteOffset);
  };
  if (kernel && laid([Float32Array.from(maps.flat(2)), bytes, bytes], byKernel)) return;
  let from: Float32Array = new Float32Array(data.length);
  addPremultiplied(from, data, 1);
  let to: Float32Array = new Float32Array(data.length);
  for (const pair of maps) {
    halfApart(from, to, width, height, pair);
    [from, to] = [to, from];
  }
  writePremultiplied(data, from, width);
}

/** Mean of two copies, each pixel taken from where a map leads. */
function halfApart(from: Float32Array, to: Float32Array, width: number, height: number, maps: readonly Carry[]): void {
  to.fill(0);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const o = (y * width + x) * 4;
      for (const [a, b, c, d, e, f] of maps) {
        const [atX, atY] = [a * x + c * y + e, b * x + d * y + f];
        const [u, v] = [Math.floor(atX), Math.floor(atY)];
        const [fx, fy] = [atX - u, atY - v];
        if (u < -1 || v < -1 || u >= width || v >= height) continue;
        for (let n = 0; n < 4; n++) {
          const [px, py] = [u + (n & 1), v + (n >> 1)];
          if (px < 0 || py < 0 || px >= width || py >= height) continue;
          const weight = 0.5 * (n & 1 ? fx : 1 - fx) * (n >> 1 ? fy : 1 - fy);
          if (weight === 0) continue;
          const i = (py * width + px) * 4;
          to[o] = to[o]! + from[i]! * weight;
          to[o + 1] = to[o + 1]! + from[i + 1]! * weight;
          to[o + 2] = to[o + 2]! + from[i + 2]! * weight;
          to[o + 3] = to[o + 3]! + from[i + 3]! * weight;
        }
      }
    }
}
