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

/** Left and right pixel's bytes side by side, so that one product sums a pair of them. */
// @ts-ignore: a decorator of the compiler
@inline
function paired(pixels: u64): v128 {
  const both = i64x2.splat(pixels);
  return i16x8.extend_low_i8x16_u(v128.shuffle<i8>(both, both, 0, 4, 1, 5, 2, 6, 3, 7, 0, 0, 0, 0, 0, 0, 0, 0));
}

/**
 * Four opaque pixels mixed in whole numbers: most of a picture, in half the time. The shares of the left pixel stand in the
 * lower half of `upperShares` and `lowerShares`, those of the right one in the upper half; all four sum up to 1.
 */
// @ts-ignore: a decorator of the compiler
@inline
function mixedOpaque(upper: u64, lower: u64, upperShares: i32, lowerShares: i32): u32 {
  const sum = i32x4.add(
    i32x4.dot_i16x8_s(paired(upper), i32x4.splat(upperShares)),
    i32x4.dot_i16x8_s(paired(lower), i32x4.splat(lowerShares)),
  );
  const rounded = i32x4.shr_u(i32x4.add(sum, i32x4.splat(1 << (shareBits - 1))), shareBits);
  const halves = i16x8.narrow_i32x4_s(rounded, rounded);
  return <u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(halves, halves), 0);
}

/** Four places at once, of which the first `count` are wanted: the same as `sample` for each, unlit. */
// @ts-ignore: a decorator of the compiler
@inline
export function sampleFour(picture: usize, width: i32, height: i32, x: v128, y: v128, out: usize, count: i32): void {
  const half = f32x4.splat(0.5);
  const across = f32x4.sub(x, half);
  const down = f32x4.sub(y, half);
  const floorX = f32x4.floor(across);
  const floorY = f32x4.floor(down);
  const least = f32x4.splat(-1);
  const inside = v128.and(
    v128.and(f32x4.ge(floorX, least), f32x4.lt(floorX, f32x4.splat(<f32>width))),
    v128.and(f32x4.ge(floorY, least), f32x4.lt(floorY, f32x4.splat(<f32>height))),
  );
  if (count < 4 || !i32x4.all_true(inside)) {
    sampleOne(picture, width, height, f32x4.extract_lane(x, 0), f32x4.extract_lane(y, 0), out);
    if (count > 1) sampleOne(picture, width, height, f32x4.extract_lane(x, 1), f32x4.extract_lane(y, 1), out + 4);
    if (count > 2) sampleOne(picture, width, height, f32x4.extract_lane(x, 2), f32x4.extract_lane(y, 2), out + 8);
    if (count > 3) sampleOne(picture, width, height, f32x4.extract_lane(x, 3), f32x4.extract_lane(y, 3), out + 12);
    return;
  }
  const whole = f32x4.splat(<f32>(1 << shareBits));
  const right = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.sub(across, floorX), whole), half));
  const lower = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.sub(down, floorY), whole), half));
  const d = i32x4.shr_s(i32x4.mul(right, lower), shareBits);
  const b = i32x4.sub(right, d);
  const c = i32x4.sub(lower, d);
  const a = i32x4.sub(i32x4.sub(i32x4.splat(1 << shareBits), right), c);
  const upperShares = v128.or(a, i32x4.shl(b, 16));
  const lowerShares = v128.or(c, i32x4.shl(d, 16));
  // In bytes from the clear pixel before the first row.
  const rim = i32x4.splat(1);
  const rows = i32x4.add(i32x4.trunc_sat_f32x4_s(floorY), rim);
  const columns = i32x4.add(i32x4.trunc_sat_f32x4_s(floorX), rim);
  const at = i32x4.shl(i32x4.add(i32x4.mul(rows, i32x4.splat(width + 2)), columns), 2);
  mixOne(picture, width, height, i32x4.extract_lane(at, 0), i32x4.extract_lane(upperShares, 0), i32x4.extract_lane(lowerShares, 0), f32x4.extract_lane(x, 0), f32x4.extract_lane(y, 0), out);
  mixOne(picture, width, height, i32x4.extract_lane(at, 1), i32x4.extract_lane(upperShares, 1), i32x4.extract_lane(lowerShares, 1), f32x4.extract_lane(x, 1), f32x4.extract_lane(y, 1), out + 4);
  mixOne(picture, width, height, i32x4.extract_lane(at, 2), i32x4.extract_lane(upperShares, 2), i32x4.extract_lane(lowerShares, 2), f32x4.extract_lane(x, 2), f32x4.extract_lane(y, 2), out + 8);
  mixOne(picture, width, height, i32x4.extract_lane(at, 3), i32x4.extract_lane(upperShares, 3), i32x4.extract_lane(lowerShares, 3), f32x4.extract_lane(x, 3), f32x4.extract_lane(y, 3), out + 12);
}

/** The pixel at an address, mixed with its neighbours by shares where those are all opaque. */
// @ts-ignore: a decorator of the compiler
@inline
function mixOne(
  picture: usize,
  width: i32,
  height: i32,
  at: i32,
  upperShares: i32,
  lowerShares: i32,
  x: f32,
  y: f32,
  out: usize,
): void {
  const upper = load<u64>(picture + <usize>at);
  const lower = load<u64>(picture + <usize>at + <usize>(width + 2) * 4);
  if ((upper & lower & alphaBytes) == alphaBytes) store<u32>(out, mixedOpaque(upper, lower, upperShares, lowerShares));
  else sampleOne(picture, width, height, x, y, out);
}

/** As `sample`, unlit; not written out at every place it is called from. */
function sampleOne(picture: usize, width: i32, height: i32, x: f32, y: f32, out: usize): void {
  sample(picture, width, height, x, y, 1, out);
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
    const whole = <f32>(1 << shareBits);
    const right = <i32>(fx * whole + 0.5);
    const low = <i32>(fy * whole + 0.5);
    const both = (right * low) >> shareBits;
    const left = (1 << shareBits) - right - (low - both);
    store<u32>(out, mixedOpaque(upper, lower, left | ((right - both) << 16), (low - both) | (both << 16)));
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
