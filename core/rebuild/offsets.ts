import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { RandomStream } from '../pixels/random.ts';
import { listsOf, patchRadius, type FillLevel } from './fill-level.ts';
import { nearest, patchDistance, type PatchField } from './patch-field.ts';
import { kernelOf } from './patch-memory.ts';

/** How far a copied pixel comes from: source = target + (x, y). */
export interface Offset {
  x: number;
  y: number;
  /** How often it was found, as a share of the most frequent one. */
  share: number;
}

/**
 * The offsets at which the given part of a picture repeats itself most often: tiles, planks, windows, or the direction of
 * a line. He & Sun 2012, "Statistics of Patch Offsets for Image Completion": every known patch finds its best match at
 * some distance, the offsets are counted, and the peaks of the smoothed count are taken.
 * @param most number of offsets wanted; each comes with its opposite
 * @throws Cancelled
 */
export async function dominantOffsets(
  level: FillLevel,
  most: number,
  random: RandomStream,
  progress?: Progress,
): Promise<Offset[]> {
  const match = await matchKnownPatches(level, random, progress);
  const columns = 2 * level.width + 1;
  const count = countedOffsets(level, match, columns);
  await checkpoint(progress);
  const smoothed = smooth(count, columns);
  await checkpoint(progress);
  const found = peaks(smoothed, columns, level.width, level.height);
  await checkpoint(progress);
  return useful(found, level, most);
}

/** How often each offset and its opposite was found, steep places counting more; the one of nothing in the middle. */
function countedOffsets(level: FillLevel, match: Int32Array, columns: number): Float32Array {
  const { width, height } = level;
  const count = new Float32Array(columns * (2 * height + 1));
  for (const t of level.sources) {
    const m = match[t]!;
    if (m < 0) continue;
    const weight = steepness(level, t);
    const x = (m % width) - (t % width);
    const y = ((m / width) | 0) - ((t / width) | 0);
    count[(y + height) * columns + x + width]! += weight;
    count[(height - y) * columns + width - x]! += weight;
  }
  return count;
}

/** For every source patch its best other source patch at least some distance away; -1 where none was met. */
async function matchKnownPatches(
  level: FillLevel,
  random: RandomStream,
  progress: Progress | undefined,
): Promise<Int32Array> {
  const { width, height, sources } = level;
  // What is nearer than the middle of the hole is to its rim cannot reach that middle.
  const holeRadius = Math.sqrt(level.targets.length / Math.PI);
  const away = Math.max(Math.max(width, height) / 15, Math.min(0.8 * holeRadius, Math.max(width, height) / 5));
  const { inRow: match, weight: cost } = listsOf(level);
  match.fill(-1);
  cost.fill(Infinity);
  const field = { match, cost };
  const matchThose = matchingByKernel(level, field, away, random) ?? matchingPlainly(level, field, away, random);
  const blockSize = 1500;
  for (let sweep = 0; sweep < 3; sweep++) {
    for (let from = 0; from < sources.length; from += blockSize) {
      await checkpoint(progress);
      matchThose(sweep, from, Math.min(sources.length, from + blockSize));
    }
  }
  return match;
}

/** Matches the sources from..to - 1 in the order of a sweep. */
type Matching = (sweep: number, from: number, to: number) => void;

/** Null where not all of it lies in the memory of a kernel. */
function matchingByKernel(level: FillLevel, field: PatchField, away: number, random: RandomStream): Matching | null {
  const { width, height, pixels, sources, isSource } = level;
  const kernel = kernelOf(level.room, pixels, sources, isSource, field.match, field.cost);
  if (!kernel) return null;
  return (sweep, from, to) => {
    const left = kernel.matchKnown(
      ...[sources.byteOffset, from, to, sources.length, sweep, width, height, pixels.byteOffset, isSource.byteOffset],
      ...[field.match.byteOffset, field.cost.byteOffset, away, random.left()],
    );
    random.goOnFrom(left);
  };
}

