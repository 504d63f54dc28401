import { makeBytes, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';

/** Intersection over union of two masks of the same size, 0/1; 0 where both are empty. */
export function overlap(a: Bytes, b: Bytes): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < a.data.length; i++) {
    both += a.data[i]! & b.data[i]!;
    either += a.data[i]! | b.data[i]!;
  }
  return either === 0 ? 0 : both / either;
}

/** 1 where a plane lies above a threshold, elsewhere 0. */
export function above({ width, height, data }: Plane, threshold: number): Bytes {
  const mask = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) if (data[i]! > threshold) mask.data[i] = 1;
  return mask;
}

/**
 * 0 where inside and outside have the same colours, 1 where they share none (Bhattacharyya 1943, over 512 colours).
 * @param mask 0/1  @param within where pixels count, 0/1; everywhere when it is left out
 */
export function colourGap({ data }: Rgba, mask: Bytes, within?: Bytes): number {
  const histograms = [new Float64Array(512), new Float64Array(512)] as const;
  const counts = [0, 0];
  for (let i = 0; i < mask.data.length; i++) {
    if (within && !within.data[i]) continue;
    const colour = (data[i * 4]! >> 5) * 64 + (data[i * 4 + 1]! >> 5) * 8 + (data[i * 4 + 2]! >> 5);
    histograms[mask.data[i]! as 0 | 1][colour]! += 1;
    counts[mask.data[i]!]! += 1;
  }
  let shared = 0;
  for (let k = 0; k < 512; k++) shared += Math.sqrt(histograms[0][k]! * histograms[1][k]!);
  return 1 - shared / Math.sqrt(Math.max(1, counts[0]! * counts[1]!));
}

/** A border of a thing stands out where colours on both sides of it are this far apart (of 442 in sRGB). */
const standsOut = 40;

export interface Border {
  /** Pairs of pixels of which one lies inside and one outside. */
  length: number;
  /** Share of them at which colours differ clearly, two pixels to either side, 0..1. */
  strength: number;
}

/** The border of a mask (0/1) within a picture; what touches the picture's frame is no border. */
export function borderOf({ width, height, data }: Rgba, mask: Bytes): Border {
  const clamped = (x: number, y: number): number =>
    4 * (Math.max(0, Math.min(height - 1, y)) * width + Math.max(0, Math.min(width - 1, x)));
  let [length, strong] = [0, 0];
  const meet = (x: number, y: number, dx: number, dy: number): void => {
    if (x + dx >= width || y + dy >= height) return;
    if (mask.data[y * width + x] === mask.data[(y + dy) * width + x + dx]) return;
    const [a, b] = [clamped(x - dx, y - dy), clamped(x + 2 * dx, y + 2 * dy)];
    length++;
    if (Math.hypot(data[a]! - data[b]!, data[a + 1]! - data[b + 1]!, data[a + 2]! - data[b + 2]!) > standsOut) strong++;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      meet(x, y, 1, 0);
      meet(x, y, 0, 1);
    }
  return { length, strength: length === 0 ? 0 : strong / length };
}
