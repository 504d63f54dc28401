import { lumaOf } from '../pixels/color.ts';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import type { ColourSampling } from './colour-sampling.ts';

/**
 * Mean colours of 2 x 2 pixels, as brightness and how far blue and red lie from it, bytes. A key measures screen and subject
 * on them: they hold less noise than pixels do, and all the colour there is in a picture that stores it at half size.
 */
export interface Blocks {
  width: number;
  height: number;
  luma: Float32Array;
  /** Blue less luma. */
  blue: Float32Array;
  /** Red less luma. */
  red: Float32Array;
}

/** Blocks along a side of a cell, the unit in which screen and subject colours are known. */
export const cellBlocks = 4;
/** Pixels along a side of a cell. */
export const cellPixels = 2 * cellBlocks;

/** Weights of the four pixels around a block that give the one sample they were blended from: blending is 3 to 1. */
const unblend = [-0.25, 0.75, 0.75, -0.25] as const;

/** @param sampling blended colour is taken back to the sample it came from, which its neighbours are mixed into otherwise */
export function blocksOf(picture: Rgba, sampling: ColourSampling): Blocks {
  const { width, height, data } = picture;
  const blocks = emptyBlocks((width + 1) >> 1, (height + 1) >> 1);
  const [rows, columns] = [neighbours(height), neighbours(width)];
  for (let by = 0, i = 0; by < blocks.height; by++) {
    for (let bx = 0; bx < blocks.width; bx++, i++) {
      let [r, g, b, luma] = [0, 0, 0, 0];
      for (let v = 0; v < 4; v++) {
        const row = rows[by * 4 + v]! * width;
        for (let u = 0; u < 4; u++) {
          const inside = u > 0 && u < 3 && v > 0 && v < 3;
          if (!inside && sampling !== 'blended') continue;
          const o = (row + columns[bx * 4 + u]!) * 4;
          const w = sampling === 'blended' ? unblend[u]! * unblend[v]! : 0.25;
          r += w * data[o]!;
          g += w * data[o + 1]!;
          b += w * data[o + 2]!;
          if (inside) luma += 0.25 * lumaOf(data[o]!, data[o + 1]!, data[o + 2]!);
        }
      }
      const grey = lumaOf(r, g, b);
      blocks.luma[i] = luma;
      blocks.blue[i] = b - grey;
      blocks.red[i] = r - grey;
    }
  }
  return blocks;
}

export function emptyBlocks(width: number, height: number): Blocks {
  const plane = (): Float32Array => new Float32Array(width * height);
  return { width, height, luma: plane(), blue: plane(), red: plane() };
}

/** For every pair of pixels along a side: the pixel before it, both, and the one after, the last repeated at the borders. */
function neighbours(length: number): Int32Array {
  const out = new Int32Array(((length + 1) >> 1) * 4);
  for (let k = 0; k < out.length; k++) out[k] = Math.max(0, Math.min(length - 1, 2 * (k >> 2) + (k & 3) - 1));
  return out;
}

/** The cell of a block. */
export function cellOf(blocks: Blocks, block: number): number {
  const x = block % blocks.width;
  const y = (block / blocks.width) | 0;
  return ((y / cellBlocks) | 0) * Math.ceil(blocks.width / cellBlocks) + ((x / cellBlocks) | 0);
}

/** A small picture of the blocks, one pixel for each cell. */
export function smallPicture(blocks: Blocks): Rgba {
  const small = makeRgba(Math.ceil(blocks.width / cellBlocks), Math.ceil(blocks.height / cellBlocks));
  const sums = new Float32Array(small.width * small.height * 4);
  for (let i = 0; i < blocks.luma.length; i++) {
    const o = cellOf(blocks, i) * 4;
    sums[o] = sums[o]! + blocks.luma[i]!;
    sums[o + 1] = sums[o + 1]! + blocks.blue[i]!;
    sums[o + 2] = sums[o + 2]! + blocks.red[i]!;
    sums[o + 3] = sums[o + 3]! + 1;
  }
  for (let o = 0; o < sums.length; o += 4) {
    const n = sums[o + 3]!;
    small.data.set(rgbOf(sums[o]! / n, sums[o + 1]! / n, sums[o + 2]! / n), o);
    small.data[o + 3] = 255;
  }
  return small;
}

/** Index of a block; those at the borders are repeated beyond them. */
export function indexAt({ width, height }: { width: number; height: number }, bx: number, by: number): number {
  return Math.max(0, Math.min(height - 1, by)) * width + Math.max(0, Math.min(width - 1, bx));
}

/** The least and the most of a block's value and those of the eight around it. */
export function rangeAround(blocks: Blocks, values: Float32Array, bx: number, by: number): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const value = values[indexAt(blocks, bx + dx, by + dy)]!;
      least = Math.min(least, value);
      most = Math.max(most, value);
    }
  }
  return [least, most];
}

/** Red, green and blue of a colour that is given as luma and the distances of blue and red from it. */
export function rgbOf(luma: number, blue: number, red: number): [number, number, number] {
  const r = luma + red;
  const b = luma + blue;
  return [r, (luma - 0.2126 * r - 0.0722 * b) / 0.7152, b];
}
