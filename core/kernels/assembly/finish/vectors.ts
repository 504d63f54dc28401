/* Pixels of four bytes and vectors of four numbers 0..255. */

// @ts-ignore: a decorator of the compiler
@inline
export function at(base: usize, index: i32, bytes: i32): usize {
  return base + <usize>index * <usize>bytes;
}

/** One pixel as numbers. */
// @ts-ignore: a decorator of the compiler
@inline
export function pixel(address: usize): v128 {
  const bytes = i32x4.replace_lane(i32x4.splat(0), 0, load<i32>(address));
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(bytes)));
}

/** Whole numbers nearest to numbers below 2^22: added to so large a number, a float keeps no fraction. */
// @ts-ignore: a decorator of the compiler
@inline
export function rounded(value: v128): v128 {
  return i32x4.sub(f32x4.add(value, f32x4.splat(12582912)), i32x4.splat(0x4b400000));
}

/** Stores numbers as one pixel: rounded, and none beyond 0..255. */
// @ts-ignore: a decorator of the compiler
@inline
export function storePixel(address: usize, value: v128): void {
  const whole = rounded(value);
  const halves = i16x8.narrow_i32x4_s(whole, whole);
  store<i32>(address, i32x4.extract_lane(i8x16.narrow_i16x8_u(halves, halves), 0));
}

/** The first three of one vector, the fourth of another. */
// @ts-ignore: a decorator of the compiler
@inline
export function withAlpha(colour: v128, alpha: v128): v128 {
  return v128.shuffle<i32>(colour, alpha, 0, 1, 2, 7);
}

// @ts-ignore: a decorator of the compiler
@inline
export function colourOf(red: f32, green: f32, blue: f32): v128 {
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(red), 1, green), 2, blue);
}

// @ts-ignore: a decorator of the compiler
@inline
export function mixed(from: v128, to: v128, share: v128): v128 {
  return f32x4.add(from, f32x4.mul(f32x4.sub(to, from), share));
}

/** Light of a colour (ITU-R BT.709 weights on the values as they are). */
// @ts-ignore: a decorator of the compiler
@inline
export function lightOf(colour: v128): f32 {
  return (
    <f32>0.2126 * f32x4.extract_lane(colour, 0) +
    <f32>0.7152 * f32x4.extract_lane(colour, 1) +
    <f32>0.0722 * f32x4.extract_lane(colour, 2)
  );
}

// @ts-ignore: a decorator of the compiler
@inline
export function within(value: f32, least: f32, most: f32): f32 {
  return value < least ? least : value > most ? most : value;
}

/** Ordered dither of -0.5..0.5: interleaved gradient noise (Jimenez 2014). */
// @ts-ignore: a decorator of the compiler
@inline
export function ditherAt(x: i32, y: i32): f32 {
  const slope = <f32>0.06711056 * <f32>x + <f32>0.00583715 * <f32>y;
  const v = <f32>52.9829189 * (slope - floor<f32>(slope));
  return v - floor<f32>(v) - 0.5;
}

/** The same for four pixels side by side. */
// @ts-ignore: a decorator of the compiler
@inline
export function dithersAt(x: i32, y: i32): v128 {
  const columns = f32x4.add(f32x4.splat(<f32>x), f32x4(0, 1, 2, 3));
  const slope = f32x4.add(f32x4.mul(columns, f32x4.splat(0.06711056)), f32x4.splat(<f32>0.00583715 * <f32>y));
  const v = f32x4.mul(f32x4.sub(slope, f32x4.floor(slope)), f32x4.splat(52.9829189));
  return f32x4.sub(f32x4.sub(v, f32x4.floor(v)), f32x4.splat(0.5));
}

/** An integer hash as 0..1 (Wellons' lowbias32). */
// @ts-ignore: a decorator of the compiler
@inline
export function hash(a: i32, b: i32, c: i32): f32 {
  let h: u32 = (a * <i32>0x9e3779b1) ^ (b * <i32>0x85ebca6b) ^ (c * <i32>0xc2b2ae35);
  h = (h ^ (h >> 16)) * 0x7feb352d;
  h = (h ^ (h >> 15)) * 0x846ca68b;
  return <f32>(h ^ (h >> 16)) * <f32>(1.0 / 4294967296.0);
}

/** The same for four first numbers at once. */
// @ts-ignore: a decorator of the compiler
@inline
export function hashes(a: v128, b: i32, c: i32): v128 {
  const rest = i32x4.splat((b * <i32>0x85ebca6b) ^ (c * <i32>0xc2b2ae35));
  let h = v128.xor(i32x4.mul(a, i32x4.splat(<i32>0x9e3779b1)), rest);
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(0x7feb352d));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 15)), i32x4.splat(<i32>0x846ca68b));
  return f32x4.mul(f32x4.convert_i32x4_u(v128.xor(h, i32x4.shr_u(h, 16))), f32x4.splat(1.0 / 4294967296.0));
}

/** Of four pixels those that are opaque, as bits all set. */
// @ts-ignore: a decorator of the compiler
@inline
export function opaqueOf(four: v128): v128 {
  return i32x4.eq(i32x4.shr_u(four, 24), i32x4.splat(255));
}

/** Whether each of four pixels is opaque or clear, as most are. */
// @ts-ignore: a decorator of the compiler
@inline
export function areEven(four: v128, opaque: v128): bool {
  return i32x4.all_true(v128.or(opaque, i32x4.eq(i32x4.shr_u(four, 24), i32x4.splat(0))));
}
