import { boxBlur } from '../pixels/filters.ts';
import { makePlane, type Plane } from '../pixels/raster.ts';
import type { FinishPixels } from './finish.ts';

/** Maps the three channels of every pixel that is not wholly clear; `change` writes into the triple it is given. */
export function eachColour({ data }: FinishPixels, change: (rgb: [number, number, number]) => void): void {
  const rgb: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] === 0) continue;
    rgb[0] = data[i]!;
    rgb[1] = data[i + 1]!;
    rgb[2] = data[i + 2]!;
    change(rgb);
    data[i] = rgb[0];
    data[i + 1] = rgb[1];
    data[i + 2] = rgb[2];
  }
}

/** Puts every channel through its table of 256 entries. */
export function throughTables({ data }: FinishPixels, tables: readonly ArrayLike<number>[]): void {
  const [red, green, blue] = [tables[0]!, tables[1] ?? tables[0]!, tables[2] ?? tables[0]!];
  for (let i = 0; i < data.length; i += 4) {
    data[i] = red[data[i]!]!;
    data[i + 1] = green[data[i + 1]!]!;
    data[i + 2] = blue[data[i + 2]!]!;
  }
}

/** Alpha as numbers 0..1. */
export function alphaPlane({ data, width, height }: FinishPixels): Plane {
  const out = makePlane(width, height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = data[i * 4 + 3]! / 255;
  return out;
}

/** Means of 2 x 2; at an odd end the last ones again. */
function halvedPlane({ data, width, height }: Plane): Plane {
  const out = makePlane((width + 1) >> 1, (height + 1) >> 1);
  for (let y = 0; y < out.height; y++) {
    const [a, b] = [2 * y * width, Math.min(height - 1, 2 * y + 1) * width];
    for (let x = 0; x < out.width; x++) {
      const [u, v] = [2 * x, Math.min(width - 1, 2 * x + 1)];
      out.data[y * out.width + x] = (data[a + u]! + data[a + v]! + data[b + u]! + data[b + v]!) / 4;
    }
  }
  return out;
}

/** Twice as large, between the middles of its pixels (bilinear). */
function enlarged({ data, width, height }: Plane, to: Plane): Plane {
  const out = makePlane(to.width, to.height);
  for (let y = 0; y < out.height; y++) {
    const v = Math.max(0, Math.min(height - 1, y / 2 - 0.25));
    const top = Math.floor(v);
    const [a, b, fy] = [top * width, Math.min(height - 1, top + 1) * width, v - top];
    for (let x = 0; x < out.width; x++) {
      const u = Math.max(0, Math.min(width - 1, x / 2 - 0.25));
      const left = Math.floor(u);
      const [right, fx] = [Math.min(width - 1, left + 1), u - left];
      const upper = data[a + left]! + (data[a + right]! - data[a + left]!) * fx;
      const lower = data[b + left]! + (data[b + right]! - data[b + left]!) * fx;
      out.data[y * out.width + x] = upper + (lower - upper) * fy;
    }
  }
  return out;
}

/** Gaussian blur by its own weights, edges repeated. */
function convolved({ data, width, height }: Plane, sigma: number): Plane {
  const reach = Math.ceil(3 * sigma);
  const weights = Float32Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-((k - reach) ** 2) / (2 * sigma ** 2)),
  );
  const total = weights.reduce((a, b) => a + b);
  const along = (from: Float32Array, step: number, count: number, lines: number, stride: number): Float32Array => {
    const out = new Float32Array(from.length);
    for (let n = 0; n < lines; n++)
      for (let k = 0; k < count; k++) {
        let sum = 0;
        for (let w = -reach; w <= reach; w++) {
          const at = k + w < 0 ? 0 : k + w >= count ? count - 1 : k + w;
          sum += weights[w + reach]! * from[n * stride + at * step]!;
        }
        out[n * stride + k * step] = sum / total;
      }
    return out;
  };
  const rows = along(data, 1, width, height, width);
  return { width, height, data: along(rows, width, height, width, 1) };
}

/**
 * Gaussian blur by three box means (Wells 1986; widths after Kutskir), edges repeated.
 * @param sigma standard deviation in pixels
 */
export function gaussian(plane: Plane, sigma: number): Plane {
  if (sigma < 0.3) return plane;
  // Boxes of few pixels leave a grid that sharpening finishes bring out.
  if (sigma < 2.6) return convolved(plane, sigma);
  // So soft a blur holds nothing that half the size would not: the variance of halving and enlarging is taken off it.
  if (sigma > 7 && Math.min(plane.width, plane.height) > 8 * sigma)
    return enlarged(gaussian(halvedPlane(plane), Math.sqrt(sigma * sigma - 0.5) / 2), plane);
  const ideal = Math.sqrt(4 * sigma * sigma + 1);
  let lower = Math.floor(ideal);
  if (lower % 2 === 0) lower--;
  const few = Math.round((12 * sigma * sigma - 3 * lower * lower - 12 * lower - 9) / (-4 * lower - 4));
  let out = plane;
  for (let k = 0; k < 3; k++) out = boxBlur(out, ((k < few ? lower : lower + 2) - 1) / 2);
  return out;
}