function matchingPlainly(level: FillLevel, { match, cost }: PatchField, away: number, random: RandomStream): Matching {
  const { width, height, sources, isSource } = level;
  const attempt = (t: number, candidate: number): void => {
    if (candidate < 0 || candidate >= isSource.length || !isSource[candidate] || candidate === match[t]) return;
    const dx = (candidate % width) - (t % width);
    const dy = ((candidate / width) | 0) - ((t / width) | 0);
    if (dx * dx + dy * dy < away * away) return;
    const d = patchDistance(level, t, candidate, cost[t]!);
    if (d >= cost[t]!) return;
    cost[t] = d;
    match[t] = candidate;
  };
  return (sweep, from, to) => {
    const back = sweep % 2 === 0 ? -1 : 1;
    for (let k = from; k < to; k++) {
      const t = sources[sweep % 2 === 0 ? k : sources.length - 1 - k]!;
      if (sweep === 0) for (let n = 0; n < 3; n++) attempt(t, sources[Math.floor(random() * sources.length)]!);
      for (const step of [back, back * width]) if (match[t + step]! >= 0) attempt(t, match[t + step]! - step);
      for (let window = Math.max(width, height) >> 1; window >= 1; window >>= 1) {
        const centre = match[t]! >= 0 ? match[t]! : t;
        const x = (centre % width) + nearest((random() * 2 - 1) * window);
        const y = ((centre / width) | 0) + nearest((random() * 2 - 1) * window);
        if (x >= patchRadius && y >= patchRadius && x < width - patchRadius && y < height - patchRadius)
          attempt(t, y * width + x);
      }
    }
  };
}

/** 5 x 5 binomial weights: offsets a pixel apart are one offset. */
function smooth(count: Float32Array, columns: number): Float32Array {
  const weights = [1, 4, 6, 4, 1];
  const pass = (from: Float32Array, step: number): Float32Array => {
    const out = new Float32Array(from.length);
    for (let i = 2 * step; i < from.length - 2 * step; i++) {
      let sum = 0;
      for (let k = -2; k <= 2; k++) sum += weights[k + 2]! * from[i + k * step]!;
      out[i] = sum / 16;
    }
    return out;
  };
  return pass(pass(count, 1), columns);
}

interface Peak {
  value: number;
  x: number;
  y: number;
}

function peaks(count: Float32Array, columns: number, width: number, height: number): Peak[] {
  const found: Peak[] = [];
  const around = [-1, 1, -columns, columns, -columns - 1, columns + 1, -columns + 1, columns - 1];
  for (let i = columns + 1; i < count.length - columns - 1; i++) {
    const value = count[i]!;
    if (value < 0.5) continue;
    if (around.every((step) => count[i + step]! < value || (count[i + step] === value && step > 0)))
      found.push({ value, x: (i % columns) - width, y: Math.floor(i / columns) - height });
  }
  return found.sort((a, b) => b.value - a.value).slice(0, mostPeaks);
}

/** Peaks that are looked at more closely. */
const mostPeaks = 500;

/** Those by which most of the hole can be reached: a frequent offset that stays inside the hole is of no use. */
function useful(found: Peak[], level: FillLevel, most: number): Offset[] {
  const { width, height, isSource, known, targets } = level;
  const hole = targets.filter((t) => !known[t]);
  const stride = Math.max(1, Math.floor(hole.length / 300));
  const weighted = found.map(({ value, x, y }) => {
    let reached = 0;
    let looked = 0;
    for (let k = 0; k < hole.length; k += stride) {
      looked++;
      const u = (hole[k]! % width) + x;
      const v = ((hole[k]! / width) | 0) + y;
      if (u >= 0 && v >= 0 && u < width && v < height && isSource[v * width + u]) reached++;
    }
    return { x, y, value: value * (reached / looked) };
  });
  weighted.sort((a, b) => b.value - a.value);
  const largest = weighted[0]?.value ?? 0;
  return largest === 0 ? [] : weighted.slice(0, most).map(({ x, y, value }) => ({ x, y, share: value / largest }));
}

/** How much brightness changes at a patch's middle: flat ground repeats itself at every offset and says nothing. */
function steepness({ pixels, width }: FillLevel, t: number): number {
  const green = (i: number): number => pixels[i * 4 + 1]!;
  const dx = Math.abs(green(t + 2) - green(t - 2));
  const dy = Math.abs(green(t + 2 * width) - green(t - 2 * width));
  return 0.1 + Math.min(1, (dx + dy) / 40);
}
