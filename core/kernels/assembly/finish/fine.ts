import { storeFourStraight, storeStraight } from './premultiplied';
import { at, dithersAt, pixel, rounded } from './vectors';

/*
 * Pictures of four whole numbers of 16 bits a pixel, premultiplied, in 1/128 of a step of 8 bits, with one clear pixel all
 * around.
 */

// @ts-ignore: a decorator of the compiler
@inline
const fine: f32 = 128;

/** @param stride pixels of a row in `data`, of which `width` are taken */
export function toFine(data: usize, stride: i32, width: i32, height: i32, to: usize): void {
  const row = (width + 2) * 8;
  memory.fill(to, 0, <usize>row);
  for (let y = 0; y < height; y++) {
    const out = at(to, y + 1, row);
    store<u64>(out, 0);
    let x = 0;
    for (; x + 4 <= width; x += 4) fourToFine(at(data, y * stride + x, 4), at(out, x + 1, 8));
    for (; x < width; x++) oneToFine(at(data, y * stride + x, 4), at(out, x + 1, 8));
    store<u64>(at(out, width + 1, 8), 0);
  }
  memory.fill(at(to, height + 1, row), 0, <usize>row);
}

// @ts-ignore: a decorator of the compiler
@inline
function oneToFine(address: usize, to: usize): void {
  v128.store64_lane(to, fineOf(address), 0);
}

/** Four pixels side by side. */
// @ts-ignore: a decorator of the compiler
@inline
function fourToFine(address: usize, to: usize): void {
  const four = v128.load(address);
  v128.store(to, firstTwo(four));
  v128.store(to, lastTwo(four), 16);
}

/**
 * Means of two pixels each as such a picture: of neighbours in a row or, where pairs lie upright, in a column. What is beyond an
 * odd number of them is clear.
 */
export function toPairs(data: usize, width: i32, height: i32, upright: i32, to: usize): void {
  const wide = upright ? width : (width + 1) >> 1;
  const high = upright ? (height + 1) >> 1 : height;
  const row = (wide + 2) * 8;
  memory.fill(to, 0, <usize>row);
  for (let y = 0; y < high; y++) {
    const out = at(to, y + 1, row);
    store<u64>(out, 0);
    if (upright) mixRows(at(data, 2 * y * width, 4), width, 2 * y + 1 < height, out + 8);
    else mixNeighbours(at(data, y * width, 4), width, out + 8);
    store<u64>(at(out, wide + 1, 8), 0);
  }
  memory.fill(at(to, high + 1, row), 0, <usize>row);
}

/** Means of two such means each, that follow one another in a row or, upright, in a column. @param width, height of `from` */
export function toFours(from: usize, width: i32, height: i32, upright: i32, to: usize): void {
  const wide = upright ? width : (width + 1) >> 1;
  const high = upright ? (height + 1) >> 1 : height;
  const row = (width + 2) * 8;
  const out = (wide + 2) * 8;
  memory.fill(to, 0, <usize>out);
  for (let y = 0; y < high; y++) {
    const line = at(to, y + 1, out);
    const own = at(from, (upright ? 2 * y : y) + 1, row) + 8;
    store<u64>(line, 0);
    // Beyond an odd number of them lies the clear border.
    if (upright) meansOfRows(own, own + <usize>row, wide, line + 8);
    else meansOfNeighbours(own, wide, line + 8);
    store<u64>(at(line, wide + 1, 8), 0);
  }
  memory.fill(at(to, high + 1, out), 0, <usize>out);
}

// @ts-ignore: a decorator of the compiler
@inline
function meansOfRows(one: usize, other: usize, count: i32, to: usize): void {
  // The border behind the last is written over afterwards.
  for (let x = 0; x < count; x += 2)
    v128.store(at(to, x, 8), i16x8.avgr_u(v128.load(at(one, x, 8)), v128.load(at(other, x, 8))));
}

// @ts-ignore: a decorator of the compiler
@inline
function meansOfNeighbours(from: usize, count: i32, to: usize): void {
  for (let x = 0; x < count; x++) {
    const both = v128.load(at(from, x, 16));
    v128.store64_lane(at(to, x, 8), i16x8.avgr_u(both, v128.shuffle<i64>(both, both, 1, 0)), 0);
  }
}

/** Two pixels, eight numbers 0..255, times their alpha: halves of products of 16 bits, and 1 / 255 of them more. */
// @ts-ignore: a decorator of the compiler
@inline
function twoFine(two: v128): v128 {
  const alphas = v128.shuffle<i16>(two, two, 3, 3, 3, 3, 7, 7, 7, 7);
  const whole = v128.or(two, i16x8(0, 0, 0, 255, 0, 0, 0, 255));
  const half = i16x8.avgr_u(i16x8.mul(whole, alphas), i16x8.splat(0));
  return i16x8.add(half, i16x8.q15mulr_sat_s(half, i16x8.splat(128)));
}

