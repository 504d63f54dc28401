import { at } from '../memory';

/* Pictures of four bytes a pixel at other sizes (core/pixels/resample.ts). */

/** The four channels of a pixel as whole numbers. */
// @ts-ignore: a decorator of the compiler
@inline
function channels(address: usize): v128 {
  return i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(address)));
}

/** Two doubles as whole numbers, those in the middle to the even one, none beyond a byte. */
// @ts-ignore: a decorator of the compiler
@inline
function bytesOf(values: v128): v128 {
  return i32x4.trunc_sat_f64x2_s_zero(f64x2.nearest(values));
}

/**
 * Every pixel the mean of the area it covers.
 * @param columns, rows i32 of each new column and row: the first pixel it covers
 * @param columnStarts, rowStarts i32 of each, and one more: where its shares begin  @param columnShares, rowShares f64
 */
export function averaged(
  data: usize,
  width: i32,
  columns: usize,
  columnStarts: usize,
  columnShares: usize,
  rows: usize,
  rowStarts: usize,
  rowShares: usize,
  toWidth: i32,
  toHeight: i32,
  to: usize,
): void {
  for (let y = 0; y < toHeight; y++) {
    const firstLine = load<i32>(at(rows, y, 4));
    const rowStart = load<i32>(at(rowStarts, y, 4));
    const lines = load<i32>(at(rowStarts, y + 1, 4)) - rowStart;
    for (let x = 0; x < toWidth; x++) {
      const start = load<i32>(at(columnStarts, x, 4));
      const count = load<i32>(at(columnStarts, x + 1, 4)) - start;
      let redGreen = f64x2.splat(0);
      let blueAlpha = f64x2.splat(0);
      for (let j = 0; j < lines; j++) {
        const share = load<f64>(at(rowShares, rowStart + j, 8));
        let from = at(data, (firstLine + j) * width + load<i32>(at(columns, x, 4)), 4);
        for (let i = 0; i < count; i++, from += 4) {
          const part = f64x2.splat(share * load<f64>(at(columnShares, start + i, 8)));
          const pixel = channels(from);
          redGreen = f64x2.add(redGreen, f64x2.mul(f64x2.convert_low_i32x4_u(pixel), part));
          const last = v128.shuffle<i64>(pixel, pixel, 1, 0);
          blueAlpha = f64x2.add(blueAlpha, f64x2.mul(f64x2.convert_low_i32x4_u(last), part));
        }
      }
      const four = v128.shuffle<i64>(bytesOf(redGreen), bytesOf(blueAlpha), 0, 2);
      const halves = i16x8.narrow_i32x4_s(four, four);
      v128.store32_lane(at(to, y * toWidth + x, 4), i8x16.narrow_i16x8_u(halves, halves), 0);
    }
  }
}

/** Half the size (rounded up): means of 2 x 2, an odd last row or column with itself. */
export function halve(data: usize, width: i32, height: i32, to: usize): void {
  const wide = (width + 1) >> 1;
  for (let y = 0; 2 * y < height; y++) {
    const upper = at(data, 2 * y * width, 4);
    const lower = at(data, min(height - 1, 2 * y + 1) * width, 4);
    const out = at(to, y * wide, 4);
    const two = i16x8.splat(2);
    let x = 0;
    for (; 2 * x + 4 <= width; x += 2) {
      const above = v128.load(at(upper, 2 * x, 4));
      const below = v128.load(at(lower, 2 * x, 4));
      const left = i16x8.add(i16x8.extend_low_i8x16_u(above), i16x8.extend_low_i8x16_u(below));
      const right = i16x8.add(i16x8.extend_high_i8x16_u(above), i16x8.extend_high_i8x16_u(below));
      const sum = i16x8.add(v128.shuffle<i64>(left, right, 0, 2), v128.shuffle<i64>(left, right, 1, 3));
      const means = i16x8.shr_u(i16x8.add(sum, two), 2);
      v128.store64_lane(at(out, x, 4), i8x16.narrow_i16x8_u(means, means), 0);
    }
    for (; x < wide; x++) {
      const first = at(0, 2 * x, 4);
      const second = at(0, min(width - 1, 2 * x + 1), 4);
      const above = i32x4.add(channels(upper + first), channels(upper + second));
      const below = i32x4.add(channels(lower + first), channels(lower + second));
      const means = i32x4.shr_u(i32x4.add(i32x4.add(above, below), i32x4.splat(2)), 2);
      const halves = i16x8.narrow_i32x4_s(means, means);
      v128.store32_lane(at(out, x, 4), i8x16.narrow_i16x8_u(halves, halves), 0);
    }
  }
}
