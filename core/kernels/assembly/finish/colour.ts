import { areEven, at, lightOf, mixed, opaqueOf, pixel, storePixel, withAlpha } from './vectors';

/** Every channel through its table of 256 bytes; the tables of red, green and blue follow each other. */
export function throughTables(data: usize, pixels: i32, tables: usize): void {
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    store<u8>(i, load<u8>(tables + load<u8>(i)));
    store<u8>(i, load<u8>(tables + load<u8>(i, 1), 256), 1);
    store<u8>(i, load<u8>(tables + load<u8>(i, 2), 512), 2);
  }
}

/** Colours times a matrix, plus a colour. @param matrix four vectors: what red, green and blue become, and what is added */
export function throughMatrix(data: usize, pixels: i32, matrix: usize): void {
  const red = v128.load(matrix);
  const green = v128.load(matrix, 16);
  const blue = v128.load(matrix, 32);
  const added = v128.load(matrix, 48);
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    if (load<u8>(i, 3) == 0) continue;
    const from = pixel(i);
    const sum = f32x4.add(
      f32x4.add(
        f32x4.mul(v128.shuffle<i32>(from, from, 0, 0, 0, 0), red),
        f32x4.mul(v128.shuffle<i32>(from, from, 1, 1, 1, 1), green),
      ),
      f32x4.add(f32x4.mul(v128.shuffle<i32>(from, from, 2, 2, 2, 2), blue), added),
    );
    storePixel(i, withAlpha(sum, from));
  }
}

/** A colour for every light, from a table of `steps` + 1 vectors between which it is mixed, by an amount. */
export function byLight(data: usize, pixels: i32, table: usize, steps: i32, amount: f32): void {
  const scale = <f32>steps / 255;
  const share = f32x4.splat(amount);
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    if (load<u8>(i, 3) == 0) continue;
    const from = pixel(i);
    const place = lightOf(from) * scale;
    const n = min(<i32>place, steps - 1);
    const low = v128.load(at(table, n, 16));
    const wanted = mixed(low, v128.load(at(table, n + 1, 16)), f32x4.splat(place - <f32>n));
    storePixel(i, withAlpha(mixed(from, wanted, share), from));
  }
}

/** Of pixels each weighed by its alpha: sums of the channels, of their squares, and of red x green, red x blue and green x blue. */
let weight: f64 = 0;
let sums: v128 = f32x4.splat(0);
let squares: v128 = f32x4.splat(0);
let products: v128 = f32x4.splat(0);

// @ts-ignore: a decorator of the compiler
@inline
function weigh(address: usize): void {
  const alpha = <f32>load<u8>(address, 3);
  if (alpha == 0) return;
  const colour = pixel(address);
  const weighted = f32x4.mul(colour, f32x4.splat(alpha));
  weight += <f64>alpha;
  sums = f32x4.add(sums, weighted);
  squares = f32x4.add(squares, f32x4.mul(weighted, colour));
  const one = v128.shuffle<i32>(weighted, weighted, 0, 0, 1, 3);
  products = f32x4.add(products, f32x4.mul(one, v128.shuffle<i32>(colour, colour, 1, 2, 2, 3)));
}

/** Long sums of floats lose what is added last: they are kept as doubles every few pixels. */
function keepWeighed(out: usize): void {
  addTo(out, 1, f32x4.extract_lane(sums, 0));
  addTo(out, 2, f32x4.extract_lane(sums, 1));
  addTo(out, 3, f32x4.extract_lane(sums, 2));
  addTo(out, 4, f32x4.extract_lane(squares, 0));
  addTo(out, 5, f32x4.extract_lane(products, 0));
  addTo(out, 6, f32x4.extract_lane(products, 1));
  addTo(out, 7, f32x4.extract_lane(squares, 1));
  addTo(out, 8, f32x4.extract_lane(products, 2));
  addTo(out, 9, f32x4.extract_lane(squares, 2));
  sums = f32x4.splat(0);
  squares = f32x4.splat(0);
  products = f32x4.splat(0);
}

