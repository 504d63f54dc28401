import { at } from '../memory';
import { patchDistance, sparseDistance } from './distance';
import { goOnFrom, left, random, within } from './random';

/* Matches of patches, as core/rebuild/patch-field.ts and offsets.ts find them: number for number the same. */

const patchRadius: i32 = 3;
const sparseShare: f64 = 16.0 / 49.0;
/** What it costs to copy from one pixel further beside a guide line, and to copy a place once more than once. */
const astray: f64 = 60000;
const repetition: f64 = 4000;
const usageBlock: i32 = 4;
const coherence: f64 = 0.96;

let pixels: usize = 0;
let width: i32 = 0;
let usage: usize = 0;
let usageColumns: i32 = 0;
let sparse: bool = false;
let rowPenalty: f64 = 0;

// @ts-ignore: decorator
@inline
function corner(centre: i32): usize {
  return pixels + ((<usize>(centre - patchRadius * width - patchRadius)) << 2);
}

function difference(a: i32, b: i32, limit: f64): f64 {
  const stride = <usize>width << 2;
  return sparse
    ? <f64>sparseDistance(corner(a), corner(b), stride, limit * sparseShare) / sparseShare
    : <f64>patchDistance(corner(a), corner(b), stride, limit);
}

/** A line: f64 x, y, dx, dy, length. */
function besideLine(line: usize, x: i32, y: i32): f64 {
  return (
    (<f64>x - load<f64>(line)) * load<f64>(line, 24) - (<f64>y - load<f64>(line, 8)) * load<f64>(line, 16)
  );
}

function repeated(column: i32, row: i32): f64 {
  if (usage == 0) return 0;
  const share = <f64>load<f32>(at(usage, (row / usageBlock) * usageColumns + column / usageBlock, 4));
  return share > 1.1 ? repetition * (share - 1.1) : 0;
}

/** Patch distance of a target and a source, and what the source's place adds to it; given up once above `limit`. */
function costOf(t: i32, line: usize, source: i32, limit: f64): f64 {
  const row = t / width;
  const sourceRow = source / width;
  const column = source - sourceRow * width;
  let penalty: f64;
  if (line != 0) {
    const aside = besideLine(line, column, sourceRow) - besideLine(line, t - row * width, row);
    penalty = astray * (aside * aside);
  } else {
    const apart = sourceRow - row;
    penalty = rowPenalty * <f64>(apart < 0 ? -apart : apart) + repeated(column, sourceRow);
  }
  if (penalty >= limit) return penalty;
  return difference(t, source, limit - penalty) + penalty;
}

/**
 * Improves the matches of a part of the targets.
 * @param targets i32 centres, `count` of them, of which those from..to - 1 in the order of the sweep are taken
 * @param isSource a byte a pixel  @param match i32, cost f32 a pixel
 * @param lineOf a byte a pixel, 1 + the index of its line, or nothing (0)  @param lines five f64 each
 * @param fresh whether costs are of pixels that have changed  @param shares f32 a block of 4 x 4 pixels, or nothing (0)
 * @param state of the random numbers  @returns their state after
 */
