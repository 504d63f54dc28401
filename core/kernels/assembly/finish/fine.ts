import { storeStraight } from './premultiplied';
import { at, pixel, rounded } from './vectors';

/*
 * Pictures of four whole numbers of 16 bits a pixel, premultiplied, in 1/128 of a step of 8 bits, with one clear pixel all
 * around.
 */

// @ts-ignore: a decorator of the compiler
@inline
const fine: f32 = 128;

export function toFine(data: usize, width: i32, height: i32, to: usize): void {
  const row = (width + 2) * 8;
  memory.fill(to, 0, <usize>row);
  for (let y = 0; y < height; y++) {
    const out = at(to, y + 1, row);
    store<u64>(out, 0);
    for (let x = 0; x < width; x++) {
      const i = at(data, y * width + x, 4);
      const alpha = <f32>load<u8>(i, 3);
      const colour = f32x4.mul(pixel(i), f32x4.splat(alpha * (fine / 255)));
      storeWhole(at(out, x + 1, 8), f32x4.replace_lane(colour, 3, alpha * fine));
    }
    store<u64>(at(out, width + 1, 8), 0);
  }
  memory.fill(at(to, height + 1, row), 0, <usize>row);
}

/** Four whole numbers as a straight pixel, dithered. */
// @ts-ignore: a decorator of the compiler
@inline
export function storeFine(address: usize, whole: v128, x: i32, y: i32): void {
  storeStraight(address, f32x4.mul(floatsOf(whole), f32x4.splat(1 / fine)), x, y);
}

/** As straight pixels, dithered. */
export function fromFine(from: usize, width: i32, height: i32, data: usize): void {
  const row = (width + 2) * 8;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const whole = v128.load64_zero(at(from, (y + 1) * row + (x + 1) * 8, 1));
      storeFine(at(data, y * width + x, 4), whole, x, y);
    }
  }
}

/** What a place in 1 / 2^15 of a pixel is beyond the pixel. */
// @ts-ignore: a decorator of the compiler
@inline
export function beyond(place: i32): v128 {
  return i16x8.splat(<i16>(place & 0x7fff));
}

/** Between one and another. */
// @ts-ignore: a decorator of the compiler
@inline
export function mixedFine(one: v128, other: v128, share: v128): v128 {
  return i16x8.add(one, i16x8.q15mulr_sat_s(i16x8.sub(other, one), share));
}

/** Between two pixels side by side, that lie in memory one after the other. */
// @ts-ignore: a decorator of the compiler
@inline
export function mixedPair(pair: v128, share: v128): v128 {
  return mixedFine(pair, v128.shuffle<i64>(pair, pair, 1, 0), share);
}

/** A vector of floats of them. */
// @ts-ignore: a decorator of the compiler
@inline
export function floatsOf(whole: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(whole));
}

/** The same, rounded, and back. */
// @ts-ignore: a decorator of the compiler
@inline
export function storeWhole(address: usize, value: v128): void {
  const whole = rounded(value);
  v128.store64_lane(address, i16x8.narrow_i32x4_s(whole, whole), 0);
}
