import type { Plane } from '../../pixels/raster.ts';
import type { FinishPixels } from '../finish.ts';
import { floatsLike, kernelOf, laid } from './memory.ts';
import { ditherAt } from './noise.ts';

/** Alpha as numbers 0..1. */
export function alphaPlane(pixels: FinishPixels): Plane {
  const out = floatsLike(pixels);
  const { data } = pixels;
  const kernel = kernelOf(data, out.data);
  if (kernel) kernel.alphaOf(data.byteOffset, out.data.length, out.data.byteOffset);
  else for (let i = 0; i < out.data.length; i++) out.data[i] = data[i * 4 + 3]! / 255;
  return out;
}

/** Alpha moved by whole pixels; what comes in is 0. */
export function shiftedAlpha(pixels: FinishPixels, dx: number, dy: number): Plane {
  const alpha = alphaPlane(pixels);
  const [x0, y0] = [Math.round(dx), Math.round(dy)];
  if (x0 === 0 && y0 === 0) return alpha;
  const { width, height } = alpha;
  const out = floatsLike(pixels);
  const kernel = kernelOf(alpha.data, out.data);
  if (kernel) kernel.shift(alpha.data.byteOffset, width, height, x0, y0, out.data.byteOffset);
  else
    for (let y = Math.max(0, y0); y < Math.min(height, height + y0); y++) {
      const from = (y - y0) * width;
      for (let x = Math.max(0, x0); x < Math.min(width, width + x0); x++)
        out.data[y * width + x] = alpha.data[from + x - x0]!;
    }
  return out;
}

const tableSteps = 4096;

/** Puts every value 0..1 through a function, in place: by a table between whose entries it is mixed. */
export function throughCurve({ data }: Plane, curve: (value: number) => number): void {
  const table = Float32Array.from({ length: tableSteps + 1 }, (_, n) => curve(n / tableSteps));
  const kernel = kernelOf(data);
  if (kernel && laid([table], (at) => kernel.throughTable(data.byteOffset, data.length, at, tableSteps))) return;
  for (let k = 0; k < data.length; k++) {
    const place = Math.max(0, Math.min(1, data[k]!)) * tableSteps;
    const n = Math.min(tableSteps - 1, Math.floor(place));
    data[k] = table[n]! + (table[n + 1]! - table[n]!) * (place - n);
  }
}

/** a - b, never below 0, written into b. */
export function difference(a: Plane, b: Plane): void {
  const kernel = kernelOf(a.data, b.data);
  if (kernel) return kernel.difference(a.data.byteOffset, b.data.byteOffset, b.data.length);
  for (let k = 0; k < b.data.length; k++) b.data[k] = Math.max(0, a.data[k]! - b.data[k]!);
}

/** 1 between two distances from the edge, falling to 0 over `soft` pixels about both (at least one), in place. */
export function band({ data }: Plane, from: number, to: number, soft: number): void {
  const ramp = Math.max(1, soft);
  const kernel = kernelOf(data);
  if (kernel) return kernel.band(data.byteOffset, data.length, from, to, ramp);
  for (let k = 0; k < data.length; k++) {
    const d = data[k]!;
    data[k] = Math.max(0, Math.min(1, (d - from) / ramp + 0.5)) * Math.max(0, Math.min(1, (to - d) / ramp + 0.5));
  }
}

/** Mixes three planes into the third by how far each place is: the first at 0, the second at 1/2, the third at 1. */
export function mixThree(near: Plane, middle: Plane, far: Plane, place: Plane): void {
  const planes = [near, middle, far, place].map((plane) => plane.data);
  const kernel = kernelOf(...planes);
  const [a, b, out, places] = planes as [Float32Array, Float32Array, Float32Array, Float32Array];
  if (kernel) return kernel.mixThree(a.byteOffset, b.byteOffset, out.byteOffset, out.length, places.byteOffset);
  for (let k = 0; k < out.length; k++) {
    const share = Math.max(0, Math.min(2, 2 * places[k]!));
    out[k] = share > 1 ? b[k]! + (out[k]! - b[k]!) * (share - 1) : a[k]! + (b[k]! - a[k]!) * share;
  }
}

type Colour = readonly number[];
type Laying = 'layUnder' | 'layOver' | 'layAtop';

/** Lays by the kernel; false where it cannot. */
function laidByKernel(way: Laying, { data, width, height }: FinishPixels, coverage: Plane, colour: Colour): boolean {
  const kernel = kernelOf(data, coverage.data);
  if (!kernel) return false;
  const size = way === 'layUnder' ? [width, height] : [width * height];
  const [r, g, b, opacity] = colour;
  kernel[way](data.byteOffset, ...size, coverage.data.byteOffset, r!, g!, b!, opacity ?? 1);
  return true;
}

/** Lays a colour with a coverage under what is there (Porter & Duff destination-over), dithered. */
export function layUnder(pixels: FinishPixels, coverage: Plane, colour: Colour): void {
  if (laidByKernel('layUnder', pixels, coverage, colour)) return;
  const { data, width } = pixels;
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
export function layOver(pixels: FinishPixels, coverage: Plane, colour: Colour): void {
  if (laidByKernel('layOver', pixels, coverage, colour)) return;
  const { data } = pixels;
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
export function layAtop(pixels: FinishPixels, coverage: Plane, colour: Colour): void {
  if (laidByKernel('layAtop', pixels, coverage, colour)) return;
  const { data } = pixels;
  const opacity = colour[3] ?? 1;
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const over = coverage.data[k]! * opacity;
    if (over <= 0.001 || data[i + 3] === 0) continue;
    for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! + (colour[c]! - data[i + c]!) * over;
  }
}
