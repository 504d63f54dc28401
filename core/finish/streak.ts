import { addPremultiplied, writePremultiplied } from './pixels.ts';
import type { FinishPixels } from './finish.ts';

/**
 * The mean of a picture carried along a way, one step after the other: `turned` says where a pixel comes from after a
 * share of the whole way, and shares must add up as the steps of a shift, a growth or a turn do. So the mean of two moved
 * copies, of those again two, and so on is that of 2^n steps at the cost of n (after Heckbert 1986, repeated filtering).
 * @param length of the whole way in pixels where it is longest
 */
export function averagedAlong(
  pixels: FinishPixels,
  length: number,
  turned: (x: number, y: number, share: number, out: [number, number]) => void,
): void {
  const passes = Math.min(7, Math.ceil(Math.log2(Math.max(1, length))));
  const { width, height } = pixels;
  let from: Float32Array = new Float32Array(pixels.data.length);
  addPremultiplied(from, pixels.data, 1);
  let to: Float32Array = new Float32Array(from.length);
  for (let pass = 1; pass <= passes; pass++) {
    halfApart(from, to, width, height, 2 ** -(pass + 1), turned);
    [from, to] = [to, from];
  }
  writePremultiplied(pixels.data, from, width);
}

/** Mean of the two copies moved by a share of the way to either side. */
function halfApart(
  from: Float32Array,
  to: Float32Array,
  width: number,
  height: number,
  share: number,
  turned: (x: number, y: number, share: number, out: [number, number]) => void,
): void {
  const at: [number, number] = [0, 0];
  to.fill(0);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const o = (y * width + x) * 4;
      for (const side of [-share, share]) {
        turned(x, y, side, at);
        const [u, v] = [Math.floor(at[0]), Math.floor(at[1])];
        const [fx, fy] = [at[0] - u, at[1] - v];
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
