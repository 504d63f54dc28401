import type { Progress } from '../pixels/progress.ts';
import { checkpoint } from '../pixels/progress.ts';

/** Half side of a patch: patches are 7 x 7 pixels. */
export const patchRadius = 3;
const rowLength = (2 * patchRadius + 1) * 4;

/**
 * One level of the pyramid, padded by patchRadius on all sides so that no patch ever leaves the arrays.
 * `known` and `source` are 0/1.
 */
export interface FillLevel {
  width: number;
  height: number;
  /** RGBA bytes; alpha is not used. */
  pixels: Uint8Array;
  /** 1 where the picture is given, 0 in the hole. */
  known: Uint8Array;
  /** Centres whose whole patch may be copied from. */
  sources: Int32Array;
  isSource: Uint8Array;
  /** Centres of all patches that overlap the hole, in scan order. */
  targets: Int32Array;
}

/** For every pixel index of a level the centre of its best source patch, and the distance to it. */
export interface PatchField {
  match: Int32Array;
  cost: Float32Array;
}

/** Sum of squared differences of two patches, given up once above `limit`. */
export function patchDistance(level: FillLevel, a: number, b: number, limit: number): number {
  const { pixels, width } = level;
  let sum = 0;
  let p = (a - patchRadius * width - patchRadius) * 4;
  let q = (b - patchRadius * width - patchRadius) * 4;
  const stride = width * 4;
  for (let row = -patchRadius; row <= patchRadius; row++) {
    for (let k = 0; k < rowLength; k += 4) {
      const r = pixels[p + k]! - pixels[q + k]!;
      const g = pixels[p + k + 1]! - pixels[q + k + 1]!;
      const u = pixels[p + k + 2]! - pixels[q + k + 2]!;
      sum += r * r + g * g + u * u;
    }
    if (sum >= limit) return sum;
    p += stride;
    q += stride;
  }
  return sum;
}

/**
 * The same from every other pixel of every other row, scaled to the whole patch: at full size the coarser levels have found
 * the matches already, and a third of the work is enough to adjust them.
 */
function sparseDistance(level: FillLevel, a: number, b: number, limit: number): number {
  const { pixels, width } = level;
  const sparseLimit = limit * sparseShare;
  let sum = 0;
  let p = (a - patchRadius * width - patchRadius) * 4;
  let q = (b - patchRadius * width - patchRadius) * 4;
  const stride = width * 8;
  for (let row = -patchRadius; row <= patchRadius; row += 2) {
    for (let k = 0; k < rowLength; k += 8) {
      const r = pixels[p + k]! - pixels[q + k]!;
      const g = pixels[p + k + 1]! - pixels[q + k + 1]!;
      const u = pixels[p + k + 2]! - pixels[q + k + 2]!;
      sum += r * r + g * g + u * u;
    }
    if (sum >= sparseLimit) break;
    p += stride;
    q += stride;
  }
  return sum / sparseShare;
}

const sparseShare = 16 / 49;

export function randomField(level: FillLevel, random: () => number): PatchField {
  const match = new Int32Array(level.width * level.height);
  const cost = new Float32Array(level.width * level.height).fill(Infinity);
  for (const t of level.targets) match[t] = level.sources[Math.floor(random() * level.sources.length)]!;
  return { match, cost };
}

/** The field of a level twice as large: matches doubled, kept where they are sources there. */
export function enlargeField(coarse: FillLevel, field: PatchField, fine: FillLevel, random: () => number): PatchField {
  const out = randomField(fine, random);
  for (const t of fine.targets) {
    const x = t % fine.width;
    const y = (t / fine.width) | 0;
    const cx = Math.min(coarse.width - 1 - patchRadius, ((x - patchRadius) >> 1) + patchRadius);
    const cy = Math.min(coarse.height - 1 - patchRadius, ((y - patchRadius) >> 1) + patchRadius);
    const m = field.match[cy * coarse.width + cx]!;
    if (m === 0) continue;
    const mx = ((m % coarse.width) - patchRadius) * 2 + patchRadius + ((x - patchRadius) & 1);
    const my = (((m / coarse.width) | 0) - patchRadius) * 2 + patchRadius + ((y - patchRadius) & 1);
    if (mx >= fine.width || my >= fine.height) continue;
    const j = my * fine.width + mx;
    if (fine.isSource[j]) out.match[t] = j;
    out.cost[t] = field.cost[cy * coarse.width + cx]!;
  }
  return out;
}

/** A neighbour's continued match is taken unless it is this much worse: coherent matches copy texture whole, unblurred. */
const coherence = 0.96;

export interface Sweep {
  /** Backwards through the targets, matches coming from below and right. */
  reverse: boolean;
  /** Whether pixels changed since the costs were computed. */
  fresh: boolean;
  /** Half side in pixels of the first random window. */
  reach: number;
  /** Whether patches are compared by every other pixel only. */
  sparse: boolean;
  /** Added to a distance for every pixel that a source lies higher or lower than its target. */
  rowPenalty: number;
  random: () => number;
}

/**
 * One sweep of PatchMatch (Barnes, Shechtman, Finkelstein & Goldman 2009): every target tries the continued matches of
 * its two earlier neighbours, then random sources in windows that halve around its best.
 */
export async function sweepField(
  level: FillLevel,
  field: PatchField,
  sweep: Sweep,
  progress: Progress | undefined,
): Promise<void> {
  const { targets } = level;
  const count = targets.length;
  const blockSize = 6000;
  for (let from = 0; from < count; from += blockSize) {
    await checkpoint(progress);
    const to = Math.min(count, from + blockSize);
    for (let k = from; k < to; k++) improve(level, field, targets[sweep.reverse ? count - 1 - k : k]!, sweep);
  }
}

function improve(level: FillLevel, field: PatchField, t: number, sweep: Sweep): void {
  const { isSource, width, height } = level;
  const { match, cost } = field;
  const { random } = sweep;
  const row = (t / width) | 0;
  const compare = sweep.sparse ? sparseDistance : patchDistance;
  const distance = (source: number, limit: number): number => {
    const penalty = sweep.rowPenalty * Math.abs(((source / width) | 0) - row);
    return penalty >= limit ? penalty : compare(level, t, source, limit - penalty) + penalty;
  };
  const back = sweep.reverse ? 1 : -1;
  let best = match[t]!;
  let bestCost = sweep.fresh ? distance(best, Infinity) : cost[t]!;
  for (let k = 0; k < 2; k++) {
    const step = k === 0 ? back : back * width;
    const theirs = match[t + step]!;
    if (theirs === 0) continue;
    const candidate = theirs - step;
    if (candidate === best || candidate < 0 || !isSource[candidate]) continue;
    const d = distance(candidate, bestCost / coherence);
    if (d * coherence < bestCost) {
      best = candidate;
      bestCost = d;
    }
  }
  const bx = best % width;
  const by = (best / width) | 0;
  for (let window = sweep.reach; window >= 1; window >>= 1) {
    const x = bx + Math.round((random() * 2 - 1) * window);
    const y = by + Math.round((random() * 2 - 1) * window);
    if (x < 0 || y < 0 || x >= width || y >= height) continue;
    const candidate = y * width + x;
    if (!isSource[candidate]) continue;
    const d = distance(candidate, bestCost);
    if (d < bestCost) {
      best = candidate;
      bestCost = d;
    }
  }
  match[t] = best;
  cost[t] = bestCost;
}
