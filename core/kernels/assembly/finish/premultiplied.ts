import { enlargedRow } from './sizes';
import { areEven, at, ditherAt, dithersAt, lightOf, mixed, opaqueOf, pixel, rounded, storePixel, withAlpha } from './vectors';

/* Pictures of four floats a pixel, 0..255: colours times alpha, and alpha. */

/** Adds straight pixels, premultiplied and times a weight, to a sum. */
export function addPremultiplied(sum: usize, data: usize, pixels: i32, weight: f32): void {
  const share = weight / 255;
  for (let k = 0; k < pixels; k++) {
    const alpha = <f32>load<u8>(at(data, k, 4), 3);
    if (alpha == 0) continue;
    const colour = f32x4.mul(pixel(at(data, k, 4)), f32x4.splat(alpha * share));
    const i = at(sum, k, 16);
    v128.store(i, f32x4.add(v128.load(i), f32x4.replace_lane(colour, 3, alpha * weight)));
  }
}

/** Whether four pixels are clear. */
// @ts-ignore: a decorator of the compiler
@inline
function areClear(address: usize): bool {
  return !v128.any_true(i32x4.shr_u(v128.load(address), 24));
}

/** How much brighter than a threshold each level above it is. */
// @ts-ignore: a decorator of the compiler
@inline
function rangeAbove(threshold: f32): f32 {
  return <f32>1 / max<f32>(0.02, <f32>1 - threshold);
}

/** What of a pixel is brighter than a threshold 0..1, premultiplied, by how much brighter it is. */
// @ts-ignore: a decorator of the compiler
@inline
function brightPart(address: usize, threshold: f32, range: f32): v128 {
  const alpha = <f32>load<u8>(address, 3);
  const colour = pixel(address);
  const part = max<f32>(0, (lightOf(colour) * <f32>(1.0 / 255.0) - threshold) * range) * alpha;
  return f32x4.replace_lane(f32x4.mul(colour, f32x4.splat(part * <f32>(1.0 / 255.0))), 3, part);
}

/** Such parts of every pixel. */
export function brightParts(data: usize, pixels: i32, threshold: f32, to: usize): void {
  const range = rangeAbove(threshold);
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    if (k + 4 <= pixels && areClear(i)) {
      memory.fill(at(to, k, 16), 0, 64);
      k += 3;
      continue;
    }
    v128.store(at(to, k, 16), brightPart(i, threshold, range));
  }
}

/**
 * Light screened over a picture, premultiplied: it adds and never clips hard.
 * @param tint four factors of the light
 * @param line if the light is half as large: memory for two rows of it, with a vector more at both ends of each; else 0
 */
export function shine(data: usize, width: i32, height: i32, light: usize, tint: usize, line: usize): void {
  const factors = v128.load(tint);
  const made = at(line, ((width + 1) >> 1) + 2, 16);
  for (let y = 0; y < height; y++) {
    if (line) enlargedRow(light, width, height, y, line, made);
    shineRow(at(data, y * width, 4), width, y, line ? made : at(light, y * width, 16), factors);
  }
}

function shineRow(data: usize, width: i32, y: i32, light: usize, factors: v128): void {
  const whole = f32x4.splat(255);
  const share = f32x4.splat(1.0 / 255.0);
  for (let x = 0; x < width; x++) {
    const added = f32x4.pmin(whole, f32x4.mul(v128.load(at(light, x, 16)), factors));
    if (!v128.any_true(f32x4.gt(added, f32x4.splat(0.01)))) continue;
    const i = at(data, x, 4);
    const own = premultipliedAt(i);
    storeStraight(i, f32x4.add(own, f32x4.mul(added, f32x4.sub(f32x4.splat(1), f32x4.mul(own, share)))), x, y);
  }
}

/** Stores the means of 2 x 2 of two times four pixels; does nothing unless each of them is opaque or clear, as most are. */
// @ts-ignore: a decorator of the compiler
@inline
function storeTwoEven(above: v128, below: v128, to: usize): bool {
  const opaque = opaqueOf(above);
  const otherOpaque = opaqueOf(below);
  if (!areEven(above, opaque) || !areEven(below, otherOpaque)) return false;
  const one = v128.and(above, opaque);
  const other = v128.and(below, otherOpaque);
  const left = i16x8.add(i16x8.extend_low_i8x16_u(one), i16x8.extend_low_i8x16_u(other));
  const right = i16x8.add(i16x8.extend_high_i8x16_u(one), i16x8.extend_high_i8x16_u(other));
  const quarter = f32x4.splat(0.25);
  v128.store(to, f32x4.mul(f32x4.convert_i32x4_u(i32x4.add(i32x4.extend_low_i16x8_u(left), i32x4.extend_high_i16x8_u(left))), quarter));
  v128.store(to, f32x4.mul(f32x4.convert_i32x4_u(i32x4.add(i32x4.extend_low_i16x8_u(right), i32x4.extend_high_i16x8_u(right))), quarter), 16);
  return true;
}

