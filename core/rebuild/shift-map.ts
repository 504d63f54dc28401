import { MaxFlow } from '../cut/max-flow.ts';
import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Offset } from './offsets.ts';
import { besideLine, patchRadius, type FillLevel } from './patch-field.ts';

const channels = 5;
/** Weight of a byte of colour against a byte of brightness gradient: light may differ across a seam, structure may not. */
const colourWeight = 0.45;
/** Cost of an offset that leaves the known picture. */
const forbidden = 1e5;
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
  const shift = offsets.map((o) => o.y * width + o.x);
  const unary = await unaryCosts(level, pixels, offsets, shift, features, progress);
  const count = offsets.length;
  const few = Math.min(count, mostFrequent);
  // How unlike two offsets' sources of a pixel are; -1 where one of them leads out of the picture.
  const unlike = (p: number, a: number, b: number): number => {
    const [pa, pb] = [p + shift[a]!, p + shift[b]!];
    if (Math.min(pa, pb) < 0 || Math.max(pa, pb) >= known.length) return -1;
    return difference(features, pa, pb);
  };
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
        expand({ pixels, node, width, unary, base: biased ? base : null, count, unlike }, attempt, alpha);
      }
    }
    const energy = energyOf({ pixels, node, width, unary, base: null, count, unlike }, attempt);
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

/** The energy to be minimised: what each pixel's offset costs by itself, and where two neighbours' offsets differ. */
interface Energy {
  pixels: Int32Array;
  node: Int32Array;
  width: number;
  unary: Float32Array;
  /** Added to the cost of each offset at every pixel. */
  base: number[] | null;
  count: number;
  unlike(p: number, a: number, b: number): number;
}

/** What a seam costs between neighbours of which each is that unlike at both offsets. */
const joinedCost = (p: number, q: number): number => (p < 0 || q < 0 ? forbidden : p + q);

/** The same for neighbours p and q with offsets a and b. */
const seamCost = (unlike: Energy['unlike'], p: number, q: number, a: number, b: number): number =>
  a === b ? 0 : joinedCost(unlike(p, a, b), unlike(q, a, b));

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

function energyOf({ pixels, node, width, unary, count, unlike }: Energy, label: Int16Array): number {
  let sum = 0;
  for (let k = 0; k < pixels.length; k++) {
    const p = pixels[k]!;
    sum += unary[k * count + label[k]!]!;
    for (const q of [p + 1, p + width]) if (node[q]! >= 0) sum += seamCost(unlike, p, q, label[k]!, label[node[q]!]!);
  }
  return sum;
}

/** One expansion move: every pixel may keep its label or take `alpha`; the best such change is made. */
function expand({ pixels, node, width, unary, base, count, unlike }: Energy, label: Int16Array, alpha: number): void {
  const graph = new MaxFlow(pixels.length, pixels.length * 2);
  const alone = (k: number, l: number): number => unary[k * count + l]! + (base ? base[l]! : 0);
  // Where neighbours have the same offset, which is nearly everywhere, both ways to change it cost the same.
  const change = Float64Array.from(pixels, (p, k) => (label[k] === alpha ? 0 : unlike(p, label[k]!, alpha)));
  for (let k = 0; k < pixels.length; k++) {
    const p = pixels[k]!;
    const mine = label[k]!;
    // x = 1 (the sink side) stands for taking alpha.
    graph.addTerminal(k, alone(k, alpha) - alone(k, mine), 0);
    for (const q of [p + 1, p + width]) {
      const other = node[q]!;
      if (other < 0) continue;
      const theirs = label[other]!;
      const same = mine === theirs;
      const keep = seamCost(unlike, p, q, mine, theirs);
      const second = same ? joinedCost(change[k]!, change[other]!) : seamCost(unlike, p, q, mine, alpha);
      const first = same ? second : seamCost(unlike, p, q, alpha, theirs);
      graph.addTerminal(k, first - keep, 0);
      graph.addTerminal(other, -first, 0);
      graph.addEdge(k, other, Math.max(0, second + first - keep), 0);
    }
  }
  graph.solve();
  for (let k = 0; k < pixels.length; k++) if (!graph.inSource(k)) label[k] = alpha;
}

async function unaryCosts(
  level: FillLevel,
  pixels: Int32Array,
  offsets: Offset[],
  shift: number[],
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

/** A metric, so that every expansion can be solved exactly. */
function difference(features: Float32Array, a: number, b: number): number {
  let sum = 0;
  for (let c = 0; c < channels; c++) sum += (features[a * channels + c]! - features[b * channels + c]!) ** 2;
  return Math.sqrt(sum);
}
