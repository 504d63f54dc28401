import { interleaved, storeWhole } from './fine';
import { storeSome, strip } from './means';
import { at } from './vectors';

/*
 * Means along rays from a point (pictures as in fine.ts), in a band of the picture: lines of pixels, or of means of pairs, ever
 * farther out. Rays lie a pixel apart on the band's last line, at `farthest`. Lines are parted into steps, one line each where
 * they are near, and those of the band have a mean.
 */

/** A ray's values, times each line's share of the way outwards, summed up: at each step the sum of those before it. False where all is clear. */
function sumUp(origin: usize, along: i32, across: i32, pixels: i32, start: f64, slope: f64, first: i32, last: i32, lasts: usize, count: i32, shares: usize, sums: usize): bool {
  let place = <i64>((start + slope * <f64>first) * 4294967296.0);
  const way = <i64>(slope * 4294967296.0);
  let pixel = origin + <usize>(along * first);
  let line = first;
  let sum = f32x4.splat(0);
  v128.store(sums, sum);
  for (let k = 0; k < count; k++) {
    const end = min(last, load<i32>(at(lasts, k, 4)));
    for (; line <= end; line++) {
      const near = <i32>(place >> 32);
      if (<u32>(near + 1) <= <u32>pixels) {
        const beyond = <i32>(place >> 25) & 127;
        const address = pixel + <usize>(near * across);
        const pair = interleaved(v128.load64_zero(address), v128.load64_zero(address + <usize>across));
        const value = i32x4.dot_i16x8_s(pair, i32x4.splat((128 - beyond) | (beyond << 16)));
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_s(value), v128.load32_splat(at(shares, line, 4))));
      }
      pixel += <usize>along;
      place += way;
    }
    v128.store(at(sums, k + 1, 16), sum);
  }
  return v128.any_true(sum);
}

/** The sum up to an end: a step, and how much of its share lies before it. */
// @ts-ignore: a decorator of the compiler
@inline
function before(sums: usize, step: usize, part: usize): v128 {
  const near = at(sums, load<i32>(step), 16);
  const sum = v128.load(near);
  return f32x4.add(sum, f32x4.mul(f32x4.sub(v128.load(near, 16), sum), v128.load32_splat(part)));
}

/**
 * @param origin the pixel at place 0 of the nearest line  @param along, across bytes from line to line and along a line
 * @param away how far out the nearest line is  @param spacing pixels from line to line  @param centre where on a line the point is
 * @param spans i32 of each ray: its first line in the picture and how many
 * @param lasts i32 of each step: its last line  @param steps how many
 * @param shares f32 of each line: its share of the way outwards
 * @param kept how many steps have a mean  @param ends, parts i32 and f32 of each of them: where it begins and ends
 * @param room memory for two vectors more than steps
 */
export function layFan(
  origin: usize,
  along: i32,
  across: i32,
  pixels: i32,
  away: f64,
  spacing: f64,
  centre: f64,
  first: i32,
  farthest: f64,
  rays: i32,
  spans: usize,
  lasts: usize,
  steps: i32,
  shares: usize,
  kept: i32,
  ends: usize,
  parts: usize,
  whole: f32,
  means: usize,
  room: usize,
): void {
  // Values are sums of products with shares in 1/128.
  const share = f32x4.splat(1 / (128 * whole));
  for (let n = 0; n < rays; n++) {
    const from = load<i32>(at(spans, n, 8));
    const last = from + load<i32>(at(spans, n, 8), 4) - 1;
    const out = at(means, n * kept, 8);
    const slope = <f64>(first + n) / farthest;
    const some = last >= from && sumUp(origin, along, across, pixels, centre + slope * away, slope * spacing, from, last, lasts, steps, shares, room);
    if (!some) {
      memory.fill(out, 0, <usize>(kept * 8));
      continue;
    }
    v128.store(at(room, steps + 1, 16), v128.load(at(room, steps, 16)));
    for (let k = 0; k < kept; k++) {
      const end = at(ends, k, 8);
      const part = at(parts, k, 8);
      const sum = f32x4.sub(before(room, end + 4, part + 4), before(room, end, part));
      storeWhole(at(out, k, 8), f32x4.mul(sum, share));
    }
  }
}

