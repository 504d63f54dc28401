import type { Rgba } from './raster.ts';

/** Pixels to each side in which alike surroundings are looked for. */
const searchReach = 4;
/** How many times the noise's variance surroundings may differ beyond what noise alone brings about. */
const tolerance = 2.5;
/** Differences beyond this many tolerances count for nothing. */
const furthest = 8;

/**
 * Non-local means (Buades, Coll & Morel 2005): a pixel becomes the mean of those near it whose 3 x 3 surroundings are like its
 * own as far as noise lets tell. What is unlike keeps apart, so edges and thin things stay.
 * @param sigma standard deviation of the noise, bytes, above 0
 * @param wanted indices of the pixels to be cleaned; the others stay as they are
 */
export function denoised(picture: Rgba, sigma: number, wanted: Iterable<number>): Rgba {
  const { width, height, data } = picture;
  const out = { ...picture, data: data.slice() };
  const variance = sigma * sigma;
  for (const i of wanted) {
    const [x, y] = [i % width, Math.floor(i / width)];
    let [red, green, blue, sum, most] = [0, 0, 0, 0, 1e-3];
    for (let v = Math.max(0, y - searchReach); v <= Math.min(height - 1, y + searchReach); v++) {
      for (let u = Math.max(0, x - searchReach); u <= Math.min(width - 1, x + searchReach); u++) {
        if (u === x && v === y) continue;
        const excess = (differenceAround(picture, x, y, u, v) - 2 * variance) / (tolerance * variance);
        if (excess > furthest) continue;
        const weight = excess > 0 ? Math.exp(-excess) : 1;
        most = Math.max(most, weight);
        const p = (v * width + u) * 4;
        red += weight * data[p]!;
        green += weight * data[p + 1]!;
        blue += weight * data[p + 2]!;
        sum += weight;
      }
    }
    // A pixel is like itself in noise and all; it counts as much as the best of the others.
    const p = i * 4;
    out.data[p] = (red + most * data[p]!) / (sum + most);
    out.data[p + 1] = (green + most * data[p + 1]!) / (sum + most);
    out.data[p + 2] = (blue + most * data[p + 2]!) / (sum + most);
  }
  return out;
}

/** Mean square difference between the 3 x 3 surroundings of two pixels, as far as both lie in the picture. */
function differenceAround({ width, height, data }: Rgba, x: number, y: number, u: number, v: number): number {
  let [sum, count] = [0, 0];
  const [top, bottom] = [-Math.min(1, y, v), Math.min(1, height - 1 - y, height - 1 - v)];
  const [left, right] = [-Math.min(1, x, u), Math.min(1, width - 1 - x, width - 1 - u)];
  for (let dy = top; dy <= bottom; dy++) {
    for (let dx = left; dx <= right; dx++) {
      const p = ((y + dy) * width + x + dx) * 4;
      const q = ((v + dy) * width + u + dx) * 4;
      const [r, g, b] = [data[p]! - data[q]!, data[p + 1]! - data[q + 1]!, data[p + 2]! - data[q + 2]!];
      sum += r * r + g * g + b * b;
      count += 3;
    }
  }
  return sum / count;
}
