import { canConvertByKernel, convertByKernel } from './yuv-kernel.ts';

/** Bytes of a picture in 4:2:0: its whole luma, then both differences at half the size. */
export const i420Bytes = (width: number, height: number): number => (width * height * 3) / 2;

/** Weights of red and blue in luma (ITU-R BT.709, 3.2); green has the rest. */
const [redWeight, blueWeight] = [0.2126, 0.0722];
const greenWeight = 1 - redWeight - blueWeight;

/**
 * A picture as video has it: 8 bits, 4:2:0, limited range (luma 16..235, differences 16..240 about 128), by the matrix of
 * ITU-R BT.709. Each difference is the mean of the four pixels it stands for.
 * @param data red, green, blue and alpha, 0..255; alpha is not looked at
 * @param out of `i420Bytes(width, height)` bytes, planes Y, Cb, Cr one after the other
 * @throws RangeError when a side is not even
 */
export function toLimitedI420(data: Uint8ClampedArray, width: number, height: number, out: Uint8Array): void {
  if (width % 2 !== 0 || height % 2 !== 0) throw new RangeError('4:2:0 needs even sides.');
  if (canConvertByKernel() && width >= 4) convertByKernel(data, width, height, wholeWeights, out);
  else plainLimitedI420(data, width, height, out);
}

/** Bits after the point of the weights of luma, and of those of a difference from a sum over four pixels. */
const [lumaBits, differenceBits] = [15, 18];

/** The weights of red, green and blue for luma and for either difference, as whole numbers. */
const wholeWeights = Int32Array.from(
  [
    ...[redWeight, greenWeight, blueWeight].map((weight) => (weight * 219 * 2 ** lumaBits) / 255),
    ...differenceWeights([0, 0, 1], blueWeight),
    ...differenceWeights([1, 0, 0], redWeight),
  ].map(Math.round),
);

function differenceWeights(own: readonly number[], weight: number): number[] {
  const scale = (224 / 255 / (2 * (1 - weight)) / 4) * 2 ** differenceBits;
  return [redWeight, greenWeight, blueWeight].map((luma, c) => (own[c]! - luma) * scale);
}

/** The same in plain TypeScript: what the kernel is checked against, and what runs where there is none. */
export function plainLimitedI420(data: Uint8ClampedArray, width: number, height: number, out: Uint8Array): void {
  const [kr, kg, kb] = [redWeight, greenWeight, blueWeight].map((weight) => (weight * 219) / 255) as [
    number,
    number,
    number,
  ];
  // Of sums over four pixels.
  const blueScale = 224 / 255 / (2 * (1 - blueWeight)) / 4;
  const redScale = 224 / 255 / (2 * (1 - redWeight)) / 4;
  const blues = width * height;
  const reds = blues + blues / 4;
  const row = width * 4;
  for (let y = 0, half = 0; y < height; y += 2) {
    let i = y * row;
    let k = y * width;
    for (let x = 0; x < width; x += 2, i += 8, k += 2, half++) {
      // Four pixels written out: this is done for every frame of a film.
      const j = i + row;
      const [r0, g0, b0, r1, g1, b1] = [data[i]!, data[i + 1]!, data[i + 2]!, data[i + 4]!, data[i + 5]!, data[i + 6]!];
      const [r2, g2, b2, r3, g3, b3] = [data[j]!, data[j + 1]!, data[j + 2]!, data[j + 4]!, data[j + 5]!, data[j + 6]!];
      out[k] = 16.5 + kr * r0 + kg * g0 + kb * b0;
      out[k + 1] = 16.5 + kr * r1 + kg * g1 + kb * b1;
      out[k + width] = 16.5 + kr * r2 + kg * g2 + kb * b2;
      out[k + width + 1] = 16.5 + kr * r3 + kg * g3 + kb * b3;
      const [red, green, blue] = [r0 + r1 + r2 + r3, g0 + g1 + g2 + g3, b0 + b1 + b2 + b3];
      const luma = redWeight * red + greenWeight * green + blueWeight * blue;
      out[blues + half] = 128.5 + (blue - luma) * blueScale;
      out[reds + half] = 128.5 + (red - luma) * redScale;
    }
  }
}
