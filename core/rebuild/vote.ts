import { checkpoint, type Progress } from '../pixels/progress.ts';
import { inReach, listsOf, patchRadius, type FillLevel } from './fill-level.ts';
import { type PatchField } from './patch-field.ts';
import { kernelOf } from './patch-memory.ts';

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
  const lists = listsOf(level);
  const { weight } = lists;
  weightsOf(field, trust, targets, weight);
  const kernel = kernelOf(level.room, pixels, known, field.match, weight, lists.inRow, lists.found);
  if (kernel) {
    const { byteOffset: at, length } = inReach(targets, lists.inRow);
    const result = lists.found.byteOffset;
    const used = [
      width,
      pixels.byteOffset,
      known.byteOffset,
      field.match.byteOffset,
      weight.byteOffset,
      result,
      sharpen,
    ];
    for (let from = 0; from < length; from += 4000) {
      await checkpoint(progress);
      kernel.voteTargets(at, from, Math.min(length, from + 4000), ...used);
    }
    kernel.takeOver(at, length, pixels.byteOffset, known.byteOffset, result);
  } else await votePlainly(level, field, weight, sharpen, progress);
}

async function votePlainly(
  { width, pixels, known, targets }: FillLevel,
  { match }: PatchField,
  weight: Float32Array,
  sharpen: boolean,
  progress: Progress | undefined,
): Promise<void> {
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
        const m = match[c]!;
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
          const dr = proposals[o + 1]! - r;
          const dg = proposals[o + 2]! - g;
          const db = proposals[o + 3]! - b;
          const d = dr * dr + dg * dg + db * db;
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
    // Rounded, as the kernel rounds.
    result[k * 3] = r + 0.5;
    result[k * 3 + 1] = g + 0.5;
    result[k * 3 + 2] = b + 0.5;
  }
  for (let k = 0; k < targets.length; k++) {
    const t = targets[k]!;
    if (known[t]) continue;
    pixels[t * 4] = result[k * 3]!;
    pixels[t * 4 + 1] = result[k * 3 + 1]!;
    pixels[t * 4 + 2] = result[k * 3 + 2]!;
  }
}

/**
 * How much each patch counts: the better it fits and the nearer to the rim, the more; 0 where none is.
 * @param weight where that is written
 */
export function weightsOf(field: PatchField, trust: Float32Array, targets: Int32Array, weight: Float32Array): void {
  const spread = typicalCost(field, targets);
  weight.fill(0);
  for (const t of targets) weight[t] = trust[t]! * Math.exp(-field.cost[t]! / (2 * spread)) + 1e-12;
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