export function sweepTargets(
  targets: usize, from: i32, to: i32, count: i32, reverse: bool, levelWidth: i32, height: i32, levelPixels: usize, isSource: usize,
  match: usize, cost: usize, lineOf: usize, lines: usize, fresh: bool, reach: i32, sparsely: bool, penalty: f64,
  shares: usize, columns: i32, state: u32,
): u32 {
  pixels = levelPixels;
  width = levelWidth;
  usage = shares;
  usageColumns = columns;
  sparse = sparsely;
  rowPenalty = penalty;
  goOnFrom(state);
  const size = width * height;
  for (let k = from; k < to; k++) {
    const t = load<i32>(at(targets, reverse ? count - 1 - k : k, 4));
    const row = t / width;
    const column = t - row * width;
    const number = lineOf != 0 ? <i32>load<u8>(lineOf + <usize>t) : 0;
    const line = number != 0 ? lines + <usize>(number - 1) * 40 : 0;
    const back = reverse ? 1 : -1;
    let best = load<i32>(at(match, t, 4));
    let bestCost = fresh ? costOf(t, line, best, Infinity) : <f64>load<f32>(at(cost, t, 4));
    for (let n = 0; n < 2; n++) {
      const step = n == 0 ? back : back * width;
      const theirs = load<i32>(at(match, t + step, 4));
      if (theirs == 0) continue;
      const candidate = theirs - step;
      if (candidate == best || <u32>candidate >= <u32>size || load<u8>(isSource + <usize>candidate) == 0) continue;
      const d = costOf(t, line, candidate, bestCost / coherence);
      if (d * coherence < bestCost) {
        best = candidate;
        bestCost = d;
      }
    }
    const bestRow = best / width;
    const bestColumn = best - bestRow * width;
    for (let window = line != 0 && !sparse ? max(width, height) : 0; window >= 1; window >>= 1) {
      const step = (random() * 2.0 - 1.0) * <f64>window;
      const x = <i32>Math.floor(<f64>column + load<f64>(line, 16) * step + 0.5);
      const y = <i32>Math.floor(<f64>row + load<f64>(line, 24) * step + 0.5);
      if (x < 0 || y < 0 || x >= width || y >= height || load<u8>(isSource + <usize>(y * width + x)) == 0) continue;
      const d = costOf(t, line, y * width + x, bestCost);
      if (d < bestCost) {
        best = y * width + x;
        bestCost = d;
      }
    }
    for (let window = reach; window >= 1; window >>= 1) {
      const x = bestColumn + within(window);
      const y = bestRow + within(window);
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      const candidate = y * width + x;
      if (load<u8>(isSource + <usize>candidate) == 0) continue;
      const d = costOf(t, line, candidate, bestCost);
      if (d < bestCost) {
        best = candidate;
        bestCost = d;
      }
    }
    store<i32>(at(match, t, 4), best);
    store<f32>(at(cost, t, 4), <f32>bestCost);
  }
  return left();
}

function attempt(t: i32, candidate: i32, size: i32, isSource: usize, match: usize, cost: usize, away: f64): void {
  if (<u32>candidate >= <u32>size || load<u8>(isSource + <usize>candidate) == 0) return;
  if (candidate == load<i32>(at(match, t, 4))) return;
  const dx = (candidate % width) - (t % width);
  const dy = candidate / width - t / width;
  if (<f64>(dx * dx + dy * dy) < away * away) return;
  const most = <f64>load<f32>(at(cost, t, 4));
  const d = patchDistance(corner(t), corner(candidate), <usize>width << 2, most);
  if (<f64>d >= most) return;
  store<f32>(at(cost, t, 4), <f32>d);
  store<i32>(at(match, t, 4), candidate);
}

/**
 * Matches a part of the sources with other sources at least `away` pixels from them, in one of several sweeps.
 * @param sources i32 centres, `count` of them, of which those from..to - 1 in the order of the sweep are taken
 * @param match i32 a pixel, -1 for none  @param cost f32 a pixel
 */
export function matchKnown(
  sources: usize, from: i32, to: i32, count: i32, sweep: i32, levelWidth: i32, height: i32, levelPixels: usize, isSource: usize,
  match: usize, cost: usize, away: f64, state: u32,
): u32 {
  pixels = levelPixels;
  width = levelWidth;
  goOnFrom(state);
  const size = width * height;
  const forwards = (sweep & 1) == 0;
  const back = forwards ? -1 : 1;
  for (let k = from; k < to; k++) {
    const t = load<i32>(at(sources, forwards ? k : count - 1 - k, 4));
    if (sweep == 0)
      for (let n = 0; n < 3; n++) {
        const other = load<i32>(at(sources, <i32>Math.floor(random() * <f64>count), 4));
        attempt(t, other, size, isSource, match, cost, away);
      }
    for (let n = 0; n < 2; n++) {
      const step = n == 0 ? back : back * width;
      const theirs = load<i32>(at(match, t + step, 4));
      if (theirs >= 0) attempt(t, theirs - step, size, isSource, match, cost, away);
    }
    for (let window = max(width, height) >> 1; window >= 1; window >>= 1) {
      const found = load<i32>(at(match, t, 4));
      const centre = found >= 0 ? found : t;
      const x = (centre % width) + within(window);
      const y = centre / width + within(window);
      if (x >= patchRadius && y >= patchRadius && x < width - patchRadius && y < height - patchRadius)
        attempt(t, y * width + x, size, isSource, match, cost, away);
    }
  }
  return left();
}
