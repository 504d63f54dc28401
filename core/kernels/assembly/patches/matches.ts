import { at } from '../memory';

/* What is told from the matches of a level, as core/rebuild/patch-field.ts tells it. */

const patchRadius: i32 = 3;
const usageBlock: i32 = 4;

/** Adds a sixteenth to f32 `shares` of the block of 4 x 4 pixels that each target copies from. */
export function countSources(targets: usize, count: i32, width: i32, match: usize, shares: usize, columns: i32): void {
  for (let k = 0; k < count; k++) {
    const m = load<i32>(at(match, load<i32>(at(targets, k, 4)), 4));
    const row = m / width;
    const block = at(shares, (row / usageBlock) * columns + (m - row * width) / usageBlock, 4);
    store<f32>(block, load<f32>(block) + 0.0625);
  }
}

/** Takes over the matches and costs of a level half as large, where they are sources here. */
export function enlargeMatches(
  targets: usize, count: i32, width: i32, height: i32, isSource: usize, match: usize, cost: usize,
  coarseWidth: i32, coarseHeight: i32, coarseMatch: usize, coarseCost: usize,
): void {
  for (let k = 0; k < count; k++) {
    const t = load<i32>(at(targets, k, 4));
    const y = t / width;
    const x = t - y * width;
    const cx = min(coarseWidth - 1 - patchRadius, ((x - patchRadius) >> 1) + patchRadius);
    const cy = min(coarseHeight - 1 - patchRadius, ((y - patchRadius) >> 1) + patchRadius);
    const c = cy * coarseWidth + cx;
    const m = load<i32>(at(coarseMatch, c, 4));
    if (m == 0) continue;
    const row = m / coarseWidth;
    const mx = (m - row * coarseWidth - patchRadius) * 2 + patchRadius + ((x - patchRadius) & 1);
    const my = (row - patchRadius) * 2 + patchRadius + ((y - patchRadius) & 1);
    if (mx >= width || my >= height) continue;
    const j = my * width + mx;
    if (load<u8>(isSource + <usize>j) != 0) store<i32>(at(match, t, 4), j);
    store<f32>(at(cost, t, 4), load<f32>(at(coarseCost, c, 4)));
  }
}
