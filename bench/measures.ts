import type { Bytes, Rgba } from '../core/pixels/raster.ts';

/** Intersection over union of a mask (0/1) and a true alpha (0..255) at half. */
export function intersectionOverUnion(mask: Bytes, alpha: Bytes): number {
  let both = 0;
  let either = 0;
  for (let i = 0; i < mask.data.length; i++) {
    const a = mask.data[i]! > 0;
    const b = alpha.data[i]! > 127;
    if (a && b) both++;
    if (a || b) either++;
  }
  return either === 0 ? 1 : both / either;
}

/** Sum of absolute differences of two alphas, in whole pixels. */
export function alphaDifference(a: Bytes, b: Bytes): number {
  let sum = 0;
  for (let i = 0; i < a.data.length; i++) sum += Math.abs(a.data[i]! - b.data[i]!);
  return sum / 255;
}

/**
 * Mean absolute error (bytes) of a recomposition on a new colour against the true one, over the true edge's pixels.
 * @param truth alpha of the subject, and what it alone adds to the picture
 */
export function recompositionError(
  piece: Rgba,
  { front, alpha }: { front: Rgba; alpha: Bytes },
  ground: [number, number, number],
): number {
  let sum = 0;
  let n = 0;
  for (let i = 0; i < alpha.data.length; i++) {
    const a = alpha.data[i]! / 255;
    if (a < 0.02 || a > 0.98) continue;
    const e = piece.data[i * 4 + 3]! / 255;
    for (let k = 0; k < 3; k++) {
      const want = Math.min(255, front.data[i * 4 + k]! + ground[k]! * (1 - a));
      const got = piece.data[i * 4 + k]! * e + ground[k]! * (1 - e);
      sum += Math.abs(want - got);
      n++;
    }
  }
  return n === 0 ? 0 : sum / n;
}

/** Mean absolute luma gradient inside a mask. */
export function gradientEnergy(picture: Rgba, inside: (i: number) => boolean): number {
  const { width, height, data } = picture;
  const luma = (i: number): number => 0.2126 * data[i * 4]! + 0.7152 * data[i * 4 + 1]! + 0.0722 * data[i * 4 + 2]!;
  let sum = 0;
  let n = 0;
  for (let y = 0; y + 1 < height; y++) {
    for (let x = 0; x + 1 < width; x++) {
      const i = y * width + x;
      if (!inside(i) || !inside(i + 1) || !inside(i + width)) continue;
      sum += Math.abs(luma(i) - luma(i + 1)) + Math.abs(luma(i) - luma(i + width));
      n++;
    }
  }
  return n === 0 ? 0 : sum / n;
}

/** Peak signal to noise ratio inside a mask, decibels. */
export function psnr(a: Rgba, b: Rgba, mask: Bytes): number {
  let sum = 0;
  let n = 0;
  for (let i = 0; i < mask.data.length; i++) {
    if (!mask.data[i]) continue;
    for (let k = 0; k < 3; k++) sum += (a.data[i * 4 + k]! - b.data[i * 4 + k]!) ** 2;
    n += 3;
  }
  return n === 0 || sum === 0 ? Infinity : 10 * Math.log10((255 * 255 * n) / sum);
}

export const mean = (values: number[]): number => values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length);
export const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
