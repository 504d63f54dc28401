import { boxBlur } from '../../pixels/filters.ts';
import { makePlane, type Plane } from '../../pixels/raster.ts';
import type { FinishPixels } from '../finish.ts';
import { floatsLike, kernelOf, laid, type FinishKernel } from './memory.ts';
import { premultiplied } from './premultiplied.ts';

/** How a blur is made. Boxes of few pixels leave a grid that sharpening finishes bring out: those are convolved. */
type Way =
  | { kind: 'none' }
  | { kind: 'weights'; sides: Float32Array }
  | { kind: 'boxes'; radii: Int32Array }
  | { kind: 'half' };

/** So soft a blur holds nothing that half the size would not. */
const softest = 5;

function wayOf(sigma: number, width: number, height: number): Way {
  if (sigma < 0.3) return { kind: 'none' };
  if (sigma < 2.6) return { kind: 'weights', sides: weightsOf(sigma) };
  if (sigma > softest && Math.min(width, height) > 8 * sigma) return { kind: 'half' };
  return { kind: 'boxes', radii: radiiOf(sigma) };
}

/** Weights of the middle and of the values on one side of it, their sum over both sides 1. */
function weightsOf(sigma: number): Float32Array {
  const one = Array.from({ length: Math.ceil(3 * sigma) + 1 }, (_, k) => Math.exp(-(k ** 2) / (2 * sigma ** 2)));
  const total = one.reduce((a, b) => a + 2 * b);
  return Float32Array.from(one, (w) => w / total);
}

/** Radii of three box means that together vary as much (Wells 1986; widths after Kutskir). */
function radiiOf(sigma: number): Int32Array {
  const ideal = Math.sqrt(4 * sigma * sigma + 1);
  let lower = Math.floor(ideal);
  if (lower % 2 === 0) lower--;
  const few = Math.round((12 * sigma * sigma - 3 * lower * lower - 12 * lower - 9) / (-4 * lower - 4));
  return Int32Array.from([0, 1, 2], (k) => ((k < few ? lower : lower + 2) - 1) / 2);
}

/** The variance of halving and enlarging is taken off. */
const halfSigma = (sigma: number): number => Math.sqrt(sigma * sigma - 0.5) / 2;

/**
 * Gaussian blur in place, of one or four floats a pixel, borders repeated.
 * @param sigma standard deviation in pixels
 */
export function gaussian(plane: Plane, sigma: number): void {
  const { data, width, height } = plane;
  const channels = data.length / (width * height);
  const kernel = kernelOf(data);
  if (kernel && blurByKernel(kernel, data.byteOffset, width, height, channels, sigma)) return;
  if (channels === 1) return void data.set(blurred(plane, sigma).data);
  for (let c = 0; c < channels; c++) {
    const one = makePlane(width, height);
    for (let k = 0; k < one.data.length; k++) one.data[k] = data[k * channels + c]!;
    const made = blurred(one, sigma).data;
    for (let k = 0; k < made.length; k++) data[k * channels + c] = made[k]!;
  }
}

/** Four floats a pixel: half as large as the picture they were made of, or as large. */
export interface SoftColours {
  plane: Plane;
  halved: boolean;
}

/** How something is made of a picture, four floats a pixel: as large as it is, or by the kernel half as large at an address. */
export interface Colours {
  whole(pixels: FinishPixels): Plane;
  halved(kernel: FinishKernel, pixels: FinishPixels, to: number): void;
}

/** Colours times alpha. */
const own: Colours = {
  whole: premultiplied,
  halved: (kernel, { data, width, height }, to) => kernel.halvePremultiplied(data.byteOffset, width, height, to),
};

/**
 * A picture's colours, through a Gaussian blur: half as large where so soft a blur holds no more.
 * @param sigma standard deviation in pixels
 */
export function softColours(pixels: FinishPixels, sigma: number, colours = own): SoftColours {
  const { data, width, height } = pixels;
  const kernel = kernelOf(data);
  if (kernel && wayOf(sigma, width, height).kind === 'half') {
    const half = floatsLike({ data, width: (width + 1) >> 1, height: (height + 1) >> 1 }, 4);
    const at = half.data.byteOffset;
    if (kernelOf(half.data)) {
      colours.halved(kernel, pixels, at);
      if (blurByKernel(kernel, at, half.width, half.height, 4, halfSigma(sigma))) return { plane: half, halved: true };
    }
  }
  const plane = colours.whole(pixels);
  gaussian(plane, sigma);
  return { plane, halved: false };
}

/** False where there is no room. */
function blurByKernel(
  kernel: FinishKernel,
  at: number,
  width: number,
  height: number,
  channels: number,
  sigma: number,
): boolean {
  const way = wayOf(sigma, width, height);
  if (way.kind === 'none') return true;
  if (way.kind === 'half') {
    const [columns, rows] = [(width + 1) >> 1, (height + 1) >> 1];
    let made = false;
    const fits = laid([columns * rows * channels * 4, (columns + 2) * channels * 4 + 64], (half, line) => {
      kernel.halve(at, width, height, channels, half);
      made = blurByKernel(kernel, half, columns, rows, channels, halfSigma(sigma));
      if (made) kernel.enlarge(half, at, width, height, channels, line);
    });
    return fits && made;
  }
  const boxes = way.kind === 'boxes' ? way.radii : null;
  const sides = way.kind === 'weights' ? way.sides : null;
  const ends = 2 + (boxes ? Math.max(...boxes) : sides!.length);
  const lines = 5 * (Math.max(width, height) + 2 * ends) * 16;
  return laid([boxes ?? sides!, lines], (list, room) =>
    kernel.blur(at, width, height, channels, boxes ? list : 0, sides ? list : 0, (sides?.length ?? 1) - 1, room, ends),
  );
}

function blurred(plane: Plane, sigma: number): Plane {
  const way = wayOf(sigma, plane.width, plane.height);
  switch (way.kind) {
    case 'none':
      return plane;
    case 'weights':
      return convolved(plane, way.sides);
    case 'half':
      return enlarged(blurred(halvedPlane(plane), halfSigma(sigma)), plane);
    case 'boxes':
      return way.radii.reduce<Plane>((from, radius) => boxBlur(from, radius), plane);
  }
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

function convolved({ data, width, height }: Plane, sides: Float32Array): Plane {
  const reach = sides.length - 1;
  const along = (from: Float32Array, step: number, count: number, lines: number, stride: number): Float32Array => {
    const out = new Float32Array(from.length);
    for (let n = 0; n < lines; n++)
      for (let k = 0; k < count; k++) {
        let sum = 0;
        for (let w = -reach; w <= reach; w++) {
          const at = Math.max(0, Math.min(count - 1, k + w));
          sum += sides[Math.abs(w)]! * from[n * stride + at * step]!;
        }
        out[n * stride + k * step] = sum;
      }
    return out;
  };
  const rows = along(data, 1, width, height, width);
  return { width, height, data: along(rows, width, height, width, 1) };
}
