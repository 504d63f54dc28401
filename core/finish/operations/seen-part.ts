import type { FinishPixels } from '../finish.ts';
import { kernelOf, laid, pixelsLike } from './memory.ts';

/** A rectangle of pixels, its right and bottom not in it. */
export interface Part {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** So much of a picture is not worth being taken out of it. */
const nearlyAll = 0.9;

/** The part of a picture that is not clear; null where all of it is. */
export function seenPart({ data, width, height }: FinishPixels): Part | null {
  const kernel = kernelOf(data);
  let seen: Part = { left: width, top: height, right: 0, bottom: 0 };
  const byKernel = (at: number): void => {
    kernel!.seenPart(data.byteOffset, width, height, at);
    const [left, top, right, bottom] = new Int32Array(kernel!.memory.buffer, at, 4) as unknown as Sides;
    seen = { left, top, right, bottom };
  };
  if (!kernel || !laid([16], byKernel)) seen = plainPart(data, width, height);
  return seen.right > seen.left ? seen : null;
}

type Sides = [number, number, number, number];

function plainPart(data: Uint8ClampedArray, width: number, height: number): Part {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (data[(y * width + x) * 4 + 3] === 0) continue;
      [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
      [top, bottom] = [Math.min(top, y), y + 1];
    }
  return { left, top, right, bottom };
}

export const grownPart = ({ left, top, right, bottom }: Part, by: number): Part => ({
  left: left - by,
  top: top - by,
  right: right + by,
  bottom: bottom + by,
});

/**
 * Works on the part of a picture to which what is seen of it spreads; the rest stays clear.
 * @param spread the part over which one that is seen spreads
 * @param work is given that part, and where its corner lies
 */
export function whereSeen(
  pixels: FinishPixels,
  spread: (seen: Part) => Part,
  work: (part: FinishPixels, left: number, top: number) => void,
): void {
  const { data, width, height } = pixels;
  const seen = seenPart(pixels);
  if (!seen) return;
  const wide = spread(seen);
  const [left, top] = [Math.max(0, Math.floor(wide.left)), Math.max(0, Math.floor(wide.top))];
  const [right, bottom] = [Math.min(width, Math.ceil(wide.right)), Math.min(height, Math.ceil(wide.bottom))];
  const own = { width: right - left, height: bottom - top };
  if (own.width * own.height > nearlyAll * width * height) return work(pixels, 0, 0);
  const part = pixelsLike(pixels, own.width, own.height);
  const rowOf = (y: number): number => ((top + y) * width + left) * 4;
  for (let y = 0; y < own.height; y++)
    part.data.set(data.subarray(rowOf(y), rowOf(y) + own.width * 4), y * own.width * 4);
  work(part, left, top);
  for (let y = 0; y < own.height; y++)
    data.set(part.data.subarray(y * own.width * 4, (y + 1) * own.width * 4), rowOf(y));
}
