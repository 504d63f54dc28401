/**
 * Mean colours of 2 x 2 pixels as three planes of floats: luma, blue less luma, red less luma.
 * @param picture RGBA, `width` a multiple of 8 and `height` even  @param rows scratch, 2 * (width + 2) * 8 bytes
 * @param blended colour is taken back to the samples it was blended from
 */
export function blocksOf(
  picture: usize,
  width: i32,
  height: i32,
  blended: bool,
  rows: usize,
  luma: usize,
  blue: usize,
  red: usize,
): void {
  const stride = width * 4;
  // Sums of two rows, and the same with the rows around taken off, in 16 bits a channel, one pixel more at either end.
  const means = rows + 8;
  const colours = means + <usize>((width + 2) * 8);
  for (let by = 0; by < height >> 1; by++) {
    const first = picture + <usize>(2 * by * stride);
    const above = by > 0 ? first - <usize>stride : first;
    const second = first + <usize>stride;
    const below = 2 * by + 2 < height ? second + <usize>stride : second;
    addRows(above, first, second, below, width, blended, means, colours);
    const at = <usize>(by * (width >> 1) * 4);
    for (let bx = 0; bx < width >> 1; bx += 4) {
      const o = <usize>(bx * 16);
      const m = means + o;
      const out = at + <usize>(bx * 4);
      // The two pixels of a block lie in one vector: both halves of its luma add up over its four lanes.
      const first2 = pairSums(lumaHalves(m), lumaHalves(m + 16));
      const last2 = pairSums(lumaHalves(m + 32), lumaHalves(m + 48));
      v128.store(luma + out, scaled(pairSums(first2, last2), 1.0 / 4.0));
      const c = blended ? colours + o : m;
      const a = blended ? twoSamples(c) : twoMeans(c);
      const b = blended ? twoSamples(c + 32) : twoMeans(c + 32);
      const share: f32 = blended ? 1.0 / 16.0 : 1.0 / 4.0;
      v128.store(blue + out, scaled(pairSums(blueHalves(a), blueHalves(b)), share));
      v128.store(red + out, scaled(pairSums(redHalves(a), redHalves(b)), share));
    }
  }
}

/** Weights of luma in 1/16384: Rec. 709. */
const one: i16 = 16384;
const wr: i16 = 3483;
const wg: i16 = 11718;
const wb: i16 = 1183;

function addRows(
  above: usize,
  first: usize,
  second: usize,
  below: usize,
  width: i32,
  blended: bool,
  means: usize,
  colours: usize,
): void {
  for (let x = 0; x < width; x += 4) {
    const i = <usize>(x * 4);
    const b = v128.load(first + i);
    const c = v128.load(second + i);
    const o = <usize>(x * 8);
    const low = i16x8.add(i16x8.extend_low_i8x16_u(b), i16x8.extend_low_i8x16_u(c));
    const high = i16x8.add(i16x8.extend_high_i8x16_u(b), i16x8.extend_high_i8x16_u(c));
    v128.store(means + o, low);
    v128.store(means + o + 16, high);
    if (!blended) continue;
    const a = v128.load(above + i);
    const d = v128.load(below + i);
    const three = i16x8.splat(3);
    const outerLow = i16x8.add(i16x8.extend_low_i8x16_u(a), i16x8.extend_low_i8x16_u(d));
    const outerHigh = i16x8.add(i16x8.extend_high_i8x16_u(a), i16x8.extend_high_i8x16_u(d));
    v128.store(colours + o, i16x8.sub(i16x8.mul(low, three), outerLow));
    v128.store(colours + o + 16, i16x8.sub(i16x8.mul(high, three), outerHigh));
  }
  if (!blended) return;
  store<u64>(colours - 8, load<u64>(colours));
  const last = colours + <usize>(width * 8);
  store<u64>(last, load<u64>(last - 8));
}

/** Two 32-bit parts of the luma of each of two pixels of 16 bits a channel. */
// @ts-ignore: decorator
@inline
function lumaHalves(at: usize): v128 {
  return i32x4.dot_i16x8_s(v128.load(at), i16x8(wr, wg, wb, 0, wr, wg, wb, 0));
}

/** The same of blue less luma, and of red less luma. */
// @ts-ignore: decorator
@inline
function blueHalves(two: v128): v128 {
  return i32x4.dot_i16x8_s(two, i16x8(-wr, -wg, one - wb, 0, -wr, -wg, one - wb, 0));
}

// @ts-ignore: decorator
@inline
function redHalves(two: v128): v128 {
  return i32x4.dot_i16x8_s(two, i16x8(one - wr, -wg, -wb, 0, one - wr, -wg, -wb, 0));
}

/** Sums of neighbouring lanes: two from each vector. */
// @ts-ignore: decorator
@inline
function pairSums(a: v128, b: v128): v128 {
  return i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7));
}

// @ts-ignore: decorator
@inline
function scaled(sums: v128, share: f32): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(sums), f32x4.splat(share / <f32>one));
}

/** The two pixels of two blocks added. */
// @ts-ignore: decorator
@inline
function twoMeans(at: usize): v128 {
  const first = v128.load(at);
  const second = v128.load(at + 16);
  return i16x8.add(v128.shuffle<i64>(first, second, 0, 2), v128.shuffle<i64>(first, second, 1, 3));
}

/** The two pixels of two blocks, weighted 3 to 1 against the pixels before and after each. */
// @ts-ignore: decorator
@inline
function twoSamples(at: usize): v128 {
  const first = v128.load(at);
  const second = v128.load(at + 16);
  const even = v128.shuffle<i64>(first, second, 0, 2);
  const odd = v128.shuffle<i64>(first, second, 1, 3);
  const before = v128.shuffle<i64>(v128.load(at - 8), first, 0, 3);
  const after = v128.shuffle<i64>(second, v128.load(at + 24), 0, 3);
  return i16x8.sub(i16x8.mul(i16x8.add(even, odd), i16x8.splat(3)), i16x8.add(before, after));
}