/** Places on rays, also of the up to three pixels that are only there to fill up four. */
// @ts-ignore: a decorator of the compiler
@inline
function onRays(places: v128, most: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.pmax(f32x4.splat(0), f32x4.pmin(most, places)));
}

/** Numbers of a row's pixels: on which rays, and at which steps, the same for all of them. */
// @ts-ignore: a decorator of the compiler
@inline
function placesAcross(place: f64, slope: f64, step: i32, count: i32, most: v128, places: usize): void {
  const four = f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(<f32>slope));
  for (let k = 0; k < count; k += 4) {
    const rays = f32x4.add(f32x4.splat(<f32>(place + slope * <f64>k)), four);
    v128.store(at(places, k, 4), onRays(rays, most));
    v128.store(at(places, k + strip, 4), i32x4.splat(step));
  }
}

/** The same of a row along which lines follow one another. @param outs f32 of each, how far out  @param stepPlaces i32 of each */
// @ts-ignore: a decorator of the compiler
@inline
function placesAlong(aside: f32, first: f32, outs: usize, stepPlaces: usize, count: i32, most: v128, places: usize): void {
  const way = f32x4.splat(aside);
  const from = f32x4.splat(first);
  for (let k = 0; k < count; k += 4) {
    const rays = f32x4.sub(f32x4.div(way, v128.load(at(outs, k, 4))), from);
    v128.store(at(places, k, 4), onRays(rays, most));
    v128.store(at(places, k + strip, 4), v128.load(at(stepPlaces, k, 4)));
  }
}

/**
 * A quarter's straight pixels.
 * @param upright whether lines are rows
 * @param outs f32 of each line, and three more: how far out it is  @param stepPlaces i32 of each: at which step, in 1 / 2^15;
 * both from the left where lines are columns
 * @param room memory for three numbers a column of a strip
 */
export function fromFan(
  means: usize,
  steps: i32,
  lines: i32,
  pixels: i32,
  away: f64,
  centre: f64,
  first: i32,
  farthest: f64,
  rays: i32,
  nearest: i32,
  outwards: i32,
  upright: i32,
  outs: usize,
  stepPlaces: usize,
  width: i32,
  room: usize,
  data: usize,
): void {
  const fine: f64 = 32768;
  const bytes = steps * 8;
  const rest = at(room, 2 * strip, 4);
  const most = f32x4.splat(<f32>(<f64>(rays - 1) * fine));
  if (upright) {
    for (let column = 0; column < pixels; column += strip) {
      for (let line = 0; line < lines; line++) {
        const out = away + <f64>line;
        // Pixels nearer to the centre than the line is far out: diagonals belong to the quarters that lie.
        const left = max(column, <i32>max<f64>(0, floor<f64>(centre - out) + 1));
        const end = min(column + strip, <i32>min<f64>(<f64>(pixels - 1), ceil<f64>(centre + out) - 1) + 1);
        if (left >= end) continue;
        const slope = (farthest / out) * fine;
        const y = nearest + outwards * line;
        placesAcross((<f64>left - centre) * slope - <f64>first * fine, slope, load<i32>(at(stepPlaces, line, 4)), end - left, most, room);
        storeSome(means, bytes, room, end - left, at(data, y * width + left, 4), left, y, rest);
      }
    }
    return;
  }
  const leftmost = outwards > 0 ? nearest : nearest - lines + 1;
  for (let y = 0; y < pixels; y++) {
    const aside = <f64>y - centre;
    const missing = <i32>min<f64>(<f64>lines, max<f64>(0, ceil<f64>(abs<f64>(aside) - away)));
    const end = outwards > 0 ? lines : lines - missing;
    for (let from = outwards > 0 ? missing : 0; from < end; from += strip) {
      const count = min(strip, end - from);
      placesAlong(<f32>(aside * farthest * fine), <f32>(<f64>first * fine), at(outs, from, 4), at(stepPlaces, from, 4), count, most, room);
      const x = leftmost + from;
      storeSome(means, bytes, room, count, at(data, y * width + x, 4), x, y, rest);
    }
  }
}
