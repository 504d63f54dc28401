import { beyond, floatsOf, mixedFine, storeWhole } from './fine';
import { at } from './vectors';

/*
 * The mean along a slanted way (pictures as in fine.ts): lines of its slope become rows, are averaged by a sum that moves along,
 * and become slanted again. "Along" is the axis the way mostly follows, "across" the other one.
 */

/** Between two pixels `stride` bytes apart, by what a place in 1 / 2^32 of a pixel is beyond the first. */
// @ts-ignore: a decorator of the compiler
@inline
export function mixedAt(address: usize, stride: usize, place: i64): v128 {
  return mixedFine(v128.load64_zero(address), v128.load64_zero(address + stride), beyond(<i32>(place >> 17)));
}

/** Mean of `length` vectors about each of a line, its ends shares of one. It reaches beyond both ends of the line. */
export function averageLine(line: usize, count: i32, radius: i32, length: f32, to: usize): void {
  const end = f32x4.splat((length - 1) / 2 - <f32>radius);
  const share = f32x4.splat(1 / length);
  let sum = f32x4.splat(0);
  for (let k = -radius; k < radius; k++) sum = f32x4.add(sum, v128.load(line + <usize>(k * 16)));
  let enter = at(line, radius, 16);
  let leave = line - <usize>(radius * 16);
  const stop = at(to, count, 8);
  for (let out = to; out < stop; out += 8) {
    sum = f32x4.add(sum, v128.load(enter));
    const ends = f32x4.mul(f32x4.add(v128.load(leave - 16), v128.load(enter + 16)), end);
    storeWhole(out, f32x4.mul(f32x4.add(sum, ends), share));
    sum = f32x4.sub(sum, v128.load(leave));
    enter += 16;
    leave += 16;
  }
}

/** The line through a picture that begins at a place across and has a slope; clear outside. False where all of it is. */
function sheared(origin: usize, along: i32, across: i32, count: i32, lines: i32, start: i64, slope: i64, to: usize): bool {
  let place = start;
  let any = i64x2.splat(0);
  for (let k = 0; k < count; k++) {
    const near = <i32>(place >> 32);
    let value = i64x2.splat(0);
    if (<u32>(near + 1) <= <u32>lines) {
      const pixel = origin + <usize>k * <usize>along + <usize>(near * across);
      value = mixedAt(pixel, <usize>across, place);
      any = v128.or(any, value);
    }
    v128.store(at(to, k, 16), floatsOf(value));
    place += slope;
  }
  return v128.any_true(any);
}

/**
 * @param from, to pictures with one clear pixel all around  @param along, across bytes from pixel to pixel
 * @param count pixels along  @param lines pixels across  @param slant across for each pixel along, -1..1
 * @param work memory for (lines + |slant| x count + 6) x count pixels, and for 2 x (count + length + 6) more
 */
export function slide(
  from: usize,
  along: i32,
  across: i32,
  count: i32,
  lines: i32,
  slant: f32,
  length: f32,
  work: usize,
  to: usize,
): void {
  const drift = slant * <f32>(count - 1);
  const first = -<i32>ceil<f32>(max<f32>(0, drift)) - 1;
  const rows = lines + <i32>ceil<f32>(max<f32>(0, -drift)) + 1 - first;
  const slope = <i64>(<f64>slant * 4294967296.0);
  const radius = <i32>max<f32>(0, floor<f32>((length - 1) / 2));
  const room = radius + 2;
  const line = at(at(work, rows * count, 8), room, 16);
  memory.fill(at(work, rows * count, 8), 0, <usize>((count + 2 * room) * 16));
  // The picture's first pixel lies after the clear ones.
  const before = <usize>along + <usize>across;
  for (let n = 0; n < rows; n++) {
    const row = at(work, n * count, 8);
    const some = sheared(from + before, along, across, count, lines, <i64>(first + n) << 32, slope, line);
    if (some) averageLine(line, count, radius, length, row);
    else memory.fill(row, 0, <usize>(count * 8));
  }
  const stride = <usize>(count * 8);
  for (let y = 0; y < lines; y++) {
    let place = <i64>(y - first) << 32;
    let out = to + before + <usize>(y * across);
    for (let k = 0; k < count; k++) {
      const near = at(work, <i32>(place >> 32) * count + k, 8);
      v128.store64_lane(out, mixedAt(near, stride, place), 0);
      place -= slope;
      out += <usize>along;
    }
  }
}
