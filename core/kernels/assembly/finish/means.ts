import { addressesOf, mixedFirst, mixedFourth, mixedSecond, mixedThird, sharesAbove, sharesAlong, sharesBelow, storeFour } from './fine';
import { at } from './vectors';

/*
 * Straight pixels from means along ways that lie side by side in memory, rings or rays, a mean at every step of a way: each
 * pixel from two ways and two steps.
 */

/** Pixels of a row that are worked on together, so that the ways they meet stay at hand. */
export const strip = 128;

/** Four pixels. @param places on which ways, then, `strip` numbers farther, at which steps, in 1 / 2^15  @param bytes of a way */
// @ts-ignore: a decorator of the compiler
@inline
function storeMeans(means: usize, bytes: i32, places: usize, address: usize, x: i32, y: i32): void {
  const ways = v128.load(places);
  const steps = v128.load(places, strip * 4);
  const along = sharesAlong(steps);
  const below = sharesBelow(along, ways);
  const above = sharesAbove(along, below);
  const from = addressesOf(steps, ways, bytes);
  const left = i16x8.narrow_i32x4_s(
    mixedFirst(means, bytes, from, above, below),
    mixedSecond(means, bytes, from, above, below),
  );
  const right = i16x8.narrow_i32x4_s(
    mixedThird(means, bytes, from, above, below),
    mixedFourth(means, bytes, from, above, below),
  );
  storeFour(address, left, right, x, y);
}

/** Up to `strip` pixels of a row. @param rest memory for four pixels, of which the last ones are taken */
export function storeSome(means: usize, bytes: i32, places: usize, count: i32, pixels: usize, x: i32, y: i32, rest: usize): void {
  let k = 0;
  for (; k + 4 <= count; k += 4) storeMeans(means, bytes, at(places, k, 4), at(pixels, k, 4), x + k, y);
  if (k == count) return;
  storeMeans(means, bytes, at(places, k, 4), rest, x + k, y);
  memory.copy(at(pixels, k, 4), rest, <usize>((count - k) * 4));
}
