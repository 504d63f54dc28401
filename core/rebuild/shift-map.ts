import { checkpoint, type Progress } from '../pixels/progress.ts';
import { channels, costOfAll, difference, forbidden, PlainExpander } from './expansion.ts';
import { KernelExpander } from './expansion-kernel.ts';
import type { Offset } from './offsets.ts';
import { besideLine, patchRadius, type FillLevel } from './fill-level.ts';

/** Weight of a byte of colour against a byte of brightness gradient: light may differ across a seam, structure may not. */
const colourWeight = 0.45;
/** Cost, per share of the height, of copying from higher up or lower down. */
const uprightness = 60;
/** Cost of an offset at which the picture hardly ever repeats itself. */
const rarity = 2;
/** Cost per pixel of leaving a guide line, squared. */
const astray = 40;

/** The offsets that are arranged first. */
const mostFrequent = 20;

/** For every hole pixel of a level the offset it copies from, as an index into `offsets`. */
export interface ShiftMap {
  offsets: Offset[];
  label: Int16Array;
  /** Whether the chosen offset leads to a known patch. */
  valid: Uint8Array;
}

/**
 * Chooses one offset for each pixel of the hole so that what is copied joins without visible seams: the energy of He & Sun
 * 2012 (after Pritch, Kav-Venaki & Peleg 2009), minimised by alpha expansion (Boykov, Veksler & Zabih 2001).
 * @param jitter amount of random cost that makes another take
 * @throws Cancelled
 */
export async function solveShiftMap(
  level: FillLevel,
  offsets: Offset[],
  jitter: number,
  random: () => number,
  progress?: Progress,
): Promise<ShiftMap> {
  const { width, known, targets, isSource } = level;
  const pixels = targets.filter((t) => !known[t]);
  const node = new Int32Array(known.length).fill(-1);
  pixels.forEach((t, k) => (node[t] = k));
  await checkpoint(progress);
  const features = featuresOf(level);
  await checkpoint(progress);
  const shift = Int32Array.from(offsets, (o) => o.y * width + o.x);
  const unary = await unaryCosts(level, pixels, offsets, shift, features, progress);
  const count = offsets.length;
  const few = Math.min(count, mostFrequent);
  const arrangement = { pixels, node, width, shift, features, unary };
  const expander = KernelExpander.of(arrangement) ?? new PlainExpander(arrangement);
  // Expansion ends in one of many good arrangements. Random favours lead it to different ones; the cheapest is kept. Few
  // offsets are arranged first, and the many only mend it: all at once they end in worse arrangements.
  let label: Int16Array = new Int16Array(pixels.length);
  let least = Infinity;
  for (const favour of jitter > 0 ? [jitter] : [0, 25]) {
    const base = offsets.map(() => favour * random());
    const attempt = cheapestAlone(unary, base, pixels.length, count, few);
    for (const [offered, biased] of [
      [few, true],
      [few, jitter > 0],
      [count, jitter > 0],
    ] as const) {
      for (let alpha = 0; alpha < offered; alpha++) {
        await checkpoint(progress);
        expander.expand(attempt, alpha, biased ? base : null);
      }
    }
    const energy = costOfAll(arrangement, attempt);
    if (energy >= least) continue;
    least = energy;
    label = attempt;
  }
  const valid = Uint8Array.from(pixels, (t, k) => {
    const source = t + shift[label[k]!]!;
    return unary[k * count + label[k]!]! < forbidden && isSource[source] ? 1 : 0;
  });
  return { offsets, label, valid };
}

function cheapestAlone(
  unary: Float32Array,
  base: number[],
  pixels: number,
  count: number,
  offered: number,
): Int16Array {
  const label = new Int16Array(pixels);
  for (let k = 0; k < pixels; k++) {
    for (let l = 1; l < offered; l++)
      if (unary[k * count + l]! + base[l]! < unary[k * count + label[k]!]! + base[label[k]!]!) label[k] = l;
  }
  return label;
}

async function unaryCosts(
  level: FillLevel,
  pixels: Int32Array,
  offsets: Offset[],
  shift: Int32Array,
  features: Float32Array,
  progress: Progress | undefined,
): Promise<Float32Array> {
  const { width, height, known, isSource } = level;
  const out = new Float32Array(pixels.length * offsets.length).fill(forbidden);
  const rare = offsets.map(({ share }) => rarity * (1 - Math.sqrt(share)));
  for (let k = 0; k < pixels.length; k++) {
    if (k % 400 === 0) await checkpoint(progress);
    const t = pixels[k]!;
    const x = t % width;
    const y = (t / width) | 0;
    const rim = knownAround(known, t, width);
    const line = level.lines?.at[t] ? level.lines.all[level.lines.at[t]! - 1]! : null;
    offsets.forEach((offset, l) => {
      const sx = x + offset.x;
      const sy = y + offset.y;
      if (sx < patchRadius || sy < patchRadius || sx >= width - patchRadius || sy >= height - patchRadius) return;
      if (!isSource[t + shift[l]!]) return;
      let cost = rare[l]! + uprightness * (Math.abs(offset.y) / height);
      if (line) cost += astray * Math.min(40, besideLine(line, sx, sy) - besideLine(line, x, y)) ** 2;
      // Where the rim of the hole is near, what surrounds the source must look like what surrounds the pixel.
      for (const q of rim) cost += (3 * difference(features, q, q + shift[l]!)) / rim.length;
      out[k * offsets.length + l] = cost;
    });
  }
  return out;
}

/** Known pixels within two pixels of t. */
function knownAround(known: Uint8Array, t: number, width: number): number[] {
  const out: number[] = [];
  for (let dy = -2; dy <= 2; dy++)
    for (let dx = -2; dx <= 2; dx++) if (known[t + dy * width + dx]) out.push(t + dy * width + dx);
  return out;
}

/** Colour and brightness gradient of every pixel. */
function featuresOf({ width, height, pixels }: FillLevel): Float32Array {
  const out = new Float32Array(width * height * channels);
  const luma = (i: number): number => 0.3 * pixels[i * 4]! + 0.6 * pixels[i * 4 + 1]! + 0.1 * pixels[i * 4 + 2]!;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const o = i * channels;
      for (let c = 0; c < 3; c++) out[o + c] = pixels[i * 4 + c]! * colourWeight;
      out[o + 3] = luma(y * width + Math.min(width - 1, x + 1)) - luma(y * width + Math.max(0, x - 1));
      out[o + 4] = luma(Math.min(height - 1, y + 1) * width + x) - luma(Math.max(0, y - 1) * width + x);
    }
  }
  return out;
}
