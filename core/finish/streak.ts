import { sample } from './pixels.ts';
import type { FinishPixels } from './finish.ts';

/** Each pixel becomes the mean of the places `placeAt` names for steps -0.5..0.5. @param steps how many are looked at */
export function averagedAlong(
  pixels: FinishPixels,
  steps: number,
  placeAt: (x: number, y: number, t: number, out: [number, number]) => void,
): void {
  const source = { ...pixels, data: pixels.data.slice() };
  const { data, width, height } = pixels;
  const colour = new Float32Array(4);
  const at: [number, number] = [0, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let [r, g, b, a] = [0, 0, 0, 0];
      for (let n = 0; n < steps; n++) {
        placeAt(x, y, steps === 1 ? 0 : n / (steps - 1) - 0.5, at);
        sample(source, at[0], at[1], colour);
        r += colour[0]! * colour[3]!;
        g += colour[1]! * colour[3]!;
        b += colour[2]! * colour[3]!;
        a += colour[3]!;
      }
      const i = (y * width + x) * 4;
      data[i + 3] = a / steps;
      if (a > 0) {
        data[i] = r / a;
        data[i + 1] = g / a;
        data[i + 2] = b / a;
      }
    }
  }
}

/** Steps for a way of some pixels: one every other pixel is enough for bilinear samples. */
export const stepsFor = (length: number): number => Math.max(1, Math.min(64, Math.ceil(length / 1.5) + 1));
