export { freeFrom, reserve } from '../memory';

/*
 * Colours are whole numbers of 1 / 2^15 (brightness) and 1 / 2^18 (colour difference): a product of a byte, or of a sum of four,
 * still fits a signed 32-bit sum.
 */
const lumaBits = 15;
const colourBits = 18;

/** r, g, b weights for the pixels of a vector of eight 16-bit numbers; alpha counts nothing. */
// @ts-ignore: a decorator of the compiler
@inline
function weightsOf(red: i32, green: i32, blue: i32): v128 {
  return i32x4.replace_lane(
    i32x4.replace_lane(i32x4.splat((red & 0xffff) | (green << 16)), 1, blue & 0xffff),
    3,
    blue & 0xffff,
  );
}

/** Sums neighbouring pairs of two vectors: a0 + a1, a2 + a3, b0 + b1, b2 + b3. */
// @ts-ignore: a decorator of the compiler
@inline
function pairs(a: v128, b: v128): v128 {
  return i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7));
}

// @ts-ignore: a decorator of the compiler
@inline
function bytesOf(sums: v128, bits: i32): v128 {
  const whole = i32x4.shr_s(sums, bits);
  const halves = i16x8.narrow_i32x4_s(whole, whole);
  return i8x16.narrow_i16x8_u(halves, halves);
}

/** Brightness of four pixels, one after the other in the lowest four bytes. */
// @ts-ignore: a decorator of the compiler
@inline
function lumaOf(low: v128, high: v128, weights: v128, start: v128): u32 {
  const sums = pairs(i32x4.dot_i16x8_s(low, weights), i32x4.dot_i16x8_s(high, weights));
  return <u32>i32x4.extract_lane(bytesOf(i32x4.add(sums, start), lumaBits), 0);
}

/**
 * RGBA to limited-range 4:2:0 planes, four pixels of two rows at a time. `width` is even and at least 4: a rest of two pixels
 * is done together with the two before it.
 * @param weights nine i32: those of red, green and blue for brightness, for the blue and for the red difference
 */
export function toPlanes(rgba: usize, width: i32, height: i32, weights: usize, out: usize): void {
  const forLuma = weightsOf(load<i32>(weights), load<i32>(weights + 4), load<i32>(weights + 8));
  const forBlue = weightsOf(load<i32>(weights + 12), load<i32>(weights + 16), load<i32>(weights + 20));
  const forRed = weightsOf(load<i32>(weights + 24), load<i32>(weights + 28), load<i32>(weights + 32));
  const lumaStart = i32x4.splat((33 << lumaBits) >> 1);
  const colourStart = i32x4.splat((257 << colourBits) >> 1);
  const row = <usize>width * 4;
  const blues = out + <usize>(width * height);
  const reds = blues + <usize>((width * height) >> 2);
  for (let y = 0; y < height; y += 2) {
    const upper = rgba + <usize>y * row;
    const luma = out + <usize>(y * width);
    const half = <usize>((y >> 1) * (width >> 1));
    for (let next = 0; next < width; next += 4) {
      const x = min(next, width - 4);
      const a = v128.load(upper + <usize>x * 4);
      const b = v128.load(upper + row + <usize>x * 4);
      const aLow = i16x8.extend_low_i8x16_u(a);
      const aHigh = i16x8.extend_high_i8x16_u(a);
      const bLow = i16x8.extend_low_i8x16_u(b);
      const bHigh = i16x8.extend_high_i8x16_u(b);
      store<u32>(luma + <usize>x, lumaOf(aLow, aHigh, forLuma, lumaStart));
      store<u32>(luma + <usize>(width + x), lumaOf(bLow, bHigh, forLuma, lumaStart));
      // Left and right pixel of each block, summed over both rows.
      const low = i16x8.add(aLow, bLow);
      const high = i16x8.add(aHigh, bHigh);
      const blocks = i16x8.add(v128.shuffle<i64>(low, high, 0, 2), v128.shuffle<i64>(low, high, 1, 3));
      const blue = i32x4.dot_i16x8_s(blocks, forBlue);
      const red = i32x4.dot_i16x8_s(blocks, forRed);
      const both = bytesOf(i32x4.add(pairs(blue, red), colourStart), colourBits);
      const bytes = <u32>i32x4.extract_lane(both, 0);
      const at = half + <usize>(x >> 1);
      store<u16>(blues + at, <u16>bytes);
      store<u16>(reds + at, <u16>(bytes >> 16));
    }
  }
}
