import { at } from '../memory';

/* Sums over square windows that move along; what lies beyond a border is what lies on it (core/pixels/filters.ts). */

// @ts-ignore: a decorator of the compiler
@inline
function float(row: usize, x: i32): f64 {
  return <f64>load<f32>(at(row, x, 4));
}

/** Two floats as doubles. */
// @ts-ignore: a decorator of the compiler
@inline
function two(address: usize): v128 {
  return f64x2.promote_low_f32x4(v128.load64_zero(address));
}

function meansInRows(from: usize, to: usize, width: i32, height: i32, radius: i32, scale: f64): void {
  const last = width - 1;
  for (let y = 0; y < height; y++) {
    const row = at(from, y * width, 4);
    const out = at(to, y * width, 4);
    let sum = float(row, 0) * <f64>(radius + 1);
    for (let k = 1; k <= radius; k++) sum += float(row, min(last, k));
    const inner = min(width, radius);
    const outer = max(inner, width - radius - 1);
    let x = 0;
    for (; x < inner; x++) {
      store<f32>(at(out, x, 4), <f32>(sum * scale));
      sum += float(row, min(last, x + radius + 1)) - float(row, 0);
    }
    for (; x < outer; x++) {
      store<f32>(at(out, x, 4), <f32>(sum * scale));
      sum += float(row, x + radius + 1) - float(row, x - radius);
    }
    for (; x < width; x++) {
      store<f32>(at(out, x, 4), <f32>(sum * scale));
      sum += float(row, last) - float(row, x - radius);
    }
  }
}

/**
 * Box mean of a plane of floats, in both directions.
 * @param rows memory for a plane  @param sums memory for as many doubles as it is wide, and one  @param to may be `from`
 */
export function boxMean(from: usize, width: i32, height: i32, radius: i32, rows: usize, sums: usize, to: usize): void {
  const scale: f64 = 1 / <f64>(2 * radius + 1);
  meansInRows(from, rows, width, height, radius, scale);
  const share = f64x2.splat(scale);
  for (let x = 0; x < width; x++) {
    let sum = float(rows, x) * <f64>(radius + 1);
    for (let k = 1; k <= radius; k++) sum += float(at(rows, min(height - 1, k) * width, 4), x);
    store<f64>(at(sums, x, 8), sum);
  }
  for (let y = 0; y < height; y++) {
    const out = at(to, y * width, 4);
    const enters = at(rows, min(height - 1, y + radius + 1) * width, 4);
    const leaves = at(rows, max(0, y - radius) * width, 4);
    let x = 0;
    for (; x + 2 <= width; x += 2) {
      const own = at(sums, x, 8);
      const sum = v128.load(own);
      v128.store64_lane(at(out, x, 4), f32x4.demote_f64x2_zero(f64x2.mul(sum, share)), 0);
      v128.store(own, f64x2.add(sum, f64x2.sub(two(at(enters, x, 4)), two(at(leaves, x, 4)))));
    }
    if (x == width) continue;
    const sum = load<f64>(at(sums, x, 8));
    store<f32>(at(out, x, 4), <f32>(sum * scale));
    store<f64>(at(sums, x, 8), sum + (float(enters, x) - float(leaves, x)));
  }
}

function countsInRows(from: usize, to: usize, width: i32, height: i32, radius: i32): void {
  const last = width - 1;
  for (let y = 0; y < height; y++) {
    const row = at(from, y * width, 1);
    const out = at(to, y * width, 1);
    let sum = <i32>load<u8>(row) * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += load<u8>(at(row, min(last, k), 1));
    for (let x = 0; x < width; x++) {
      store<u8>(at(out, x, 1), <u8>sum);
      sum += <i32>load<u8>(at(row, min(last, x + radius + 1), 1)) - <i32>load<u8>(at(row, max(0, x - radius), 1));
    }
  }
}

/** Eight bytes as numbers of 16 bits. */
// @ts-ignore: a decorator of the compiler
@inline
function eight(address: usize): v128 {
  return i16x8.extend_low_i8x16_u(v128.load64_zero(address));
}

/**
 * How many of the bytes (0 or 1) of each window are set, as 16 bits.
 * @param radius up to 127  @param rows memory for as many bytes  @param sums memory for 16 bits a column, and eight more
 * @param to memory for 16 bits each, and eight more
 */
export function boxCounts(from: usize, width: i32, height: i32, radius: i32, rows: usize, sums: usize, to: usize): void {
  countsInRows(from, rows, width, height, radius);
  for (let x = 0; x < width; x++) {
    let sum = <i32>load<u8>(at(rows, x, 1)) * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += load<u8>(at(rows, min(height - 1, k) * width + x, 1));
    store<u16>(at(sums, x, 2), <u16>sum);
  }
  for (let y = 0; y < height; y++) {
    const out = at(to, y * width, 2);
    const enters = at(rows, min(height - 1, y + radius + 1) * width, 1);
    const leaves = at(rows, max(0, y - radius) * width, 1);
    // What is written beyond the end of a row is written again with the next one.
    for (let x = 0; x < width; x += 8) {
      const own = at(sums, x, 2);
      const sum = v128.load(own);
      v128.store(at(out, x, 2), sum);
      v128.store(own, i16x8.add(sum, i16x8.sub(eight(at(enters, x, 1)), eight(at(leaves, x, 1)))));
    }
  }
}
