import { dilate } from '../pixels/distance.ts';
import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Bytes, Rgba } from '../pixels/raster.ts';

/** A straight edge of a picture, in its pixels. */
export interface Segment {
  from: readonly [number, number];
  to: readonly [number, number];
  length: number;
  /** Mean change of colour across it, 0..255. */
  strength: number;
  /** Unit direction in which it gets brighter. */
  brighter: readonly [number, number];
}

/** Difference of brightness over two pixels, 0..255, from which a place can belong to an edge. */
const leastEdge = 7;
/** How far the direction at a place may lie from that of its edge, as cosine: 22.5 degrees. */
const sameWay = Math.cos(Math.PI / 8);
/** More than the pixels of any picture that is looked at. */
const placesAtMost = 2 ** 21;
/** Pixels that an edge is long at least, and wide at most. */
const [leastLength, mostWidth] = [14, 2];

/**
 * Straight edges outside a hole: places whose brightness changes the same way are joined to regions, and those that are long
 * and thin are edges (after R. Grompone von Gioi and others 2010, LSD).
 * @param picture of fewer than two million pixels  @param hole 1 where it is not known
 * @throws Cancelled
 */
export async function segmentsOf(picture: Rgba, hole: Bytes, progress?: Progress): Promise<Segment[]> {
  const field = gradientOf(picture, hole);
  await checkpoint(progress);
  const order = strongestFirst(field.strength);
  const used = new Uint8Array(field.strength.length);
  const out: Segment[] = [];
  for (const [n, seed] of order.entries()) {
    if (n % 20_000 === 0) await checkpoint(progress);
    if (used[seed]) continue;
    const region = grown(field, used, seed);
    if (region.length < leastLength) continue;
    const one = fitted(region, field);
    if (one) out.push(one);
  }
  return out;
}

/** Places that can belong to an edge; of two that are as strong the first in the picture. */
function strongestFirst(strength: Float32Array): Int32Array {
  const places: number[] = [];
  for (let i = 0; i < strength.length; i++) if (strength[i]! >= leastEdge) places.push(i);
  // A whole number for each, by which numbers are sorted fast: bits of floats above 0 are in their order.
  const bits = new Uint32Array(strength.buffer, strength.byteOffset, strength.length);
  const keys = Float64Array.from(places, (i) => (0x7fffffff - bits[i]!) * placesAtMost + i);
  return Int32Array.from(keys.sort(), (key) => key % placesAtMost);
}

interface Field {
  width: number;
  height: number;
  strength: Float32Array;
  /** Unit direction in which it gets brighter. */
  across: Float32Array;
  along: Float32Array;
}

/** Change of colour at each place, from the channel that changes most; none in the hole, at its rim and at the border. */
function gradientOf({ width, height, data }: Rgba, hole: Bytes): Field {
  const near = dilate(hole, 2).data;
  const strength = new Float32Array(width * height);
  const across = new Float32Array(width * height);
  const along = new Float32Array(width * height);
  const row = 4 * width;
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      if (near[i]) continue;
      for (let p = 4 * i; p < 4 * i + 3; p++) {
        // Sobel's kernel, as means: a step of one gives one.
        const falling = data[p + row + 4]! - data[p - row - 4]!;
        const rising = data[p - row + 4]! - data[p + row - 4]!;
        const gx = (falling + rising + 2 * (data[p + 4]! - data[p - 4]!)) / 4;
        const gy = (falling - rising + 2 * (data[p + row]! - data[p - row]!)) / 4;
        const g = Math.sqrt(gx * gx + gy * gy);
        if (g <= strength[i]!) continue;
        strength[i] = g;
        across[i] = gx / g;
        along[i] = gy / g;
      }
    }
  }
  return { width, height, strength, across, along };
}

/** The places around a seed that change the same way as it and its neighbours; they are used up. */
function grown({ width, strength, across, along }: Field, used: Uint8Array, seed: number): number[] {
  const region = [seed];
  used[seed] = 1;
  let [x, y] = [across[seed]!, along[seed]!];
  for (let k = 0; k < region.length; k++) {
    for (let n = 0; n < 9; n++) {
      const i = region[k]! + ((n / 3) | 0) * width - width + (n % 3) - 1;
      if (used[i] || strength[i]! < leastEdge) continue;
      if (x * across[i]! + y * along[i]! < sameWay * Math.sqrt(x * x + y * y)) continue;
      used[i] = 1;
      region.push(i);
      x += across[i]!;
      y += along[i]!;
    }
  }
  return region;
}

/** The line through a region, weighted by strength; null where the region is too wide or too short for one. */
function fitted(region: readonly number[], { width, strength, across, along }: Field): Segment | null {
  let [sum, mx, my, bx, by] = [0, 0, 0, 0, 0];
  for (const i of region) {
    const w = strength[i]!;
    sum += w;
    mx += w * (i % width);
    my += w * Math.floor(i / width);
    bx += w * across[i]!;
    by += w * along[i]!;
  }
  [mx, my] = [mx / sum, my / sum];
  let [xx, xy, yy] = [0, 0, 0];
  for (const i of region) {
    const [dx, dy, w] = [(i % width) - mx, Math.floor(i / width) - my, strength[i]!];
    xx += w * dx * dx;
    xy += w * dx * dy;
    yy += w * dy * dy;
  }
  const turn = 0.5 * Math.atan2(2 * xy, xx - yy);
  const [dx, dy] = [Math.cos(turn), Math.sin(turn)];
  let [first, last, wide] = [Infinity, -Infinity, 0];
  for (const i of region) {
    const [x, y] = [(i % width) - mx, Math.floor(i / width) - my];
    const s = x * dx + y * dy;
    first = Math.min(first, s);
    last = Math.max(last, s);
    wide += strength[i]! * (y * dx - x * dy) ** 2;
  }
  const length = last - first;
  if (length < leastLength || Math.sqrt(wide / sum) > mostWidth) return null;
  const b = Math.hypot(bx, by);
  return {
    from: [mx + dx * first, my + dy * first],
    to: [mx + dx * last, my + dy * last],
    length,
    strength: sum / region.length,
    brighter: [bx / b, by / b],
  };
}
