import { storeStraight } from './premultiplied';
import { at, pixel, rounded } from './vectors';

/*
 * Means of moved copies, in pictures of four whole numbers of 16 bits a pixel, premultiplied, in 1/128 of a step of 8 bits, with
 * one clear pixel all around.
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
      const whole = rounded(f32x4.replace_lane(colour, 3, alpha * fine));
      v128.store64_lane(at(out, x + 1, 8), i16x8.narrow_i32x4_s(whole, whole), 0);
    }
    store<u64>(at(out, width + 1, 8), 0);
  }
  memory.fill(at(to, height + 1, row), 0, <usize>row);
}

/** As straight pixels, dithered. */
export function fromFine(from: usize, width: i32, height: i32, data: usize): void {
  const row = (width + 2) * 8;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const whole = v128.load64_zero(at(from, (y + 1) * row + (x + 1) * 8, 1));
      const sum = f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(whole)), f32x4.splat(1 / fine));
      storeStraight(at(data, y * width + x, 4), sum, x, y);
    }
  }
}

/** Places are counted in 1 / 2^32 of a pixel, so that steps along a row may be added up. */
// @ts-ignore: a decorator of the compiler
@inline
function fixed(value: f32): i64 {
  return <i64>(<f64>value * 4294967296.0);
}

/** How far a place is beyond a pixel, in 1 / 2^15. */
// @ts-ignore: a decorator of the compiler
@inline
function beyond(place: i64): i16 {
  return <i16>((place >> 17) & 0x7fff);
}

/** The pixels left and right of a place, of the rows above and below it mixed; clear outside. */
// @ts-ignore: a decorator of the compiler
@inline
function besides(from: usize, width: i32, height: i32, u: i64, v: i64): v128 {
  const column = <u32>((u >> 32) + 1);
  const line = <u32>((v >> 32) + 1);
  if (column > <u32>width || line > <u32>height) return i64x2.splat(0);
  const row = <usize>(width + 2) * 8;
  return between(from + <usize>line * row + <usize>column * 8, row, i16x8.splat(beyond(v)));
}

/** Two pixels mixed with the two below them. */
// @ts-ignore: a decorator of the compiler
@inline
function between(address: usize, row: usize, share: v128): v128 {
  const upper = v128.load(address);
  return i16x8.add(upper, i16x8.q15mulr_sat_s(i16x8.sub(v128.load(address + row), upper), share));
}

/** Mean of two places, each of two pixels beside it. */
// @ts-ignore: a decorator of the compiler
@inline
function storeMean(out: usize, one: v128, other: v128, u1: i64, u2: i64): void {
  const left = v128.shuffle<i64>(one, other, 0, 2);
  const right = i16x8.sub(v128.shuffle<i64>(one, other, 1, 3), left);
  const share = v128.shuffle<i64>(i16x8.splat(beyond(u1)), i16x8.splat(beyond(u2)), 0, 2);
  const both = i16x8.add(left, i16x8.q15mulr_sat_s(right, share));
  v128.store64_lane(out, i16x8.avgr_u(both, v128.shuffle<i64>(both, both, 1, 0)), 0);
}

/** A row of places that come from two rows, as those of a growth do. */
function levelRow(from: usize, width: i32, height: i32, u1: i64, v1: i64, a1: i64, u2: i64, v2: i64, a2: i64, out: usize): void {
  const row = <usize>(width + 2) * 8;
  const line1 = <u32>((v1 >> 32) + 1);
  const line2 = <u32>((v2 >> 32) + 1);
  // The clear row above the first is read for rows outside.
  const first = from + <usize>(line1 > <u32>height ? 0 : line1) * row;
  const second = from + <usize>(line2 > <u32>height ? 0 : line2) * row;
  const share1 = i16x8.splat(line1 > <u32>height ? 0 : beyond(v1));
  const share2 = i16x8.splat(line2 > <u32>height ? 0 : beyond(v2));
  const clear = i64x2.splat(0);
  for (let x = 0; x < width; x++) {
    const column1 = <u32>((u1 >> 32) + 1);
    const column2 = <u32>((u2 >> 32) + 1);
    const one = column1 > <u32>width ? clear : between(first + <usize>column1 * 8, row, share1);
    const other = column2 > <u32>width ? clear : between(second + <usize>column2 * 8, row, share2);
    storeMean(at(out, x, 8), one, other, u1, u2);
    u1 += a1;
    u2 += a2;
  }
}

/**
 * Mean of two copies, each pixel taken from where two maps lead.
 * @param maps twelve f32: two matrices a, b, c, d, e, f, by which (x, y) comes from (a x + c y + e, b x + d y + f)
 */
export function halfApart(from: usize, width: i32, height: i32, maps: usize, to: usize): void {
  const row = (width + 2) * 8;
  memory.fill(to, 0, <usize>row);
  memory.fill(at(to, height + 1, row), 0, <usize>row);
  const a1 = fixed(load<f32>(maps));
  const b1 = fixed(load<f32>(maps, 4));
  const a2 = fixed(load<f32>(maps, 24));
  const b2 = fixed(load<f32>(maps, 28));
  for (let y = 0; y < height; y++) {
    const out = at(to, y + 1, row);
    store<u64>(out, 0);
    store<u64>(at(out, width + 1, 8), 0);
    const down = <f32>y;
    let u1 = fixed(load<f32>(maps, 8) * down + load<f32>(maps, 16));
    let v1 = fixed(load<f32>(maps, 12) * down + load<f32>(maps, 20));
    let u2 = fixed(load<f32>(maps, 32) * down + load<f32>(maps, 40));
    let v2 = fixed(load<f32>(maps, 36) * down + load<f32>(maps, 44));
    if (b1 == 0 && b2 == 0) {
      levelRow(from, width, height, u1, v1, a1, u2, v2, a2, out + 8);
      continue;
    }
    for (let x = 0; x < width; x++) {
      const one = besides(from, width, height, u1, v1);
      const other = besides(from, width, height, u2, v2);
      storeMean(at(out, x + 1, 8), one, other, u1, u2);
      u1 += a1;
      v1 += b1;
      u2 += a2;
      v2 += b2;
    }
  }
}