/** Half as large: means of 2 x 2 straight pixels, premultiplied; at an odd end the last ones again. */
export function halvePremultiplied(data: usize, width: i32, height: i32, to: usize): void {
  halve(data, width, height, false, 0, to);
}

/** The same of what is brighter than a threshold. */
export function halveBrightParts(data: usize, width: i32, height: i32, threshold: f32, to: usize): void {
  halve(data, width, height, true, threshold, to);
}

/** Stores two zeros where two times four pixels are clear; else does nothing. */
// @ts-ignore: a decorator of the compiler
@inline
function storeTwoClear(above: usize, below: usize, to: usize): bool {
  if (!areClear(above) || !areClear(below)) return false;
  memory.fill(to, 0, 32);
  return true;
}

/** @param bright whether only what is brighter than the threshold counts */
// @ts-ignore: a decorator of the compiler
@inline
function halve(data: usize, width: i32, height: i32, bright: bool, threshold: f32, to: usize): void {
  const range = rangeAbove(threshold);
  const columns = (width + 1) >> 1;
  for (let y = 0; 2 * y < height; y++) {
    const upper = at(data, 2 * y * width, 4);
    const lower = at(data, min(height - 1, 2 * y + 1) * width, 4);
    const row = at(to, y * columns, 16);
    for (let x = 0; x < columns; x++) {
      const left = at(0, 2 * x, 4);
      const out = at(row, x, 16);
      const plain =
        2 * x + 4 <= width &&
        (bright
          ? storeTwoClear(upper + left, lower + left, out)
          : storeTwoEven(v128.load(upper + left), v128.load(lower + left), out));
      if (plain) {
        x++;
        continue;
      }
      const right = at(0, min(width - 1, 2 * x + 1), 4);
      const above = f32x4.add(partAt(upper + left, bright, threshold, range), partAt(upper + right, bright, threshold, range));
      const below = f32x4.add(partAt(lower + left, bright, threshold, range), partAt(lower + right, bright, threshold, range));
      v128.store(out, f32x4.mul(f32x4.add(above, below), f32x4.splat(0.25)));
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function partAt(address: usize, bright: bool, threshold: f32, range: f32): v128 {
  return bright ? brightPart(address, threshold, range) : premultipliedAt(address);
}

/** A picture half as large at a pixel of the whole one, between the middles of its own (bilinear, as sizes.ts enlarges). */
// @ts-ignore: a decorator of the compiler
@inline
function halfAt(half: usize, columns: i32, rows: i32, x: i32, y: i32): v128 {
  const u = x >> 1;
  const v = y >> 1;
  const beside = min(columns - 1, max(0, (x & 1) == 0 ? u - 1 : u + 1));
  const line = at(half, v * columns, 16);
  const next = at(half, min(rows - 1, max(0, (y & 1) == 0 ? v - 1 : v + 1)) * columns, 16);
  const quarter = f32x4.splat(0.25);
  const own = mixed(v128.load(at(line, u, 16)), v128.load(at(next, u, 16)), quarter);
  return mixed(own, mixed(v128.load(at(line, beside, 16)), v128.load(at(next, beside, 16)), quarter), quarter);
}

/** Less of it is not seen: a sum that moves along is hardly ever the whole exactly. */
const least: f32 = 1.0 / 1024.0;

/**
 * Light of what lies behind, screened over colours near the edge.
 * @param inside how far inside a pixel is, 1/2 on the edge  @param halved whether `behind` is half as large
 */
export function wrap(data: usize, width: i32, height: i32, inside: usize, behind: usize, halved: i32, amount: f32): void {
  const whole = f32x4.splat(255);
  const columns = (width + 1) >> 1;
  const rows = (height + 1) >> 1;
  // So far inside nothing comes.
  const deepest = f32x4.splat(1 - least / (2 * amount));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      if (x + 4 <= width && (areClear(at(data, k, 4)) || i32x4.all_true(f32x4.gt(v128.load(at(inside, k, 4)), deepest)))) {
        x += 3;
        continue;
      }
      const edge = min<f32>(1, max<f32>(0, 2 * (1 - load<f32>(at(inside, k, 4))))) * amount;
      const i = at(data, k, 4);
      if (edge < least || load<u8>(i, 3) == 0) continue;
      const own = pixel(i);
      const light = halved ? halfAt(behind, columns, rows, x, y) : v128.load(at(behind, k, 16));
      const share = f32x4.mul(light, f32x4.splat(edge / 255));
      storePixel(i, withAlpha(f32x4.add(own, f32x4.mul(f32x4.sub(whole, own), share)), own));
    }
  }
}

/** Writes a picture as straight pixels, dithered by less than a step so that soft ramps show no bands. */
export function writeStraight(data: usize, width: i32, height: i32, sum: usize): void {
  for (let y = 0; y < height; y++) writeRow(at(data, y * width, 4), width, y, at(sum, y * width, 16));
}

/** The same of one that is half as large. @param line memory for two rows of `half`, with a vector more at both ends of each */
export function writeEnlarged(data: usize, width: i32, height: i32, half: usize, line: usize): void {
  const columns = (width + 1) >> 1;
  const made = at(line, columns + 2, 16);
  for (let y = 0; y < height; y++) {
    enlargedRow(half, width, height, y, line, made);
    writeRow(at(data, y * width, 4), width, y, made);
  }
}

function writeRow(data: usize, width: i32, y: i32, sum: usize): void {
  let x = 0;
  for (; x + 4 <= width; x += 4) {
    const i = at(sum, x, 16);
    storeFourStraight(at(data, x, 4), v128.load(i), v128.load(i, 16), v128.load(i, 32), v128.load(i, 48), x, y);
  }
  for (; x < width; x++) storeStraight(at(data, x, 4), v128.load(at(sum, x, 16)), x, y);
}

// @ts-ignore: a decorator of the compiler
@inline
function straight(sum: v128, share: v128, noise: v128, alpha: v128): v128 {
  return rounded(withAlpha(f32x4.add(f32x4.mul(sum, share), noise), alpha));
}

/** Stores four sums as straight pixels, dithered. */
// @ts-ignore: a decorator of the compiler
@inline
export function storeFourStraight(address: usize, a: v128, b: v128, c: v128, d: v128, x: i32, y: i32): void {
  const alphas = v128.shuffle<i32>(v128.shuffle<i32>(a, b, 3, 7, 3, 7), v128.shuffle<i32>(c, d, 3, 7, 3, 7), 0, 1, 4, 5);
  const there = f32x4.gt(alphas, f32x4.splat(0));
  if (!v128.any_true(there)) {
    v128.store(address, i32x4.splat(0));
    return;
  }
  const full = f32x4.splat(255);
  const shares = v128.and(f32x4.div(full, alphas), there);
  const noise = v128.and(dithersAt(x, y), there);
  const made = f32x4.add(alphas, v128.and(noise, f32x4.lt(alphas, full)));
  const one = straight(a, v128.shuffle<i32>(shares, shares, 0, 0, 0, 0), v128.shuffle<i32>(noise, noise, 0, 0, 0, 0), v128.shuffle<i32>(made, made, 0, 0, 0, 0));
  const two = straight(b, v128.shuffle<i32>(shares, shares, 1, 1, 1, 1), v128.shuffle<i32>(noise, noise, 1, 1, 1, 1), v128.shuffle<i32>(made, made, 1, 1, 1, 1));
  const three = straight(c, v128.shuffle<i32>(shares, shares, 2, 2, 2, 2), v128.shuffle<i32>(noise, noise, 2, 2, 2, 2), v128.shuffle<i32>(made, made, 2, 2, 2, 2));
  const four = straight(d, v128.shuffle<i32>(shares, shares, 3, 3, 3, 3), v128.shuffle<i32>(noise, noise, 3, 3, 3, 3), v128.shuffle<i32>(made, made, 3, 3, 3, 3));
  v128.store(address, i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(one, two), i16x8.narrow_i32x4_s(three, four)));
}

