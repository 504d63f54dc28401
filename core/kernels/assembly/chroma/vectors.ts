// Small helpers on four floats at once.

// @ts-ignore: decorator
@inline
export function clamped(v: v128): v128 {
  return f32x4.min(f32x4.splat(1), f32x4.max(f32x4.splat(0), v));
}

/** Luma (Rec. 709 weights). */
// @ts-ignore: decorator
@inline
export function lumaOf(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(r, f32x4.splat(0.2126)), f32x4.mul(g, f32x4.splat(0.7152))),
    f32x4.mul(b, f32x4.splat(0.0722)),
  );
}

/** Green of a colour given as luma and the distances of blue and red from it. */
// @ts-ignore: decorator
@inline
export function greenOf(luma: v128, blue: v128, red: v128): v128 {
  // (luma - 0.2126 (luma + red) - 0.0722 (luma + blue)) / 0.7152
  return f32x4.sub(
    luma,
    f32x4.add(f32x4.mul(red, f32x4.splat(0.2126 / 0.7152)), f32x4.mul(blue, f32x4.splat(0.0722 / 0.7152))),
  );
}

/** Square of the distance a key sees, from differences in luma, blue less luma, red less luma. */
// @ts-ignore: decorator
@inline
export function squaredDistance(luma: v128, blue: v128, red: v128): v128 {
  const l = f32x4.mul(luma, f32x4.splat(0.35));
  const b = f32x4.mul(blue, f32x4.splat(1.0 / 1.8556));
  const r = f32x4.mul(red, f32x4.splat(1.0 / 1.5748));
  return f32x4.add(f32x4.add(f32x4.mul(l, l), f32x4.mul(b, b)), f32x4.mul(r, r));
}

// @ts-ignore: decorator
@inline
export function sumOf(v: v128): f32 {
  return (
    f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1) + (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3))
  );
}

/** The sums of four vectors. */
// @ts-ignore: decorator
@inline
export function sumsOf(a: v128, b: v128, c: v128, d: v128): v128 {
  const ab = f32x4.add(v128.shuffle<i32>(a, b, 0, 1, 4, 5), v128.shuffle<i32>(a, b, 2, 3, 6, 7));
  const cd = f32x4.add(v128.shuffle<i32>(c, d, 0, 1, 4, 5), v128.shuffle<i32>(c, d, 2, 3, 6, 7));
  return f32x4.add(v128.shuffle<i32>(ab, cd, 0, 2, 4, 6), v128.shuffle<i32>(ab, cd, 1, 3, 5, 7));
}

/** All bits set in the lanes below `count`. */
// @ts-ignore: decorator
@inline
export function firstLanes(count: i32): v128 {
  return i32x4.lt_s(i32x4(0, 1, 2, 3), i32x4.splat(count));
}

/** The least of each of four neighbouring values and those around it. @param wide bytes of a row */
// @ts-ignore: decorator
@inline
export function leastAround(at: usize, wide: usize): v128 {
  return f32x4.min(f32x4.min(leastOfRow(at - wide), leastOfRow(at)), leastOfRow(at + wide));
}

/** The most of each of four neighbouring values and those around it. @param wide bytes of a row */
// @ts-ignore: decorator
@inline
export function mostAround(at: usize, wide: usize): v128 {
  return f32x4.max(f32x4.max(mostOfRow(at - wide), mostOfRow(at)), mostOfRow(at + wide));
}

// @ts-ignore: decorator
@inline
export function mostOfRow(at: usize): v128 {
  return f32x4.max(f32x4.max(v128.load(at - 4), v128.load(at)), v128.load(at + 4));
}

// @ts-ignore: decorator
@inline
export function leastOfRow(at: usize): v128 {
  return f32x4.min(f32x4.min(v128.load(at - 4), v128.load(at)), v128.load(at + 4));
}

/** All bits set in the lanes whose bit is set. */
// @ts-ignore: decorator
@inline
export function lanesOf(bits: u8): v128 {
  return i32x4.ne(v128.and(i32x4.splat(bits), i32x4(1, 2, 4, 8)), i32x4.splat(0));
}
