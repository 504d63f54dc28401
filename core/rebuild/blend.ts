import { GridLaplacian } from '../pixels/grid-laplacian.ts';
import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Rect } from '../pixels/raster.ts';
import type { FillLevel } from './fill-level.ts';
import { seenOf, Sharpness } from './sharpness.ts';

/** Light is a factor, so seams are joined in logarithms; this many bytes are added first, as black has none. */
const lift = 12;
const logOf = Float32Array.from({ length: 256 }, (_, v) => Math.log(v + lift));

/**
 * Size of a step across a seam, in logarithms, at which it counts half. Where most of a seam shows a step it is light, and is
 * taken away all the same; a large step in a seam that mostly fits is the edge of a thing, and is outvoted.
 */
const seamScale = 0.14;
/** Steepness within a source at which a seam counts half. */
const edgeScale = 0.1;
/** A larger step than this is never light. */
const largestStep = 0.5;
/**
 * A step at a seam that is so many times steeper than anything around it, and a little more than noise, is no edge of a thing:
 * where all is out of focus there is none. It is believed whole.
 */
const timesSharpest = 3;
const noiseStep = 0.05;
/** How firmly every copied pixel keeps its brightness, against a bond to a neighbour: what has no sure seam stays as it is. */
const keep = 5e-4;

/** What a byte of a copy becomes, given its channel and the pixel that it was copied to. */
export type Relit = (byte: number, channel: number, i: number) => number;

/**
 * Joins copied regions in the gradient domain (Perez, Gangnet & Blake 2003): inside the hole the picture keeps the
 * gradients of what was copied, across seams and at the rim it takes the gradients of the sources, so that light runs on
 * smoothly. Only the difference to the copies is solved for, which is smooth and small.
 * @param origin for every hole pixel the pixel it was copied from; -1 elsewhere
 * @returns what a byte of a channel becomes at a pixel of the hole, given its index
 */
export async function blendSeams(level: FillLevel, origin: Int32Array, progress?: Progress): Promise<Relit> {
  const { width, targets } = level;
  const area = areaOf(targets, width);
  const cell = (i: number): number => (((i / width) | 0) - area.y) * area.width + (i % width) - area.x;
  const bonds = new Bonds(level, origin, area);
  for (let from = 0; from < targets.length; from += blockSize) {
    await checkpoint(progress);
    bonds.add(from, Math.min(targets.length, from + blockSize));
  }
  await checkpoint(progress);
  const { right, down, anchor, wanted } = bonds;
  const grid = await GridLaplacian.over(area.width, area.height, right, down, anchor, progress);
  const shifts: Float32Array[] = [];
  for (let c = 0; c < 3; c++) {
    const shift = (shifts[c] = await grid.solve(wanted[c]!, undefined, 3e-2, 5, progress));
    for (let from = 0; from < targets.length; from += blockSize) {
      await checkpoint(progress);
      relight(level, origin, area, shift, c, from, Math.min(targets.length, from + blockSize));
    }
  }
  grid.release();
  return (byte, channel, i) => relitBy(byte, shifts[channel]![cell(i)]!);
}

const blockSize = 20_000;

/** What holds the brightness of each pixel of the hole to that of its neighbours. */
class Bonds {
  readonly right: Float32Array;
  readonly down: Float32Array;
  readonly anchor: Float32Array;
  /** For each channel what is wanted of each cell. */
  readonly wanted: readonly Float32Array[];
  private readonly sharpness: Sharpness;

  constructor(
    private readonly level: FillLevel,
    private readonly origin: Int32Array,
    private readonly area: Rect,
  ) {
    const list = (): Float32Array => new Float32Array(area.width * area.height);
    [this.right, this.down, this.anchor] = [list(), list(), list()];
    this.wanted = [list(), list(), list()];
    this.sharpness = new Sharpness(level);
  }

  /** Adds those of a part of the targets. */
  add(from: number, to: number): void {
    const { targets, width } = this.level;
    const { origin, right, down } = this;
    for (let k = from; k < to; k++) {
      const t = targets[k]!;
      if (origin[t]! < 0) continue;
      this.anchor[this.cell(t)]! += keep;
      this.bond(t, t + 1, right);
      this.bond(t, t + width, down);
      if (origin[t - 1]! < 0) this.bond(t - 1, t, right);
      if (origin[t - width]! < 0) this.bond(t - width, t, down);
    }
  }

  private cell(i: number): number {
    const { width } = this.level;
    const row = (i / width) | 0;
    return (row - this.area.y) * this.area.width + (i - row * width) - this.area.x;
  }

