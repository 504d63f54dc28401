import { hashOf, seededRandom } from '../pixels/random.ts';

/** Table of steps; a power of two, longer than any row so that no pattern lines up. */
const tableSize = 1 << 16;

const steps = ((): Int8Array => {
  const random = seededRandom(29);
  return Int8Array.from({ length: tableSize }, () => Math.floor(random() * 3) - 1);
})();

/**
 * Moves every luma by -1, 0 or 1 at random, elsewhere in every frame. Encoders that look for ground which stands still
 * skip its blocks, and then leave the rim of what passed before it standing there for seconds; a ground that is never
 * quite still is coded. The mean stays, a step of one is not seen, and slow ramps show less of their bands.
 * @param luma limited range, 16..235, changed in place  @param frame the same gives the same
 */
export function makeRestless(luma: Uint8Array, frame: number): void {
  let at = Math.floor(hashOf(frame, 7) * tableSize);
  for (let i = 0; i < luma.length; i++) {
    const value = luma[i]! + steps[at]!;
    luma[i] = value < 16 ? 16 : value > 235 ? 235 : value;
    at = (at + 1) & (tableSize - 1);
  }
}