/** Eight channels of 16 bits, of two times four pixels. */
// @ts-ignore: a decorator of the compiler
@inline
function eight(one: v128, other: v128, bits: i32): v128 {
  const byte = i32x4.splat(255);
  return i16x8.narrow_i32x4_s(v128.and(i32x4.shr_u(one, bits), byte), v128.and(i32x4.shr_u(other, bits), byte));
}

/** Adds four whole numbers, weighed as opaque pixels are. */
// @ts-ignore: a decorator of the compiler
@inline
function addWhole(out: usize, n: i32, four: v128): void {
  const both = i64x2.add(i64x2.extend_low_i32x4_s(four), i64x2.extend_high_i32x4_s(four));
  const place = at(out, n, 8);
  store<f64>(place, load<f64>(place) + 255 * <f64>(i64x2.extract_lane(both, 0) + i64x2.extract_lane(both, 1)));
}

/**
 * Up to `most` pixels by eights, as long as all are opaque or clear, as most are: in whole numbers.
 * @returns how many they were
 */
function weighEven(data: usize, most: i32, out: usize): i32 {
  const ones = i16x8.splat(1);
  let count = i32x4.splat(0);
  let red = i32x4.splat(0);
  let green = i32x4.splat(0);
  let blue = i32x4.splat(0);
  let rr = i32x4.splat(0);
  let rg = i32x4.splat(0);
  let rb = i32x4.splat(0);
  let gg = i32x4.splat(0);
  let gb = i32x4.splat(0);
  let bb = i32x4.splat(0);
  let k = 0;
  for (; k + 8 <= most; k += 8) {
    const first = v128.load(at(data, k, 4));
    const last = v128.load(at(data, k, 4), 16);
    const opaque = opaqueOf(first);
    const otherOpaque = opaqueOf(last);
    if (!areEven(first, opaque) || !areEven(last, otherOpaque)) break;
    const one = v128.and(first, opaque);
    const other = v128.and(last, otherOpaque);
    const r = eight(one, other, 0);
    const g = eight(one, other, 8);
    const b = eight(one, other, 16);
    count = i32x4.sub(count, i32x4.add(opaque, otherOpaque));
    red = i32x4.add(red, i32x4.dot_i16x8_s(r, ones));
    green = i32x4.add(green, i32x4.dot_i16x8_s(g, ones));
    blue = i32x4.add(blue, i32x4.dot_i16x8_s(b, ones));
    rr = i32x4.add(rr, i32x4.dot_i16x8_s(r, r));
    rg = i32x4.add(rg, i32x4.dot_i16x8_s(r, g));
    rb = i32x4.add(rb, i32x4.dot_i16x8_s(r, b));
    gg = i32x4.add(gg, i32x4.dot_i16x8_s(g, g));
    gb = i32x4.add(gb, i32x4.dot_i16x8_s(g, b));
    bb = i32x4.add(bb, i32x4.dot_i16x8_s(b, b));
  }
  if (k == 0) return 0;
  addWhole(out, 0, count);
  addWhole(out, 1, red);
  addWhole(out, 2, green);
  addWhole(out, 3, blue);
  addWhole(out, 4, rr);
  addWhole(out, 5, rg);
  addWhole(out, 6, rb);
  addWhole(out, 7, gg);
  addWhole(out, 8, gb);
  addWhole(out, 9, bb);
  return k;
}

/** So many pixels at once, of which no sum of whole numbers grows beyond 32 bits. */
const atOnce = 65536;

/** Sums weighted by alpha, ten f64: alpha, the channels, red x red, x green, x blue, green x green, x blue, blue x blue. */
export function moments(data: usize, pixels: i32, out: usize): void {
  weight = 0;
  let k = 0;
  while (k < pixels) {
    k += weighEven(at(data, k, 4), min(atOnce, pixels - k), out);
    const end = min(pixels, k + 32);
    for (; k < end; k++) weigh(at(data, k, 4));
    keepWeighed(out);
  }
  store<f64>(out, load<f64>(out) + weight);
}

// @ts-ignore: a decorator of the compiler
@inline
function addTo(out: usize, n: i32, sum: f32): void {
  const place = at(out, n, 8);
  store<f64>(place, load<f64>(place) + <f64>sum);
}
