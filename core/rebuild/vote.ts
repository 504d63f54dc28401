import { checkpoint, type Progress } from '../pixels/progress.ts';
import { patchRadius, type FillLevel, type PatchField } from './patch-field.ts';

/**
 * Every pixel of the hole becomes the weighted mean of what the matched patches covering it propose (Wexler, Shechtman &
 * Irani 2007). Patches that fit well and lie near the rim of the hole weigh more. A second pass pulls each pixel towards
 * the proposals near that mean, so that disagreeing textures do not average into a blur.
 * @param trust per pixel, how much a patch centred there counts (near the rim more)
 */
export async function vote(
  level: FillLevel,
  field: PatchField,
  trust: Float32Array,
  sharpen: boolean,
  progress: Progress | undefined,
): Promise<void> {
  const { width, pixels, known, targets } = level;
  const weight = weightsOf(field, trust, targets);
  const span = 2 * patchRadius + 1;
  const proposals = new Float64Array(span * span * 4);
  const result = new Uint8Array(targets.length * 3);
  for (let k = 0; k < targets.length; k++) {
    if (k % 4000 === 0) await checkpoint(progress);
    const t = targets[k]!;
    if (known[t]) continue;
    let n = 0;
    let sum = 0;
    let r = 0;
    let g = 0;
    let b = 0;
    let squares = 0;
    for (let dy = -patchRadius; dy <= patchRadius; dy++) {
      for (let dx = -patchRadius; dx <= patchRadius; dx++) {
        const c = t + dy * width + dx;
        const m = field.match[c]!;
        if (m === 0) continue;
        const p = (m - dy * width - dx) * 4;
        const w = weight[c]!;
        const pr = pixels[p]!;
        const pg = pixels[p + 1]!;
        const pb = pixels[p + 2]!;
        proposals[n] = w;
        proposals[n + 1] = pr;
        proposals[n + 2] = pg;
        proposals[n + 3] = pb;
        n += 4;
        sum += w;
        r += w * pr;
        g += w * pg;
        b += w * pb;
        squares += w * (pr * pr + pg * pg + pb * pb);
      }
    }
    if (sum <= 0) {
      result.set(pixels.subarray(t * 4, t * 4 + 3), k * 3);
      continue;
    }
    r /= sum;
    g /= sum;
    b /= sum;
    // Where all agree, as they do inside coherent copies, there is nothing to sharpen.
    if (sharpen && squares / sum - (r * r + g * g + b * b) > agreement) {
      for (let pass = 0; pass < 2; pass++) {
        let s = 0;
        let sr = 0;
        let sg = 0;
        let sb = 0;
        for (let o = 0; o < n; o += 4) {
          const d = (proposals[o + 1]! - r) ** 2 + (proposals[o + 2]! - g) ** 2 + (proposals[o + 3]! - b) ** 2;
          const w = proposals[o]! / (1 + (d * d) / modeWidth);
          s += w;
          sr += w * proposals[o + 1]!;
          sg += w * proposals[o + 2]!;
          sb += w * proposals[o + 3]!;
        }
        r = sr / s;
        g = sg / s;
        b = sb / s;
      }
    }
    result[k * 3] = Math.round(r);
    result[k * 3 + 1] = Math.round(g);
    result[k * 3 + 2] = Math.round(b);
  }
  for (let k = 0; k < targets.length; k++) {
    const t = targets[k]!;
    if (known[t]) continue;
    pixels[t * 4] = result[k * 3]!;
    pixels[t * 4 + 1] = result[k * 3 + 1]!;
    pixels[t * 4 + 2] = result[k * 3 + 2]!;
  }
}

/** How much each patch counts: the better it fits and the nearer to the rim, the more. */
function weightsOf(field: PatchField, trust: Float32Array, targets: Int32Array): Float32Array {
  const spread = typicalCost(field, targets);
  const weight = new Float32Array(field.cost.length);
  for (const t of targets) weight[t] = trust[t]! * Math.exp(-field.cost[t]! / (2 * spread)) + 1e-12;
  return weight;
}