/** The same, but as much of it as was there. */
export function writeColours(data: usize, width: i32, height: i32, sum: usize): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      const i = at(data, k, 4);
      const alpha = load<u8>(i, 3);
      if (alpha == 0) continue;
      storeStraight(i, v128.load(at(sum, k, 16)), x, y);
      store<u8>(i, alpha, 3);
    }
  }
}

// @ts-ignore: a decorator of the compiler
@inline
function premultipliedAt(address: usize): v128 {
  const alpha = <f32>load<u8>(address, 3);
  const colour = f32x4.mul(pixel(address), f32x4.splat(alpha * <f32>(1.0 / 255.0)));
  return f32x4.replace_lane(colour, 3, alpha);
}

/** Stores a sum as a straight pixel, dithered. */
// @ts-ignore: a decorator of the compiler
@inline
export function storeStraight(address: usize, sum: v128, x: i32, y: i32): void {
  const alpha = f32x4.extract_lane(sum, 3);
  if (alpha <= 0) {
    store<u8>(address, 0, 3);
    return;
  }
  const noise = ditherAt(x, y);
  const colour = f32x4.add(f32x4.mul(sum, f32x4.splat(255 / alpha)), f32x4.splat(noise));
  storePixel(address, f32x4.replace_lane(colour, 3, alpha < 255 ? alpha + noise : alpha));
}