/** Four premultiplied channels 0..1, blurred with their alpha so that no colour of clear pixels shines in. */
export function premultiplied({ data, width, height }: FinishPixels): [Plane, Plane, Plane, Plane] {
  const planes = [0, 1, 2, 3].map(() => makePlane(width, height)) as [Plane, Plane, Plane, Plane];
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const alpha = data[i + 3]! / 255;
    for (let c = 0; c < 3; c++) planes[c]!.data[k] = (data[i + c]! / 255) * alpha;
    planes[3].data[k] = alpha;
  }
  return planes;
}

/** Writes premultiplied channels back, dithered by less than a step so that soft ramps show no bands. */
export function writeBack({ data, width }: FinishPixels, planes: readonly [Plane, Plane, Plane, Plane]): void {
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const alpha = planes[3].data[k]!;
    const noise = ditherAt(k % width, Math.floor(k / width));
    data[i + 3] = alpha * 255 + (alpha > 0 && alpha < 1 ? noise : 0);
    if (alpha <= 0) continue;
    for (let c = 0; c < 3; c++) data[i + c] = (planes[c]!.data[k]! / alpha) * 255 + noise;
  }
}

/** Adds straight pixels, premultiplied and times a weight, to a sum of four numbers a pixel (0..255). */
export function addPremultiplied(sum: Float32Array, data: Uint8ClampedArray, weight: number): void {
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

/** Writes such a sum as straight pixels, dithered. */
export function writePremultiplied(data: Uint8ClampedArray, sum: Float32Array, width: number): void {
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const alpha = sum[i + 3]! / 255;
    const noise = ditherAt(k % width, Math.floor(k / width));
    data[i + 3] = sum[i + 3]! + (alpha > 0 && alpha < 1 ? noise : 0);
    if (alpha > 0) for (let c = 0; c < 3; c++) data[i + c] = sum[i + c]! / alpha + noise;
  }
}

/** Ordered dither of -0.5..0.5 that has no visible pattern: interleaved gradient noise (Jimenez 2014). */
export function ditherAt(x: number, y: number): number {
  const v = 52.9829189 * ((0.06711056 * x + 0.00583715 * y) % 1);
  return v - Math.floor(v) - 0.5;
}

/** Lays a colour with a coverage under what is there (Porter & Duff destination-over), dithered. */
export function layUnder({ data, width }: FinishPixels, coverage: Plane, colour: readonly number[]): void {
  const opacity = colour[3] ?? 1;
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const under = coverage.data[k]! * opacity;
    const own = data[i + 3]! / 255;
    if (under <= 0.001 || own >= 1) continue;
    const added = under * (1 - own);
    const alpha = own + added;
    const noise = ditherAt(k % width, Math.floor(k / width));
    for (let c = 0; c < 3; c++) data[i + c] = (data[i + c]! * own + colour[c]! * added) / alpha;
    data[i + 3] = alpha * 255 + (own === 0 ? noise * Math.min(1, under * 8) : 0);
  }
}

/** Lays a colour with a coverage over what is there (source-over). */
export function layOver({ data }: FinishPixels, coverage: Plane, colour: readonly number[]): void {
  const opacity = colour[3] ?? 1;
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const over = coverage.data[k]! * opacity;
    if (over <= 0.001) continue;
    const own = data[i + 3]! / 255;
    const kept = own * (1 - over);
    const alpha = over + kept;
    for (let c = 0; c < 3; c++) data[i + c] = (colour[c]! * over + data[i + c]! * kept) / alpha;
    data[i + 3] = alpha * 255;
  }
}

/** Lays a colour with a coverage over what is there and nowhere else (source-atop): alpha stays. */
export function layAtop({ data }: FinishPixels, coverage: Plane, colour: readonly number[]): void {
  const opacity = colour[3] ?? 1;
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const over = coverage.data[k]! * opacity;
    if (over <= 0.001 || data[i + 3] === 0) continue;
    for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! + (colour[c]! - data[i + c]!) * over;
  }
}

/** The same plane moved by whole pixels; what comes in is 0. */
export function shifted(plane: Plane, dx: number, dy: number): Plane {
  const { width, height } = plane;
  const out = makePlane(width, height);
  const [x0, y0] = [Math.round(dx), Math.round(dy)];
  for (let y = Math.max(0, y0); y < Math.min(height, height + y0); y++) {
    const from = (y - y0) * width;
    for (let x = Math.max(0, x0); x < Math.min(width, width + x0); x++)
      out.data[y * width + x] = plane.data[from + x - x0]!;
  }
  return out;
}

/** Light of a colour, 0..255 (ITU-R BT.709 weights on the values as they are). */
export const lightOf = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** A number of 0..1 for whole numbers, the same on every machine: an integer hash (Wellons' lowbias32). */
export function hash(a: number, b: number, c: number): number {
  let h = (Math.imul(a | 0, 0x9e3779b1) ^ Math.imul(b | 0, 0x85ebca6b) ^ Math.imul(c | 0, 0xc2b2ae35)) >>> 0;
  h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}
