import { makeBytes, makeRgba, type Bytes, type Rgba } from './raster.ts';

/**
 * Half the size (rounded up) by averaging 2x2 blocks; an odd last row or column is averaged with itself.
 * Colours are averaged as stored (gamma encoded), which is what the colour models are fitted on.
 */
export function halve(picture: Rgba): Rgba {
  const { width, height, data } = picture;
  const out = makeRgba((width + 1) >> 1, (height + 1) >> 1);
  const made = out.data;
  for (let y = 0; y < out.height; y++) {
    const row0 = y * 2 * width;
    const row1 = Math.min(height - 1, y * 2 + 1) * width;
    for (let x = 0; x < out.width; x++) {
      const x0 = x * 2;
      const x1 = Math.min(width - 1, x0 + 1);
      const o = (y * out.width + x) * 4;
      const a = (row0 + x0) * 4;
      const b = (row0 + x1) * 4;
      const c = (row1 + x0) * 4;
      const d = (row1 + x1) * 4;
      // Written out: this runs over every pixel of every picture and clip.
      made[o] = (data[a]! + data[b]! + data[c]! + data[d]! + 2) >> 2;
      made[o + 1] = (data[a + 1]! + data[b + 1]! + data[c + 1]! + data[d + 1]! + 2) >> 2;
      made[o + 2] = (data[a + 2]! + data[b + 2]! + data[c + 2]! + data[d + 2]! + 2) >> 2;
      made[o + 3] = (data[a + 3]! + data[b + 3]! + data[c + 3]! + data[d + 3]! + 2) >> 2;
    }
  }
  return out;
}

/** Half the size (rounded up) of a mask: a block is set when at least two of its four pixels are. */
export function halveMask(mask: Bytes): Bytes {
  const { width, height, data } = mask;
  const out = makeBytes((width + 1) >> 1, (height + 1) >> 1);
  for (let y = 0; y < out.height; y++) {
    const row0 = y * 2 * width;
    const row1 = Math.min(height - 1, y * 2 + 1) * width;
    for (let x = 0; x < out.width; x++) {
      const x0 = x * 2;
      const x1 = Math.min(width - 1, x0 + 1);
      out.data[y * out.width + x] =
        data[row0 + x0]! + data[row0 + x1]! + data[row1 + x0]! + data[row1 + x1]! >= 2 ? 1 : 0;
    }
  }
  return out;
}

/** Halved as often as needed until its longest side is at most `size`; how often is said by `halvings`. */
export function halvedTo(picture: Rgba, size: number): { picture: Rgba; halvings: number } {
  let halvings = 0;
  let small = picture;
  for (; Math.max(small.width, small.height) > size; halvings++) small = halve(small);
  return { picture: small, halvings };
}
