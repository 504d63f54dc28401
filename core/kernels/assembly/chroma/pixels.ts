// Pixels are RGBA bytes; four of them are a vector of 32-bit lanes.

/** Every second one of eight pixels, the even or the odd. */
// @ts-ignore: decorator
@inline
export function everySecond(at: usize, odd: i32): v128 {
  const a = v128.load(at);
  const b = v128.load(at + 16);
  return odd == 0 ? v128.shuffle<i32>(a, b, 0, 2, 4, 6) : v128.shuffle<i32>(a, b, 1, 3, 5, 7);
}

// @ts-ignore: decorator
@inline
export function everyRed(pixels: v128): v128 {
  return f32x4.convert_i32x4_s(v128.and(pixels, i32x4.splat(255)));
}

// @ts-ignore: decorator
@inline
export function everyGreen(pixels: v128): v128 {
  return f32x4.convert_i32x4_s(v128.and(i32x4.shr_u(pixels, 8), i32x4.splat(255)));
}

// @ts-ignore: decorator
@inline
export function everyBlue(pixels: v128): v128 {
  return f32x4.convert_i32x4_s(v128.and(i32x4.shr_u(pixels, 16), i32x4.splat(255)));
}

/** A channel as bytes in the low end of each lane, rounded as a clamped array does. */
// @ts-ignore: decorator
@inline
export function bytesOf(channel: v128): v128 {
  const kept = f32x4.min(f32x4.splat(255), f32x4.max(f32x4.splat(0), channel));
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(kept));
}
