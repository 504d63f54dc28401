import { checkpoint, type Progress } from '../pixels/progress.ts';
import { kernelOf, type PatchKernel } from './patch-memory.ts';
import { listsOf, patchRadius, type FillLevel, type LevelLists } from './fill-level.ts';
import { type PatchField } from './patch-field.ts';
import { weightsOf } from './vote.ts';

/** So many at a time: what is done in between is seldom longer than a few milliseconds. */
const blockSize = 20_000;

/**
 * Copies each pixel of the hole whole from the best of the patches covering it: regions come over as they are, with their
 * grain, which every mean would lose. Ends each level, and starts the next from matches instead of enlarged pixels.
 * @returns for every hole pixel the pixel it was copied from, until the level is copied again; -1 elsewhere
 */
export async function copyBest(
  level: FillLevel,
  field: PatchField,
  trust: Float32Array,
  progress: Progress | undefined,
): Promise<Int32Array> {
  const { pixels, known, targets } = level;
  const lists = listsOf(level);
  weightsOf(field, trust, targets, lists.weight);
  const used = [pixels, known, field.match, lists.found, lists.origin] as const;
  const kernel = kernelOf(level.room, targets, lists.weight, lists.inRow, ...used);
  await heaviestInRows(level, lists, kernel, progress);
  lists.origin.fill(-1);
  const addresses = used.map(({ byteOffset }) => byteOffset);
  for (let from = 0; from < targets.length; from += blockSize) {
    await checkpoint(progress);
    const to = Math.min(targets.length, from + blockSize);
    heaviestInColumns(level, lists, kernel, from, to);
    if (kernel) kernel.copyHeaviest(targets.byteOffset, from, to, ...addresses);
    else copyPlainly(level, field, lists, from, to);
  }
  return lists.origin;
}

/*
 * Where in the square window of a patch around each target the weight is greatest: among the like the first in scan order;
 * -1 where there is none. Along rows first, then down what was found there: a seventh of the comparisons.
 */

async function heaviestInRows(
  { width, targets }: FillLevel,
  { weight, inRow }: LevelLists,
  kernel: PatchKernel | null,
  progress: Progress | undefined,
): Promise<void> {
  const begin = Math.max(patchRadius, (targets[0] ?? 0) - patchRadius * width - patchRadius);
  const end = Math.min(weight.length - patchRadius, (targets.at(-1) ?? 0) + patchRadius * width + patchRadius + 1);
  inRow.fill(-1);
  let heaviest = -1;
  for (let from = begin; from < end; from += 5 * blockSize) {
    await checkpoint(progress);
    const to = Math.min(end, from + 5 * blockSize);
    heaviest = kernel
      ? kernel.heaviestInRows(weight.byteOffset, inRow.byteOffset, from, to, heaviest)
      : heaviestInPart(weight, inRow, from, to, heaviest);
  }
}

/** @param before what was found for the pixel before `begin`, or -1 @returns what was found last */
function heaviestInPart(weight: Float32Array, inRow: Int32Array, begin: number, end: number, before: number): number {
  let heaviest = before;
  for (let i = begin; i < end; i++) {
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
  return heaviest;
}

function heaviestInColumns(
  { width, targets }: FillLevel,
  { weight, inRow, found }: LevelLists,
  kernel: PatchKernel | null,
  from: number,
  to: number,
): void {
  if (kernel) {
    const addresses = [weight, inRow, found].map(({ byteOffset }) => byteOffset);
    kernel.heaviestInColumns(targets.byteOffset, from, to, width, ...addresses);
    return;
  }
  for (let k = from; k < to; k++) {
    const t = targets[k]!;
    let most = 0;
    found[t] = -1;
    for (let dy = -patchRadius; dy <= patchRadius; dy++) {
      const c = inRow[t + dy * width]!;
      if (c < 0 || weight[c]! <= most) continue;
      most = weight[c]!;
      found[t] = c;
    }
  }
}

function copyPlainly(
  { pixels, known, targets }: FillLevel,
  { match }: PatchField,
  { found, origin }: LevelLists,
  from: number,
  to: number,
): void {
  for (let k = from; k < to; k++) {
    const t = targets[k]!;
    const c = found[t]!;
    if (known[t] || c < 0) continue;
    const source = match[c]! - c + t;
    origin[t] = source;
    // Sources are given pixels, never targets, so what is copied here is not copied from again.
    pixels[t * 4] = pixels[source * 4]!;
    pixels[t * 4 + 1] = pixels[source * 4 + 1]!;
    pixels[t * 4 + 2] = pixels[source * 4 + 2]!;
  }
}
