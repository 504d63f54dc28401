import { at } from '../memory';

/* Where the heaviest patch around a pixel is, and copying from it, as core/rebuild/vote.ts does. */

const patchRadius: i32 = 3;

/**
 * The heaviest within a patch's width in the row around each pixel begin..end - 1, -1 where all is 0; among the like the first.
 * @param before what was found for the pixel before `begin`, or -1  @returns what was found last
 */
export function heaviestInRows(weight: usize, inRow: usize, begin: i32, end: i32, before: i32): i32 {
  let heaviest = before;
  for (let i = begin; i < end; i++) {
    const last = i + patchRadius;
    if (heaviest >= i - patchRadius) {
      if (load<f32>(at(weight, last, 4)) > load<f32>(at(weight, heaviest, 4))) heaviest = last;
    } else {
      heaviest = -1;
      let most: f32 = 0;
      for (let c = i - patchRadius; c <= last; c++) {
        const here = load<f32>(at(weight, c, 4));
        if (here <= most) continue;
        most = here;
        heaviest = c;
      }
    }
    store<i32>(at(inRow, i, 4), heaviest);
  }
  return heaviest;
}

/** The same down the columns of what was found in rows, for targets from..to - 1. */
export function heaviestInColumns(targets: usize, from: i32, to: i32, width: i32, weight: usize, inRow: usize, found: usize): void {
  for (let k = from; k < to; k++) {
    const t = load<i32>(at(targets, k, 4));
    let most: f32 = 0;
    let heaviest = -1;
    for (let dy = -patchRadius; dy <= patchRadius; dy++) {
      const c = load<i32>(at(inRow, t + dy * width, 4));
      if (c < 0) continue;
      const here = load<f32>(at(weight, c, 4));
      if (here <= most) continue;
      most = here;
      heaviest = c;
    }
    store<i32>(at(found, t, 4), heaviest);
  }
}

/** Copies each pixel of the hole from the match of its heaviest patch, and notes from where. */
export function copyHeaviest(
  targets: usize, from: i32, to: i32, pixels: usize, known: usize, match: usize, heaviest: usize, origin: usize,
): void {
  for (let k = from; k < to; k++) {
    const t = load<i32>(at(targets, k, 4));
    const c = load<i32>(at(heaviest, t, 4));
    if (load<u8>(known + <usize>t) != 0 || c < 0) continue;
    const source = load<i32>(at(match, c, 4)) - c + t;
    store<i32>(at(origin, t, 4), source);
    const p = at(pixels, source, 4);
    const q = at(pixels, t, 4);
    store<u8>(q, load<u8>(p));
    store<u8>(q, load<u8>(p, 1), 1);
    store<u8>(q, load<u8>(p, 2), 2);
  }
}