/** The first two of four pixels. */
// @ts-ignore: a decorator of the compiler
@inline
function firstTwo(four: v128): v128 {
  return twoFine(i16x8.extend_low_i8x16_u(four));
}

// @ts-ignore: a decorator of the compiler
@inline
function lastTwo(four: v128): v128 {
  return twoFine(i16x8.extend_high_i8x16_u(four));
}

/** One pixel, premultiplied, in the first half. */
// @ts-ignore: a decorator of the compiler
@inline
function fineOf(address: usize): v128 {
  const alpha = <f32>load<u8>(address, 3);
  const colour = f32x4.mul(pixel(address), f32x4.splat(alpha * (fine / 255)));
  const whole = rounded(f32x4.replace_lane(colour, 3, alpha * fine));
  return i16x8.narrow_i32x4_s(whole, whole);
}

function mixNeighbours(data: usize, width: i32, to: usize): void {
  let x = 0;
  for (; x + 4 <= width; x += 4) {
    const address = at(data, x, 4);
    const four = v128.load(address);
    const out = at(to, x >> 1, 8);
    const left = firstTwo(four);
    const right = lastTwo(four);
    v128.store(out, i16x8.avgr_u(v128.shuffle<i64>(left, right, 0, 2), v128.shuffle<i64>(left, right, 1, 3)));
  }
  for (; x < width; x += 2) {
    const address = at(data, x, 4);
    const next = x + 1 < width ? fineOf(address + 4) : i32x4.splat(0);
    v128.store64_lane(at(to, x >> 1, 8), i16x8.avgr_u(fineOf(address), next), 0);
  }
}

function mixRows(data: usize, width: i32, two: bool, to: usize): void {
  const below = at(data, width, 4);
  let x = 0;
  if (two)
    for (; x + 4 <= width; x += 4) {
      const four = v128.load(at(data, x, 4));
      const other = v128.load(at(below, x, 4));
      const out = at(to, x, 8);
      v128.store(out, i16x8.avgr_u(firstTwo(four), firstTwo(other)));
      v128.store(out, i16x8.avgr_u(lastTwo(four), lastTwo(other)), 16);
    }
  for (; x < width; x++) {
    const next = two ? fineOf(at(below, x, 4)) : i32x4.splat(0);
    v128.store64_lane(at(to, x, 8), i16x8.avgr_u(fineOf(at(data, x, 4)), next), 0);
  }
}

/** Four whole numbers as a straight pixel, dithered. */
// @ts-ignore: a decorator of the compiler
@inline
export function storeFine(address: usize, whole: v128, x: i32, y: i32): void {
  storeStraight(address, firstSum(whole), x, y);
}

/** Two pairs of pixels side by side as straight pixels, dithered: most are opaque or clear, and then four are one step. */
// @ts-ignore: a decorator of the compiler
@inline
export function storeFour(address: usize, left: v128, right: v128, x: i32, y: i32): void {
  const alphas = i16x8(0, 0, 0, -1, 0, 0, 0, -1);
  if (!v128.any_true(v128.or(left, right))) return v128.store(address, left);
  // Rounded means of opaque pixels may lack a little.
  const opaque = i16x8.splat(<i16>(255 * fine) - 4);
  const least = v128.and(i16x8.gt_s(left, opaque), i16x8.gt_s(right, opaque));
  if (i16x8.all_true(v128.or(least, v128.not(alphas)))) {
    const noise = rounded(f32x4.mul(dithersAt(x, y), f32x4.splat(fine)));
    const narrow = i16x8.narrow_i32x4_s(noise, noise);
    const twice = interleaved(narrow, narrow);
    const half = i16x8.splat(<i16>fine / 2);
    const one = i16x8.add_sat_s(i16x8.add_sat_s(left, v128.shuffle<i32>(twice, twice, 0, 0, 1, 1)), half);
    const other = i16x8.add_sat_s(i16x8.add_sat_s(right, v128.shuffle<i32>(twice, twice, 2, 2, 3, 3)), half);
    const pixels = i8x16.narrow_i16x8_u(i16x8.shr_s(one, 7), i16x8.shr_s(other, 7));
    return v128.store(address, v128.or(pixels, i32x4.splat(0xff000000)));
  }
  storeFourStraight(address, firstSum(left), lastSum(left), firstSum(right), lastSum(right), x, y);
}

/** The first of two pixels as a sum of floats 0..255. */
// @ts-ignore: a decorator of the compiler
@inline
function firstSum(two: v128): v128 {
  return f32x4.mul(floatsOf(two), f32x4.splat(1 / fine));
}

// @ts-ignore: a decorator of the compiler
@inline
function lastSum(two: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(two)), f32x4.splat(1 / fine));
}

