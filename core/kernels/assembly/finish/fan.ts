import { beyond, floatsOf, mixedFine, storeFine, storeWhole } from './fine';
import { mixedAt } from './slid';
import { at } from './vectors';

/*
 * Means along rays from a point (pictures as in fine.ts), in a quarter of the picture: lines of pixels ever farther out. Rays lie a
 * pixel apart on the last line, at `farthest`; a ray has values on those lines where it is in the picture.
 */

/** A ray's values, times each line's share of the way outwards, summed up: at each line the sum of those before it. */
function sumUp(origin: usize, along: i32, across: i32, pixels: i32, start: f64, slope: f64, count: i32, shares: usize, sums: usize): bool {
  let place = <i64>(start * 4294967296.0);
  const way = <i64>(slope * 4294967296.0);
  let sum = f32x4.splat(0);
  let any = i64x2.splat(0);
  v128.store(sums, sum);
  for (let k = 0; k < count; k++) {
    const near = <i32>(place >> 32);
    if (<u32>(near + 1) <= <u32>pixels) {
      const value = mixedAt(origin + <usize>(near * across), <usize>across, place);
      any = v128.or(any, value);
      sum = f32x4.add(sum, f32x4.mul(floatsOf(value), v128.load32_splat(at(shares, k, 4))));
    }
    v128.store(at(sums, k + 1, 16), sum);
    origin += <usize>along;
    place += way;
  }
  return v128.any_true(any);
}

/** The sum up to an end: a line, and how much of its share lies before it. */
// @ts-ignore: a decorator of the compiler
@inline
function before(sums: usize, start: i32, count: i32, end: usize, part: usize): v128 {
  const k = min<i32>(count, max<i32>(-1, load<i32>(end) - start));
  const near = v128.load(at(sums, k, 16));
  return f32x4.add(near, f32x4.mul(f32x4.sub(v128.load(at(sums, k, 16), 16), near), v128.load32_splat(part)));
}

/**
 * @param origin the pixel at place 0 of the nearest line  @param along, across bytes from line to line and along a line
 * @param away how far out the nearest line is  @param centre where on a line the point is
 * @param spans i32 of each ray: its first line and how many  @param shifts i32 of each ray: from a line to where it is stored
 * @param shares f32 of each line: its share of the way outwards
 * @param ends, parts i32 and f32 of each line: where the mean about it begins and ends
 * @param room memory for four vectors more than lines
 */
export function layFan(
  origin: usize,
  along: i32,
  across: i32,
  lines: i32,
  pixels: i32,
  away: f64,
  centre: f64,
  first: i32,
  farthest: f64,
  rays: i32,
  spans: usize,
  shifts: usize,
  shares: usize,
  ends: usize,
  parts: usize,
  whole: f32,
  stored: usize,
  room: usize,
): void {
  const share = f32x4.splat(1 / whole);
  const sums = room + 16;
  v128.store(room, f32x4.splat(0));
  for (let n = 0; n < rays; n++) {
    const start = load<i32>(at(spans, n, 8));
    const count = load<i32>(at(spans, n, 8), 4);
    const out = at(stored, load<i32>(at(shifts, n, 4)) + start, 8);
    const slope = <f64>(first + n) / farthest;
    const nearest = origin + <usize>(start * along);
    if (!sumUp(nearest, along, across, pixels, centre + slope * (away + <f64>start), slope, count, at(shares, start, 4), sums)) {
      memory.fill(out, 0, <usize>(count * 8));
      continue;
    }
    v128.store(at(sums, count + 1, 16), v128.load(at(sums, count, 16)));
    for (let k = 0; k < count; k++) {
      const end = at(ends, start + k, 8);
      const part = at(parts, start + k, 8);
      const sum = f32x4.sub(before(sums, start, count, end + 4, part + 4), before(sums, start, count, end, part));
      storeWhole(at(out, k, 8), f32x4.mul(sum, share));
    }
  }
}

/** Pixels of a row from the two rays beside each. @param places i32 of each: on which ray, in 1 / 2^15  @param step from one's line to the next one's */
// @ts-ignore: a decorator of the compiler
@inline
function rowFromRays(stored: usize, shifts: usize, places: usize, line: i32, step: i32, data: usize, x: i32, forth: i32, y: i32, width: i32, count: i32): void {
  for (let k = 0; k < count; k++) {
    const place = load<i32>(at(places, k, 4));
    const ray = at(shifts, place >> 15, 4);
    const one = v128.load64_zero(at(stored, load<i32>(ray) + line, 8));
    const other = v128.load64_zero(at(stored, load<i32>(ray, 4) + line, 8));
    storeFine(at(data, y * width + x, 4), mixedFine(one, other, beyond(place)), x, y);
    x += forth;
    line += step;
  }
}

/**
 * A quarter's straight pixels.
 * @param upright whether lines are rows  @param room memory for a number a pixel of a row, and eight more
 */
export function fromFan(
  stored: usize,
  shifts: usize,
  lines: i32,
  pixels: i32,
  away: f64,
  centre: f64,
  first: i32,
  farthest: f64,
  nearest: i32,
  outwards: i32,
  upright: i32,
  width: i32,
  room: usize,
  data: usize,
): void {
  const fine: f64 = 32768;
  const four = f32x4(0, 1, 2, 3);
  if (upright) {
    for (let line = 0; line < lines; line++) {
      const out = away + <f64>line;
      // Pixels nearer to the centre than the line is far out: diagonals belong to the quarters that lie.
      const left = <i32>max<f64>(0, floor<f64>(centre - out) + 1);
      const count = <i32>min<f64>(<f64>(pixels - 1), ceil<f64>(centre + out) - 1) - left + 1;
      const slope = (farthest / out) * fine;
      let place = (<f64>left - centre) * slope - <f64>first * fine;
      for (let k = 0; k < count; k++) {
        store<i32>(at(room, k, 4), <i32>place);
        place += slope;
      }
      rowFromRays(stored, shifts, room, line, 0, data, left, 1, nearest + outwards * line, width, count);
    }
    return;
  }
  const from = f32x4.splat(<f32>(<f64>first * fine));
  for (let y = 0; y < pixels; y++) {
    const aside = <f64>y - centre;
    const way = f32x4.splat(<f32>(aside * farthest * fine));
    const line = <i32>max<f64>(0, ceil<f64>(abs<f64>(aside) - away));
    for (let k = line; k < lines; k += 4) {
      const out = f32x4.add(f32x4.splat(<f32>(away + <f64>k)), four);
      v128.store(at(room, k - line, 4), i32x4.trunc_sat_f32x4_s(f32x4.sub(f32x4.div(way, out), from)));
    }
    rowFromRays(stored, shifts, room, line, 1, data, nearest + outwards * line, outwards, y, width, lines - line);
  }
}
