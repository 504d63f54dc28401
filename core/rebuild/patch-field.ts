import type { Progress } from '../pixels/progress.ts';
import { checkpoint } from '../pixels/progress.ts';
import type { RandomStream } from '../pixels/random.ts';
import {
  besideLine,
  blocksAcross,
  inReach,
  listsOf,
  patchRadius,
  usageBlock,
  type FillLevel,
  type LevelLine,
} from './fill-level.ts';
import { kernelOf } from './patch-memory.ts';

const rowLength = (2 * patchRadius + 1) * 4;

/** What it costs, in squared bytes over a patch, to copy from one pixel further beside a guide line than the target lies. */
const astray = 60_000;

/** For every pixel index of a level the centre of its best source patch, and the distance to it. */
export interface PatchField {
  match: Int32Array;
  cost: Float32Array;
}

/** Sum of squared differences of two patches, given up once above `limit`. */
export function patchDistance({ pixels, width }: FillLevel, a: number, b: number, limit: number): number {
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
function sparseDistance({ pixels, width }: FillLevel, a: number, b: number, limit: number): number {
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
  const { match, cost } = listsOf(level);
  match.fill(0);
  cost.fill(Infinity);
  for (const t of level.targets) match[t] = level.sources[Math.floor(random() * level.sources.length)]!;
  return { match, cost };
}

/** The field of a level twice as large: matches doubled, kept where they are sources there. */
export function enlargeField(coarse: FillLevel, field: PatchField, fine: FillLevel, random: () => number): PatchField {
  const out = randomField(fine, random);
  const { width, height, targets, isSource } = fine;
  const kernel = kernelOf(fine.room, targets, isSource, out.match, out.cost, field.match, field.cost);
  if (kernel) {
    const there = [out.match, out.cost].map(({ byteOffset }) => byteOffset);
    const here = [coarse.width, coarse.height, field.match.byteOffset, field.cost.byteOffset];
    kernel.enlargeMatches(targets.byteOffset, targets.length, width, height, isSource.byteOffset, ...there, ...here);
    return out;
  }
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
  /** How often sources are used already; null to let any be used as often as it fits. */
  usage?: SourceUsage | null;
  random: RandomStream;
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
  const improveThose = improvingByKernel(level, field, sweep) ?? improvingPlainly(level, field, sweep);
  const blockSize = 4000;
  for (let from = 0; from < count; from += blockSize) {
    await checkpoint(progress);
    improveThose(from, Math.min(count, from + blockSize));
  }
}

/** Improves the targets from..to - 1, in the order of a sweep. */
type Improving = (from: number, to: number) => void;

const improvingPlainly =
  (level: FillLevel, field: PatchField, sweep: Sweep): Improving =>
  (from, to) => {
    const { targets } = level;
    for (let k = from; k < to; k++) improve(level, field, targets[sweep.reverse ? targets.length - 1 - k : k]!, sweep);
  };

/** Null where not all of it lies in the memory of a kernel. */
function improvingByKernel(level: FillLevel, field: PatchField, sweep: Sweep): Improving | null {
  const { width, height, pixels, isSource, lines, lists } = level;
  const { reverse, fresh, reach, sparse, rowPenalty, usage, random } = sweep;
  const used = [
    pixels,
    isSource,
    field.match,
    field.cost,
    ...(lines ? [lines.at] : []),
    ...(usage ? [usage.share] : []),
  ];
  const kernel = lists ? kernelOf(level.room, ...used, lists.inRow, lists.lines) : null;
  if (!kernel || !lists) return null;
  const targets = inReach(level.targets, lists.inRow);
  lines?.all.forEach((line, k) => lists.lines.set([line.x, line.y, line.dx, line.dy, line.length], k * 5));
  return (from, to) => {
    const left = kernel.sweepTargets(
      ...[targets.byteOffset, from, to, targets.length, reverse, width, height, pixels.byteOffset, isSource.byteOffset],
      ...[field.match.byteOffset, field.cost.byteOffset, lines?.at.byteOffset ?? 0, lists.lines.byteOffset],
      ...[fresh, reach, sparse, rowPenalty, usage?.share.byteOffset ?? 0, usage?.columns ?? 0, random.left()],
    );
    random.goOnFrom(left);
  };
}

/** How many targets copy from each block of a level, as a share of its pixels. */
export interface SourceUsage {
  columns: number;
  share: Float32Array;
}

/** Counts where the targets of a field copy from. */
export function usageOf(level: FillLevel, field: PatchField): SourceUsage {
  const { width, targets } = level;
  const columns = blocksAcross(width);
  const { shares: share, inRow } = listsOf(level);
  share.fill(0);
  const kernel = kernelOf(level.room, field.match, share, inRow);
  if (kernel) {
    const { byteOffset, length } = inReach(targets, inRow);
    kernel.countSources(byteOffset, length, width, field.match.byteOffset, share.byteOffset, columns);
    return { columns, share };
  }
  for (const t of targets) {
    const m = field.match[t]!;
    const block = ((((m / width) | 0) / usageBlock) | 0) * columns + (((m % width) / usageBlock) | 0);
    share[block] = share[block]! + 1 / usageBlock ** 2;
  }
  return { columns, share };
}

/** What it costs, in squared bytes over a patch, to copy a place once more than once: the same stone twice is noticed. */
const repetition = 4_000;

/** Patch distance of a target and a source, and what the source's place adds to it; given up once above `limit`. */
function costOf(
  level: FillLevel,
  sweep: Sweep,
  t: number,
  line: LevelLine | null,
  source: number,
  limit: number,
): number {
  const { width } = level;
  const row = (t / width) | 0;
  const sourceRow = (source / width) | 0;
  const penalty = line
    ? astray * squared(besideLine(line, source % width, sourceRow) - besideLine(line, t % width, row))
    : sweep.rowPenalty * Math.abs(sourceRow - row) + repeated(sweep, source, width, sourceRow);
  if (penalty >= limit) return penalty;
  const compare = sweep.sparse ? sparseDistance : patchDistance;
  return compare(level, t, source, limit - penalty) + penalty;
}

const squared = (v: number): number => v * v;

function repeated({ usage }: Sweep, source: number, width: number, row: number): number {
  if (!usage) return 0;
  const share = usage.share[((row / usageBlock) | 0) * usage.columns + (((source % width) / usageBlock) | 0)]!;
  return share > 1.1 ? repetition * (share - 1.1) : 0;
}

/** The nearest whole number, as the kernel rounds. */
export const nearest = (v: number): number => Math.floor(v + 0.5);

function improve(level: FillLevel, field: PatchField, t: number, sweep: Sweep): void {
  const { isSource, width, height } = level;
  const { match, cost } = field;
  const { random } = sweep;
  const row = (t / width) | 0;
  const line = level.lines?.at[t] ? level.lines.all[level.lines.at[t]! - 1]! : null;
  const back = sweep.reverse ? 1 : -1;
  let best = match[t]!;
  let bestCost = sweep.fresh ? costOf(level, sweep, t, line, best, Infinity) : cost[t]!;
  for (let k = 0; k < 2; k++) {
    const step = k === 0 ? back : back * width;
    const theirs = match[t + step]!;
    if (theirs === 0) continue;
    const candidate = theirs - step;
    if (candidate === best || candidate < 0 || !isSource[candidate]) continue;
    const d = costOf(level, sweep, t, line, candidate, bestCost / coherence);
    if (d * coherence < bestCost) {
      best = candidate;
      bestCost = d;
    }
  }
  const bx = best % width;
  const by = (best / width) | 0;
  // At full size what lies along a line is known from the coarser levels.
  for (let window = line && !sweep.sparse ? Math.max(width, height) : 0; window >= 1; window >>= 1) {
    const step = (random() * 2 - 1) * window;
    const x = nearest((t % width) + line!.dx * step);
    const y = nearest(row + line!.dy * step);
    if (x < 0 || y < 0 || x >= width || y >= height || !isSource[y * width + x]) continue;
    const d = costOf(level, sweep, t, line, y * width + x, bestCost);
    if (d < bestCost) {
      best = y * width + x;
      bestCost = d;
    }
  }
  for (let window = sweep.reach; window >= 1; window >>= 1) {
    const x = bx + nearest((random() * 2 - 1) * window);
    const y = by + nearest((random() * 2 - 1) * window);
    if (x < 0 || y < 0 || x >= width || y >= height) continue;
    const candidate = y * width + x;
    if (!isSource[candidate]) continue;
    const d = costOf(level, sweep, t, line, candidate, bestCost);
    if (d < bestCost) {
      best = candidate;
      bestCost = d;
    }
  }
  match[t] = best;
  cost[t] = bestCost;
}
