import { at, lightOf, mixed, pixel, storePixel, withAlpha } from './vectors';

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

/** Sums weighted by alpha, ten f64: alpha, the channels, red x red, x green, x blue, green x green, x blue, blue x blue. */
export function moments(data: usize, pixels: i32, out: usize): void {
  let weight: f64 = 0;
  let sums = f32x4.splat(0);
  let squares = f32x4.splat(0);
  let products = f32x4.splat(0);
  for (let k = 0; k < pixels; k++) {
    const i = at(data, k, 4);
    const alpha = <f32>load<u8>(i, 3);
    if (alpha != 0) {
      const colour = pixel(i);
      const weighted = f32x4.mul(colour, f32x4.splat(alpha));
      weight += <f64>alpha;
      sums = f32x4.add(sums, weighted);
      squares = f32x4.add(squares, f32x4.mul(weighted, colour));
      // Red-green, red-blue, green-blue.
      const one = v128.shuffle<i32>(weighted, weighted, 0, 0, 1, 3);
      products = f32x4.add(products, f32x4.mul(one, v128.shuffle<i32>(colour, colour, 1, 2, 2, 3)));
    }
    // Long sums of floats lose what is added last: they are kept as doubles every few pixels.
    if ((k & 255) != 255 && k != pixels - 1) continue;
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
  store<f64>(out, weight);
}

// @ts-ignore: a decorator of the compiler
@inline
function addTo(out: usize, n: i32, sum: f32): void {
  const place = at(out, n, 8);
  store<f64>(place, load<f64>(place) + <f64>sum);
}