/**
 * Copies each pixel of the hole whole from the best of the patches covering it: regions come over as they are, with their
 * grain, which every mean would lose. Ends each level, and starts the next from matches instead of enlarged pixels.
 * @returns for every hole pixel the pixel it was copied from; -1 elsewhere
 */
export async function copyBest(
  level: FillLevel,
  field: PatchField,
  trust: Float32Array,
  progress: Progress | undefined,
): Promise<Int32Array> {
  const { pixels, known, targets } = level;
  const heaviest = await heaviestAround(weightsOf(field, trust, targets), level, progress);
  const origin = new Int32Array(known.length).fill(-1);
  for (let k = 0; k < targets.length; k++) {
    if (k % 20_000 === 0) await checkpoint(progress);
    const t = targets[k]!;
    const c = heaviest[t]!;
    if (known[t] || c < 0) continue;
    const from = field.match[c]! - c + t;
    origin[t] = from;
    // Sources are given pixels, never targets, so what is copied here is not copied from again.
    pixels[t * 4] = pixels[from * 4]!;
    pixels[t * 4 + 1] = pixels[from * 4 + 1]!;
    pixels[t * 4 + 2] = pixels[from * 4 + 2]!;
  }
  return origin;
}

/**
 * Where in the square window of a patch around each target the weight is greatest: among the like the first in scan order;
 * -1 where there is none. Along rows first, then down what was found there: a seventh of the comparisons.
 */
async function heaviestAround(
  weight: Float32Array,
  { width, targets }: FillLevel,
  progress: Progress | undefined,
): Promise<Int32Array> {
  const inRow = new Int32Array(weight.length).fill(-1);
  const begin = Math.max(patchRadius, (targets[0] ?? 0) - patchRadius * width - patchRadius);
  const end = Math.min(weight.length - patchRadius, (targets.at(-1) ?? 0) + patchRadius * width + patchRadius + 1);
  let heaviest = -1;
  for (let i = begin; i < end; i++) {
    if (i % 100_000 === 0) await checkpoint(progress);
    const last = i + patchRadius;
    // The one before stays while it is within the window and nothing heavier comes in.
    if (heaviest >= i - patchRadius) {
      if (weight[last]! > weight[heaviest]!) heaviest = last;
    } else {
      heaviest = -1;
      let most = 0;
      for (let c = i - patchRadius; c <= last; c++) {
        if (weight[c]! <= most) continue;
        most = weight[c]!;
        heaviest = c;
      }
    }
    inRow[i] = heaviest;
  }
  const found = new Int32Array(weight.length).fill(-1);
  for (let k = 0; k < targets.length; k++) {
    if (k % 20_000 === 0) await checkpoint(progress);
    const t = targets[k]!;
    let most = 0;
    for (let dy = -patchRadius; dy <= patchRadius; dy++) {
      const c = inRow[t + dy * width]!;
      if (c < 0 || weight[c]! <= most) continue;
      most = weight[c]!;
      found[t] = c;
    }
  }
  return found;
}

/** Variance of the proposals (squared bytes, three channels) below which they count as one. */
const agreement = 3;

/** (Squared colour distance, bytes)^2 at which a proposal counts half. */
const modeWidth = 300 * 300;

/** The 75th percentile of the costs (Wexler et al.), from a sample; never zero. */
function typicalCost(field: PatchField, targets: Int32Array): number {
  const sample: number[] = [];
  const stride = Math.max(1, Math.floor(targets.length / 2000));
  for (let k = 0; k < targets.length; k += stride) sample.push(field.cost[targets[k]!]!);
  sample.sort((a, b) => a - b);
  return Math.max(200, sample[Math.floor(sample.length * 0.75)] ?? 200);
}
