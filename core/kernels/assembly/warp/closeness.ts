/**
 * A plane of f32 at four places given in its pixels, bilinear; beyond its border as at the border.
 * @param most the last places that have a pixel to the right and below
 */
// @ts-ignore: a decorator of the compiler
@inline
export function closenessAt(map: usize, width: i32, mostX: v128, mostY: v128, u: v128, v: v128): v128 {
  const half = f32x4.splat(0.5);
  const none = f32x4.splat(0);
  const x = f32x4.pmax(none, f32x4.pmin(mostX, f32x4.sub(u, half)));
  const y = f32x4.pmax(none, f32x4.pmin(mostY, f32x4.sub(v, half)));
  const left = i32x4.trunc_sat_f32x4_s(x);
  const top = i32x4.trunc_sat_f32x4_s(y);
  const at = i32x4.shl(i32x4.add(i32x4.mul(top, i32x4.splat(width)), left), 2);
  const first = map + <usize>i32x4.extract_lane(at, 0);
  const second = map + <usize>i32x4.extract_lane(at, 1);
  const third = map + <usize>i32x4.extract_lane(at, 2);
  const fourth = map + <usize>i32x4.extract_lane(at, 3);
  const next = <usize>(width * 4);
  const fx = f32x4.sub(x, f32x4.convert_i32x4_s(left));
  const fy = f32x4.sub(y, f32x4.convert_i32x4_s(top));
  const above = acrossOf(first, second, third, fourth, fx);
  const below = acrossOf(first + next, second + next, third + next, fourth + next, fx);
  return f32x4.add(above, f32x4.mul(f32x4.sub(below, above), fy));
}

/** Between the two values at each of four places. */
// @ts-ignore: a decorator of the compiler
@inline
function acrossOf(first: usize, second: usize, third: usize, fourth: usize, share: v128): v128 {
  const upper = i64x2.replace_lane(i64x2.splat(load<i64>(first)), 1, load<i64>(second));
  const lower = i64x2.replace_lane(i64x2.splat(load<i64>(third)), 1, load<i64>(fourth));
  const left = v128.shuffle<i32>(upper, lower, 0, 2, 4, 6);
  const right = v128.shuffle<i32>(upper, lower, 1, 3, 5, 7);
  return f32x4.add(left, f32x4.mul(f32x4.sub(right, left), share));
}