/** As straight pixels, dithered. */
export function fromFine(from: usize, width: i32, height: i32, data: usize): void {
  const row = (width + 2) * 8;
  for (let y = 0; y < height; y++) {
    const line = at(from, (y + 1) * row + 8, 1);
    let x = 0;
    for (; x + 4 <= width; x += 4)
      storeFour(at(data, y * width + x, 4), v128.load(at(line, x, 8)), v128.load(at(line, x, 8), 16), x, y);
    for (; x < width; x++) storeFine(at(data, y * width + x, 4), v128.load64_zero(at(line, x, 8)), x, y);
  }
}

/*
 * Between four pixels by sums of two products in one step, with shares in 1/128. Places are in 1 / 2^15 of a pixel, along a line
 * and across lines; what belongs to four of them is computed at once, shares as pairs of 16 bits: of a pixel and of the next one.
 */

/** Shares, along, of a pixel and of the next one. */
// @ts-ignore: a decorator of the compiler
@inline
export function sharesAlong(places: v128): v128 {
  const beyond = v128.and(i32x4.shr_u(places, 8), i32x4.splat(127));
  return v128.or(i32x4.sub(i32x4.splat(128), beyond), i32x4.shl(beyond, 16));
}

/** Shares of both pixels on the second of two lines, from those along. */
// @ts-ignore: a decorator of the compiler
@inline
export function sharesBelow(along: v128, across: v128): v128 {
  const beyond = v128.and(i32x4.shr_u(across, 8), i32x4.splat(127));
  return i16x8.mul(along, v128.or(beyond, i32x4.shl(beyond, 16)));
}

/** And on the first: what is missing. */
// @ts-ignore: a decorator of the compiler
@inline
export function sharesAbove(along: v128, below: v128): v128 {
  return i16x8.sub(i16x8.shl(along, 7), below);
}

/** Where the first of the four pixels lies, from the picture's. */
// @ts-ignore: a decorator of the compiler
@inline
export function addressesOf(along: v128, across: v128, line: i32): v128 {
  return i32x4.add(i32x4.mul(i32x4.shr_s(across, 15), i32x4.splat(line)), i32x4.shl(i32x4.shr_s(along, 15), 3));
}

/** Numbers of two vectors' first halves in turns: one of the orders machines have a step for. */
// @ts-ignore: a decorator of the compiler
@inline
export function interleaved(one: v128, other: v128): v128 {
  return v128.shuffle<i16>(one, other, 0, 8, 1, 9, 2, 10, 3, 11);
}

/** Two neighbours of a line, mixed with the two of the next line, as four whole numbers of 32 bits. @param above, below four times the shares of a place */
// @ts-ignore: a decorator of the compiler
@inline
export function mixedFour(address: usize, line: i32, above: v128, below: v128): v128 {
  const next = address + <usize>line;
  const upper = interleaved(v128.load64_zero(address), v128.load64_zero(address, 8));
  const lower = interleaved(v128.load64_zero(next), v128.load64_zero(next, 8));
  const first = i32x4.dot_i16x8_s(upper, above);
  const second = i32x4.dot_i16x8_s(lower, below);
  return i32x4.shr_s(i32x4.add(first, second), 14);
}

/* The same for each of four places: the compiler wants the number of a lane written out. */

// @ts-ignore: a decorator of the compiler
@inline
export function mixedFirst(from: usize, line: i32, addresses: v128, above: v128, below: v128): v128 {
  const address = from + <usize>i32x4.extract_lane(addresses, 0);
  return mixedFour(address, line, v128.shuffle<i32>(above, above, 0, 0, 0, 0), v128.shuffle<i32>(below, below, 0, 0, 0, 0));
}

// @ts-ignore: a decorator of the compiler
@inline
export function mixedSecond(from: usize, line: i32, addresses: v128, above: v128, below: v128): v128 {
  const address = from + <usize>i32x4.extract_lane(addresses, 1);
  return mixedFour(address, line, v128.shuffle<i32>(above, above, 1, 1, 1, 1), v128.shuffle<i32>(below, below, 1, 1, 1, 1));
}

// @ts-ignore: a decorator of the compiler
@inline
export function mixedThird(from: usize, line: i32, addresses: v128, above: v128, below: v128): v128 {
  const address = from + <usize>i32x4.extract_lane(addresses, 2);
  return mixedFour(address, line, v128.shuffle<i32>(above, above, 2, 2, 2, 2), v128.shuffle<i32>(below, below, 2, 2, 2, 2));
}

// @ts-ignore: a decorator of the compiler
@inline
export function mixedFourth(from: usize, line: i32, addresses: v128, above: v128, below: v128): v128 {
  const address = from + <usize>i32x4.extract_lane(addresses, 3);
  return mixedFour(address, line, v128.shuffle<i32>(above, above, 3, 3, 3, 3), v128.shuffle<i32>(below, below, 3, 3, 3, 3));
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
