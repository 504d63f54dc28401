import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Plane } from '../pixels/raster.ts';
import { leastShared, type Level, type Similarity } from './detail.ts';

/** Where a picture may lie in another, and how like they are there. */
export interface Place {
  at: Similarity;
  likeness: number;
}

/** Sizes and degrees that are tried: so close that steps from one of them reach what lies between. */
const sizes = Array.from({ length: 12 }, (_, k) => 0.7 * 2 ** (k / 11));
const turns = Array.from({ length: 11 }, (_, k) => 2.4 * k - 12);

/** Places that are worth steps, and sizes and turns that are worth a second search. */
const triedPlaces = 100;
const triedTurns = 8;

/** The best places of all sizes and turns, the best first, in pixels of a very small level. */
export async function placesFound(level: Level, progress?: Progress): Promise<Place[]> {
  const base = level.theirs.width / level.mine.width;
  const search = searchIn(level, { stride: 3, step: 2, most: 3 });
  const out: Place[] = [];
  for (const size of sizes) {
    for (const turn of turns) {
      const angle = (turn * Math.PI) / 180;
      const [a, b] = [base * size * Math.cos(angle), base * size * Math.sin(angle)];
      out.push(...(await bestShifts(search, a, b, progress)));
    }
  }
  return out.sort((p, q) => q.likeness - p.likeness).slice(0, triedPlaces);
}

/** More places at the sizes and turns of the best of `places`, at a level where grounds that repeat begin to differ. */
export async function placesNearby(level: Level, places: Place[], progress?: Progress): Promise<Place[]> {
  const search = searchIn(level, { stride: 5, step: 1, most: 10 });
  const out: Place[] = [];
  const tried: Similarity[] = [];
  for (const { at } of places) {
    if (tried.some(({ a, b }) => Math.hypot(a - at.a, b - at.b) < 0.008)) continue;
    tried.push(at);
    out.push(...(await bestShifts(search, at.a, at.b, progress)));
    if (tried.length === triedTurns) break;
  }
  return out;
}

/** How fine a search is: every `stride`-th pixel is compared, at shifts of `step` pixels, and the `most` best are told. */
interface Fineness {
  stride: number;
  step: number;
  most: number;
}

interface Search extends Fineness {
  level: Level;
  around: Bordered;
  /** Steps to either side. */
  across: number;
  down: number;
}

/** A search up to a quarter of the other picture to every side. */
function searchIn(level: Level, fineness: Fineness): Search {
  const { width, height } = level.theirs;
  const [across, down] = [width, height].map((side) => Math.round((0.25 * side) / fineness.step)) as [number, number];
  return { ...fineness, level, across, down, around: bordered(level.theirs, Math.max(across, down) * fineness.step) };
}

/** The shifts at which the pictures are most alike at a size and turn, none beside another. */
async function bestShifts(search: Search, a: number, b: number, progress?: Progress): Promise<Place[]> {
  const { level, stride, step, most, around, across, down } = search;
  const { mine, theirs } = level;
  // Turned and scaled about the middle, then moved.
  const cx = theirs.width / 2 - (a * mine.width - b * mine.height) / 2;
  const cy = theirs.height / 2 - (b * mine.width + a * mine.height) / 2;
  const compared = comparedIn(level, { a, b, tx: cx, ty: cy }, stride, around);
  const wide = 2 * across + 1;
  const score = new Float32Array(wide * (2 * down + 1));
  for (let y = -down; y <= down; y++) {
    await checkpoint(progress);
    for (let x = -across; x <= across; x++)
      score[(y + down) * wide + x + across] = correlation(compared, around, (y * around.width + x) * step);
  }
  const out: Place[] = [];
  const apart = 3 - step;
  for (let k = 0; k < most; k++) {
    let best = 0;
    for (let i = 1; i < score.length; i++) if (score[i]! > score[best]!) best = i;
    if (score[best]! <= 0) break;
    const [x, y] = [best % wide, Math.floor(best / wide)];
    out.push({ at: { a, b, tx: cx + (x - across) * step, ty: cy + (y - down) * step }, likeness: score[best]! });
    for (let v = Math.max(0, y - apart); v <= Math.min(2 * down, y + apart); v++)
      for (let u = Math.max(0, x - apart); u <= Math.min(wide - 1, x + apart); u++) score[v * wide + u] = -1;
  }
  return out;
}

/** Pixels of one picture, and where each lies in the other, which has a border of nothing around it. */
interface Compared {
  value: Float32Array;
  index: Int32Array;
}

/** Every `stride`-th pixel that counts: a search by whole pixels looks up where they lie once, and not for each of its steps. */
function comparedIn({ mine, ignore }: Level, at: Similarity, stride: number, around: Bordered): Compared {
  const most = Math.ceil(mine.width / stride) * Math.ceil(mine.height / stride);
  const [value, index] = [new Float32Array(most), new Int32Array(most)];
  let count = 0;
  for (let y = 0; y < mine.height; y += stride) {
    for (let x = 0; x < mine.width; x += stride) {
      const i = y * mine.width + x;
      if (ignore.data[i]) continue;
      const u = Math.round(at.a * (x + 0.5) - at.b * (y + 0.5) + at.tx - 0.5);
      const v = Math.round(at.b * (x + 0.5) + at.a * (y + 0.5) + at.ty - 0.5);
      value[count] = mine.data[i]!;
      // Farther away than the border is nothing at every shift.
      const [cu, cv] = [
        clamped(u, -around.border, around.inner.width + around.border),
        clamped(v, -around.border, around.inner.height + around.border),
      ];
      index[count++] = (cv + 2 * around.border) * around.width + cu + 2 * around.border;
    }
  }
  return { value: value.subarray(0, count), index: index.subarray(0, count) };
}

const clamped = (v: number, least: number, most: number): number => Math.max(least, Math.min(most, v));

/** A plane inside nothing, twice `border` wide on every side. */
interface Bordered {
  border: number;
  inner: Plane;
  width: number;
  value: Float32Array;
  /** 1 where the plane shows something. */
  shown: Float32Array;
}

function bordered(inner: Plane, border: number): Bordered {
  const [width, height] = [inner.width + 4 * border + 1, inner.height + 4 * border + 1];
  const [value, shown] = [new Float32Array(width * height), new Float32Array(width * height)];
  for (let y = 0; y < inner.height; y++) {
    const at = (y + 2 * border) * width + 2 * border;
    value.set(inner.data.subarray(y * inner.width, (y + 1) * inner.width), at);
    shown.fill(1, at, at + inner.width);
  }
  return { border, inner, width, value, shown };
}

/** Correlation of the two details where both show something, weighed by how much that is; -1 where it is too little. */
function correlation({ value, index }: Compared, around: Bordered, shift: number): number {
  let [both, first, second, n] = [0, 0, 0, 0];
  for (let k = 0; k < value.length; k++) {
    const at = index[k]! + shift;
    const p = value[k]! * around.shown[at]!;
    const q = around.value[at]!;
    both += p * q;
    first += p * p;
    second += q * q;
    n += around.shown[at]!;
  }
  return n < value.length * leastShared ? -1 : (both / Math.sqrt(first * second + 1e-9)) * Math.sqrt(n / value.length);
}
