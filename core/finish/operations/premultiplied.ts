import type { Plane } from '../../pixels/raster.ts';
import type { FinishPixels } from '../finish.ts';
import { inKernel, kernelOf, laid, laidSurely, zerosLike } from './memory.ts';
import { ditherAt } from './noise.ts';

/* Four floats a pixel, 0..255: colours times alpha, so that no colour of clear pixels shines in, and alpha. */

export function premultiplied(pixels: FinishPixels): Plane {
  const out = zerosLike(pixels, 4);
  addPremultiplied(out.data, pixels.data, 1);
  return out;
}

/** Adds straight pixels, premultiplied and times a weight, to a sum of four numbers a pixel. */
export function addPremultiplied(sum: Float32Array, data: Uint8ClampedArray, weight: number): void {
  const kernel = kernelOf(sum, data);
  if (kernel) return kernel.addPremultiplied(sum.byteOffset, data.byteOffset, data.length / 4, weight);
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]! * weight;
    if (alpha === 0) continue;
    const share = alpha / 255;
    sum[i] = sum[i]! + data[i]! * share;
    sum[i + 1] = sum[i + 1]! + data[i + 1]! * share;
    sum[i + 2] = sum[i + 2]! + data[i + 2]! * share;
    sum[i + 3] = sum[i + 3]! + alpha;
  }
}

/** The mean of several pictures of one size, summed in full precision and dithered. */
export function writeMean(pixels: FinishPixels, moments: readonly Uint8ClampedArray[]): void {
  inKernel(pixels, null, [
    (own) => {
      const sum = zerosLike(own, 4).data;
      const kernel = kernelOf(sum);
      const share = 1 / moments.length;
      for (const data of moments) {
        const byKernel = (at: number): void => kernel!.addPremultiplied(sum.byteOffset, at, data.length / 4, share);
        if (!kernel || !laid([data], byKernel)) addPremultiplied(sum, data, share);
      }
      writePremultiplied(own.data, sum, own.width);
    },
  ]);
}

/** Writes such a sum as straight pixels, dithered by less than a step so that soft ramps show no bands. */
export function writePremultiplied(data: Uint8ClampedArray, sum: Float32Array, width: number): void {
  const kernel = kernelOf(data, sum);
  if (kernel) return kernel.writeStraight(data.byteOffset, width, data.length / 4 / width, sum.byteOffset);
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const alpha = sum[i + 3]! / 255;
    const noise = ditherAt(k % width, Math.floor(k / width));
    data[i + 3] = sum[i + 3]! + (alpha > 0 && alpha < 1 ? noise : 0);
    if (alpha > 0) for (let c = 0; c < 3; c++) data[i + c] = sum[i + c]! / alpha + noise;
  }
}

/** Bytes in which the kernel enlarges a row of a picture half as wide. */
export const enlargingBytes = (width: number): number => (((width + 1) >> 1) + width + 4) * 16;

/** The same of one that is half as large if it is `halved`, as `softColours` says. */
export function writeSoft(pixels: FinishPixels, { plane, halved }: { plane: Plane; halved: boolean }): void {
  const { data, width, height } = pixels;
  if (!halved) return writePremultiplied(data, plane.data, width);
  const from = plane.data.byteOffset;
  const byKernel = (line: number): void => kernelOf(data)!.writeEnlarged(data.byteOffset, width, height, from, line);
  laidSurely([enlargingBytes(width)], byKernel);
}

/** The same, but as much of it as was there: alpha stays. */
export function writeColours({ data, width, height }: FinishPixels, { data: sum }: Plane): void {
  const kernel = kernelOf(data, sum);
  if (kernel) return kernel.writeColours(data.byteOffset, width, height, sum.byteOffset);
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    if (data[i + 3] === 0 || sum[i + 3]! <= 0) continue;
    const noise = ditherAt(k % width, Math.floor(k / width));
    for (let c = 0; c < 3; c++) data[i + c] = (sum[i + c]! / sum[i + 3]!) * 255 + noise;
  }
}