  private bond(p: number, q: number, weights: Float32Array): void {
    const [inP, inQ] = [this.origin[p]! >= 0, this.origin[q]! >= 0];
    // Inside one copied region nothing has to change.
    if (inP && inQ && this.origin[q]! - this.origin[p]! === q - p) weights[this.cell(p)] = 1;
    else if ((inP || this.level.known[p]) && (inQ || this.level.known[q]) && (inP || inQ)) this.join(p, q, weights);
  }

  /** A seam, of which one side may lie outside of the hole. */
  private join(p: number, q: number, weights: Float32Array): void {
    const { origin, anchor, wanted } = this;
    const weight = seamStep(this.level, this.sharpness, origin, p, q, step);
    const [inP, inQ] = [origin[p]! >= 0, origin[q]! >= 0];
    if (inP && inQ) weights[this.cell(p)] = weight;
    else anchor[this.cell(inP ? p : q)]! += weight;
    for (let c = 0; c < 3; c++) {
      if (inP) wanted[c]![this.cell(p)]! += weight * step[c]!;
      if (inQ) wanted[c]![this.cell(q)]! -= weight * step[c]!;
    }
  }
}

/** Brings what was solved for a channel to a part of the targets. */
function relight(
  { targets, pixels, width }: FillLevel,
  origin: Int32Array,
  area: Rect,
  shift: Float32Array,
  c: number,
  from: number,
  to: number,
): void {
  for (let k = from; k < to; k++) {
    const t = targets[k]!;
    if (origin[t]! < 0) continue;
    const row = (t / width) | 0;
    const cell = (row - area.y) * area.width + (t - row * width) - area.x;
    pixels[t * 4 + c] = relitBy(pixels[t * 4 + c]!, shift[cell]!);
  }
}

/** The rectangle around all targets. */
function areaOf(targets: Int32Array, width: number): Rect {
  let [left, right] = [width, 0];
  for (const t of targets) {
    left = Math.min(left, t % width);
    right = Math.max(right, t % width);
  }
  const top = (targets[0]! / width) | 0;
  return { x: left, y: top, width: right - left + 1, height: ((targets.at(-1)! / width) | 0) - top + 1 };
}

const clampByte = (v: number): number => (v <= 0 ? 0 : v >= 255 ? 255 : Math.round(v));

const relitBy = (byte: number, shift: number): number => clampByte((byte + lift) * Math.exp(shift) - lift);

const step = new Float64Array(3);

/**
 * How much the difference p - q (logarithms) should change: the mean of what both sides' sources have between them, less
 * what is there now. Gives how far that can be believed: at edges of things little, as they may be a pixel aside.
 */
function seamStep(
  { pixels, known }: FillLevel,
  sharpness: Sharpness,
  origin: Int32Array,
  p: number,
  q: number,
  out: Float64Array,
): number {
  out.fill(0);
  const sp = origin[p]!;
  const sq = origin[q]!;
  const hasP = sp >= 0 && known[sp + q - p];
  const hasQ = sq >= 0 && known[sq + p - q];
  if (!hasP && !hasQ) return 0.02;
  const count = hasP && hasQ ? 2 : 1;
  let largest = 0;
  let steepest = 0;
  let seen = 0;
  for (let c = 0; c < 3; c++) {
    const now = logOf[pixels[p * 4 + c]!]! - logOf[pixels[q * 4 + c]!]!;
    const first = hasP ? logOf[pixels[sp * 4 + c]!]! - logOf[pixels[(sp + q - p) * 4 + c]!]! : 0;
    const second = hasQ ? logOf[pixels[(sq + p - q) * 4 + c]!]! - logOf[pixels[sq * 4 + c]!]! : 0;
    out[c] = (first + second) / count - now;
    largest = Math.max(largest, Math.abs(out[c]!));
    seen = Math.max(seen, Math.abs(seenOf[pixels[p * 4 + c]!]! - seenOf[pixels[q * 4 + c]!]!));
    steepest = Math.max(steepest, Math.abs(first), Math.abs(second));
  }
  const edge = Math.max(sharpness.at(p), sharpness.at(q), hasP ? sharpness.at(sp) : 0, hasQ ? sharpness.at(sq) : 0);
  if (seen > timesSharpest * edge + noiseStep) return 1;
  if (largest > largestStep) {
    out.fill(0);
    return 0.002;
  }
  return 1 / (1 + (largest / seamScale) ** 2) / (1 + (steepest / edgeScale) ** 2);
}
