/**
 * Pictures here are RGBA rows with one clear pixel all around, so that what lies half outside fades without a case of its
 * own: pixel (x, y) is at row y + 1, column x + 1.
 */

const one: f32 = 1;

/** Two neighbouring pixels as four floats each. */
// @ts-ignore: a decorator of the compiler
@inline
function leftOf(pair: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(pair)));
}

// @ts-ignore: a decorator of the compiler
@inline
function rightOf(pair: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(i16x8.extend_low_i8x16_u(pair)));
}

/** The alpha bytes of two pixels. */
const alphaBytes: u64 = 0xff000000ff000000;
/** Whole numbers a share of 1 is worth: with it a byte still fits a signed sum of four. */
const shareBits = 14;

/** Four opaque pixels mixed in whole numbers: most of a picture, in half the time. */
// @ts-ignore: a decorator of the compiler
@inline
function mixedOpaque(above: v128, below: v128, fx: f32, fy: f32): u32 {
  const whole = <f32>(1 << shareBits);
  const right = <i32>(fx * whole + 0.5);
  const lower = <i32>(fy * whole + 0.5);
  const d = (right * lower) >> shareBits;
  const b = right - d;
  const c = lower - d;
  const a = (1 << shareBits) - right - c;
  // Left and right pixel's bytes side by side, so that one product sums a pair of them.
  const upperPair = i16x8.extend_low_i8x16_u(v128.shuffle<i8>(above, above, 0, 4, 1, 5, 2, 6, 3, 7, 0, 0, 0, 0, 0, 0, 0, 0));
  const lowerPair = i16x8.extend_low_i8x16_u(v128.shuffle<i8>(below, below, 0, 4, 1, 5, 2, 6, 3, 7, 0, 0, 0, 0, 0, 0, 0, 0));
  const sum = i32x4.add(
    i32x4.dot_i16x8_s(upperPair, i32x4.splat(a | (b << 16))),
    i32x4.dot_i16x8_s(lowerPair, i32x4.splat(c | (d << 16))),
  );
  const rounded = i32x4.shr_u(i32x4.add(sum, i32x4.splat(1 << (shareBits - 1))), shareBits);
  const halves = i16x8.narrow_i32x4_s(rounded, rounded);
  return <u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(halves, halves), 0);
}

/**
 * Writes the picture at a place (pixel centres at halves), bilinear with alpha and lit by a factor; clear outside, fading
 * over half a pixel.
 */
// @ts-ignore: a decorator of the compiler
@inline
export function sample(picture: usize, width: i32, height: i32, x: f32, y: f32, light: f32, out: usize): void {
  const across = x - 0.5;
  const down = y - 0.5;
  const floorX = floor<f32>(across);
  const floorY = floor<f32>(down);
  // Also what is not a number is outside.
  if (!(floorX >= -1 && floorY >= -1 && floorX < <f32>width && floorY < <f32>height)) {
    store<u32>(out, 0);
    return;
  }
  const stride = <usize>(width + 2) * 4;
  const at = picture + <usize>(<i32>floorY + 1) * stride + <usize>(<i32>floorX + 1) * 4;
  const upper = load<u64>(at);
  const lower = load<u64>(at + stride);
  if (((upper | lower) & alphaBytes) == 0) {
    store<u32>(out, 0);
    return;
  }
  const fx = across - floorX;
  const fy = down - floorY;
  const above = i64x2.splat(upper);
  const below = i64x2.splat(lower);
  if ((upper & lower & alphaBytes) == alphaBytes && light == 1) {
    store<u32>(out, mixedOpaque(above, below, fx, fy));
    return;
  }
  const a = leftOf(above);
  const b = rightOf(above);
  const c = leftOf(below);
  const d = rightOf(below);
  const alphas = f32x4.extract_lane(f32x4.add(f32x4.add(a, b), f32x4.add(c, d)), 3);
  let wa = (one - fx) * (one - fy);
  let wb = fx * (one - fy);
  let wc = (one - fx) * fy;
  let wd = fx * fy;
  let alpha: f32 = 255;
  if (alphas < 1020) {
    wa *= f32x4.extract_lane(a, 3);
    wb *= f32x4.extract_lane(b, 3);
    wc *= f32x4.extract_lane(c, 3);
    wd *= f32x4.extract_lane(d, 3);
    alpha = wa + wb + wc + wd;
    if (alpha <= 0) {
      store<u32>(out, 0);
      return;
    }
  }
  const share = alphas < 1020 ? light / alpha : light;
  let colour = f32x4.add(
    f32x4.add(f32x4.mul(a, f32x4.splat(wa)), f32x4.mul(b, f32x4.splat(wb))),
    f32x4.add(f32x4.mul(c, f32x4.splat(wc)), f32x4.mul(d, f32x4.splat(wd))),
  );
  colour = f32x4.replace_lane(f32x4.mul(colour, f32x4.splat(share)), 3, alpha);
  const whole = i32x4.trunc_sat_f32x4_s(f32x4.nearest(colour));
  const halves = i16x8.narrow_i32x4_s(whole, whole);
  store<u32>(out, <u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(halves, halves), 0));
}
