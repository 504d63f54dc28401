/* Squared differences of patches of 7 x 7 RGBA pixels, alpha left out. Addresses are those of a patch's upper left corner. */

// @ts-ignore: decorator
@inline
function squares(a: v128, b: v128): v128 {
  const low = i16x8.sub(i16x8.extend_low_i8x16_u(a), i16x8.extend_low_i8x16_u(b));
  const high = i16x8.sub(i16x8.extend_high_i8x16_u(a), i16x8.extend_high_i8x16_u(b));
  return i32x4.add(i32x4.dot_i16x8_s(low, low), i32x4.dot_i16x8_s(high, high));
}

/** A row of seven pixels: four of them, and the last four again of which the masks count what was not counted yet. */
// @ts-ignore: decorator
@inline
function ofRow(p: usize, q: usize, first: v128, last: v128): i32 {
  const sum = i32x4.add(
    squares(v128.and(v128.load(p), first), v128.and(v128.load(q), first)),
    squares(v128.and(v128.load(p + 12), last), v128.and(v128.load(q + 12), last)),
  );
  return (
    i32x4.extract_lane(sum, 0) + i32x4.extract_lane(sum, 1) + i32x4.extract_lane(sum, 2) + i32x4.extract_lane(sum, 3)
  );
}

const colours: i32 = 0x00ffffff;

/** All pixels of two patches; given up after the row in which it reaches `limit`. */
export function patchDistance(p: usize, q: usize, stride: usize, limit: f64): i32 {
  const first = i32x4.splat(colours);
  const last = i32x4(0, colours, colours, colours);
  let sum = 0;
  for (let row = 0; row < 7; row++) {
    sum += ofRow(p, q, first, last);
    if (<f64>sum >= limit) return sum;
    p += stride;
    q += stride;
  }
  return sum;
}

/** Every other pixel of every other row. */
export function sparseDistance(p: usize, q: usize, stride: usize, limit: f64): i32 {
  const first = i32x4(colours, 0, colours, 0);
  const last = i32x4(0, colours, 0, colours);
  let sum = 0;
  for (let row = 0; row < 4; row++) {
    sum += ofRow(p, q, first, last);
    if (<f64>sum >= limit) return sum;
    p += stride * 2;
    q += stride * 2;
  }
  return sum;
}
