import { boxBlur } from '../pixels/filters.ts';
import { lumaOf } from '../pixels/color.ts';
import { makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { averagedTo, halve, halveMask, resizedMask } from '../pixels/resample.ts';

/**
 * Where a point of one picture lies in another: (a x - b y + tx, b x + a y + ty). Points are measured in pixels from the
 * upper left corner of a picture, so that the middle of its first pixel is (0.5, 0.5).
 */
export interface Similarity {
  a: number;
  b: number;
  tx: number;
  ty: number;
}

/** Two pictures at one size. */
export interface Level {
  mine: Plane;
  theirs: Plane;
  ignore: Bytes;
  /** Pixels of the level to one of the pictures as they came. */
  scale: number;
}

/** Longest sides of the picture at which places are searched: alike for all pictures, as the work grows with their fourth power. */
const searchedSizes = [144, 72];
/** Longest side from which the picture is halved no more. */
const halvedSize = 400;

/** Both pictures from their full size to the smallest. */
export function pyramid(picture: Rgba, other: Rgba, ignore: Bytes): Level[] {
  const levels: Level[] = [];
  const add = (p: Rgba, o: Rgba, i: Bytes, scale: number): number =>
    levels.push({ mine: detailOf(p), theirs: detailOf(o), ignore: i, scale });
  let [p, o, i, scale] = [picture, other, ignore, 1];
  for (add(p, o, i, scale); Math.max(p.width, p.height) > halvedSize; add(p, o, i, scale))
    [p, o, i, scale] = [halve(p), halve(o), halveMask(i), scale / 2];
  for (const size of searchedSizes) {
    const share = size / Math.max(p.width, p.height);
    if (share >= 1) continue;
    const sized = ({ width, height }: Rgba): [number, number] => [
      Math.max(1, Math.round(width * share)),
      Math.max(1, Math.round(height * share)),
    ];
    add(averagedTo(p, ...sized(p)), averagedTo(o, ...sized(o)), resizedMask(i, ...sized(p)), scale * share);
  }
  return levels;
}

/** Brightness less its local mean, over its local deviation: what exposure and vignetting do not change. */
function detailOf(picture: Rgba): Plane {
  const { width, height, data } = picture;
  const luma = makePlane(width, height);
  for (let i = 0; i < luma.data.length; i++) luma.data[i] = lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  const radius = Math.max(4, Math.round(Math.max(width, height) / 24));
  const mean = boxBlur(luma, radius).data;
  const square = boxBlur({ width, height, data: luma.data.map((v, i) => (v - mean[i]!) ** 2) }, radius).data;
  return { width, height, data: luma.data.map((v, i) => (v - mean[i]!) / (Math.sqrt(square[i]!) + 6)) };
}

/** Share of the pixels that count that must be seen in both pictures. */
export const leastShared = 0.3;

/** Correlation of the two details where both show something, weighed by how much that is; -1 where it is too little. */
export function likeness({ mine, theirs, ignore }: Level, at: Similarity): number {
  const { width, height, data } = theirs;
  let [both, first, second, n, all] = [0, 0, 0, 0, 0];
  for (let y = 0; y < mine.height; y++) {
    for (let x = 0; x < mine.width; x++) {
      const i = y * mine.width + x;
      if (ignore.data[i]) continue;
      all++;
      const sx = at.a * (x + 0.5) - at.b * (y + 0.5) + at.tx - 0.5;
      const sy = at.b * (x + 0.5) + at.a * (y + 0.5) + at.ty - 0.5;
      if (sx < 0 || sy < 0 || sx >= width - 1 || sy >= height - 1) continue;
      const [ix, iy] = [Math.floor(sx), Math.floor(sy)];
      const [fx, fy] = [sx - ix, sy - iy];
      const o = iy * width + ix;
      const above = data[o]! * (1 - fx) + data[o + 1]! * fx;
      const below = data[o + width]! * (1 - fx) + data[o + width + 1]! * fx;
      const p = mine.data[i]!;
      const q = above * (1 - fy) + below * fy;
      both += p * q;
      first += p * p;
      second += q * q;
      n++;
    }
  }
  return n < all * leastShared ? -1 : (both / Math.sqrt(first * second + 1e-9)) * (n / all) ** 0.25;
}
