import { beyond, mixedFine, mixedPair, storeFine, storeWhole } from './fine';
import { at } from './vectors';

/*
 * Means along rings about a point (pictures as in fine.ts). Rings have whole radii and a value for each pixel of their length; the
 * means are kept at equal steps of the angle, the same for all rings.
 */

const whole: f32 = 6.2831853;
/** Places are counted from three pixels before the first, so that none is below 0, in 1 / 2^15 of a pixel. */
const ahead: f64 = 3;
/** Values of a ring that are laid out before those of the next one, and pixels of a row that are worked on together. */
const chunk = 64;
const strip = 128;

/** Between four pixels, clear outside. */
// @ts-ignore: a decorator of the compiler
@inline
function sampled(from: usize, width: i32, height: i32, x: i32, y: i32): v128 {
  const u = (x >> 15) - <i32>ahead + 1;
  const v = (y >> 15) - <i32>ahead + 1;
  if (<u32>u > <u32>width || <u32>v > <u32>height) return i64x2.splat(0);
  const row = <usize>(width + 2) * 8;
  const address = from + <usize>v * row + <usize>u * 8;
  return mixedPair(mixedFine(v128.load(address), v128.load(address + row), beyond(y)), beyond(x));
}

/** Some values of a ring from one on, laid on a line that closes. @param direction of the first; then of the next one */
// @ts-ignore: a decorator of the compiler
@inline
function layPart(from: usize, width: i32, height: i32, centre: v128, radius: v128, direction: usize, turn: usize, line: usize, first: i32, count: i32, around: i32): void {
  const cos = v128.load64_splat(turn);
  const sin = f64x2.mul(v128.load64_splat(turn, 8), f64x2(-1, 1));
  let towards = v128.load(direction);
  let k = first < 0 ? first + around : first >= around ? first - around : first;
  for (let n = 0; n < count; n++) {
    const place = i32x4.trunc_sat_f64x2_s_zero(f64x2.add(centre, f64x2.mul(radius, towards)));
    const value = sampled(from, width, height, i32x4.extract_lane(place, 0), i32x4.extract_lane(place, 1));
    v128.store64_lane(at(line, k, 8), value, 0);
    // Turned by a step: (x cos - y sin, y cos + x sin).
    towards = f64x2.add(f64x2.mul(towards, cos), f64x2.mul(v128.shuffle<i64>(towards, towards, 1, 0), sin));
    if (++k == around) k = 0;
  }
  v128.store(direction, towards);
}

/** Neighbouring rings side by side, a chunk of each at a time: they lie in the same part of the picture. */
function layBlock(from: usize, width: i32, height: i32, centre: v128, least: i32, count: i32, around: usize, arcs: usize, turns: usize, lines: usize, apart: i32, directions: usize): void {
  for (let q = 0; q < 4; q++) {
    let longest = 0;
    for (let n = 0; n < count; n++) {
      longest = max(longest, load<i32>(at(arcs, n * 4 + q, 8), 4));
      v128.store(at(directions, n, 16), v128.load(at(turns, n * 5 + 1 + q, 16)));
    }
    for (let done = 0; done < longest; done += chunk)
      for (let n = 0; n < count; n++) {
        const arc = at(arcs, n * 4 + q, 8);
        const some = min(chunk, load<i32>(arc, 4) - done);
        if (some <= 0) continue;
        const radius = f64x2.splat(<f64>(least + n) * 32768);
        layPart(from, width, height, centre, radius, at(directions, n, 16), at(turns, n * 5, 16), at(lines, n * apart, 8), load<i32>(arc) + done, some, load<i32>(at(around, n, 4)));
      }
  }
}

/** Sums of a line up to each of its values, exact as far as differences of less than 2^31 go. False where all of it is clear. */
function sumUp(line: usize, count: i32, sums: usize): bool {
  let sum = i32x4.splat(0);
  let any = i64x2.splat(0);
  v128.store(sums, sum);
  for (let k = 0; k < count; k++) {
    const value = v128.load64_zero(at(line, k, 8));
    any = v128.or(any, value);
    sum = i32x4.add(sum, i32x4.extend_low_i16x8_s(value));
    v128.store(at(sums, k + 1, 16), sum);
  }
  return v128.any_true(any);
}

/** A place on a closed line, in 1 / 2^32 of a value. */
// @ts-ignore: a decorator of the compiler
@inline
function onLine(place: f64, around: i32): i64 {
  const rounds = floor<f64>(place / <f64>around);
  return <i64>((place - rounds * <f64>around) * 4294967296.0);
}

/** What a line holds from the value a place is in to that place. */
// @ts-ignore: a decorator of the compiler
@inline
function partAt(near: usize, place: i64): v128 {
  const value = f32x4.convert_i32x4_s(i32x4.sub(v128.load(near, 16), v128.load(near)));
  return f32x4.mul(value, f32x4.splat(<f32>(<i32>(place & 0xffffffff) >>> 8) * <f32>(1.0 / 16777216.0)));
}

/** Means of `length` values of a closed line, less than all of it, from a place on by equal steps. */
function meansOf(sums: usize, around: i32, length: f64, from: f64, step: f64, count: i32, to: usize): void {
  const share = f32x4.splat(<f32>(1 / length));
  const all = v128.load(at(sums, around, 16));
  const forth = <i64>(step * 4294967296.0);
  const end = <i64>around << 32;
  let low = onLine(from - length / 2, around);
  let high = onLine(from + length / 2, around);
  for (let k = 0; k < count; k++) {
    const start = at(sums, <i32>(low >> 32), 16);
    const stop = at(sums, <i32>(high >> 32), 16);
    let between = i32x4.sub(v128.load(stop), v128.load(start));
    // Beyond its end the line goes on with its start.
    if (high < low) between = i32x4.add(between, all);
    const parts = f32x4.sub(partAt(stop, high), partAt(start, low));
    storeWhole(at(to, k, 8), f32x4.mul(f32x4.add(f32x4.convert_i32x4_s(between), parts), share));
    low += forth;
    high += forth;
    if (low >= end) low -= end;
    if (high >= end) high -= end;
  }
}

/**
 * Of each ring of a picture the means over an angle about each of `steps` + 2 angles.
 * @param around i32 of each ring: values all the way round
 * @param arcs i32 of each quarter of each ring, what of it lies in the picture: number of the first value, and how many
 * @param turns f64 of each ring: cosine and sine of a step, then of the first value of each quarter
 * @param start, span of the angles, in turns
 * @param block rings that are laid out together  @param longest more values than any ring has
 * @param room memory for block x (longest x 8 + 16) + (longest + 1) x 16 bytes
 */
export function layRings(
  from: usize,
  width: i32,
  height: i32,
  cx: f64,
  cy: f64,
  least: i32,
  count: i32,
  around: usize,
  arcs: usize,
  turns: usize,
  start: f64,
  span: f64,
  steps: i32,
  means: usize,
  radians: f64,
  block: i32,
  longest: i32,
  room: usize,
): void {
  const centre = f64x2.replace_lane(f64x2.splat((cx + ahead) * 32768), 1, (cy + ahead) * 32768);
  const lines = at(room, block, 16);
  const sums = at(lines, block * longest, 8);
  for (let first = 0; first < count; first += block) {
    const rings = min(block, count - first);
    memory.fill(lines, 0, <usize>(rings * longest * 8));
    layBlock(from, width, height, centre, least + first, rings, at(around, first, 4), at(arcs, first, 32), at(turns, first, 80), lines, longest, room);
    for (let n = 0; n < rings; n++) {
      const values = load<i32>(at(around, first + n, 4));
      const to = at(means, (first + n) * (steps + 2), 8);
      const length = max<f64>(1, (radians / <f64>whole) * <f64>values);
      if (sumUp(at(lines, n * longest, 8), values, sums))
        meansOf(sums, values, length, start * <f64>values + 0.5, (span / <f64>steps) * <f64>values, steps + 2, to);
      else memory.fill(to, 0, <usize>((steps + 2) * 8));
    }
  }
}

/** Angles of four vectors as shares of a whole turn, 0..1 (arctangent: Abramowitz & Stegun 4.4.47, within 1e-5). */
// @ts-ignore: a decorator of the compiler
@inline
function turnsOf(dx: v128, dy: v128): v128 {
  const wide = f32x4.abs(dx);
  const high = f32x4.abs(dy);
  const t = f32x4.div(f32x4.pmin(wide, high), f32x4.pmax(f32x4.pmax(wide, high), f32x4.splat(1e-9)));
  const s = f32x4.mul(t, t);
  let a = f32x4.splat(<f32>0.0208351 / whole);
  a = f32x4.add(f32x4.mul(a, s), f32x4.splat(<f32>-0.085133 / whole));
  a = f32x4.add(f32x4.mul(a, s), f32x4.splat(<f32>0.180141 / whole));
  a = f32x4.add(f32x4.mul(a, s), f32x4.splat(<f32>-0.3302995 / whole));
  a = f32x4.add(f32x4.mul(a, s), f32x4.splat(<f32>0.999866 / whole));
  a = f32x4.mul(a, t);
  const clear = f32x4.splat(0);
  a = v128.bitselect(f32x4.sub(f32x4.splat(0.25), a), a, f32x4.gt(high, wide));
  a = v128.bitselect(f32x4.sub(f32x4.splat(0.5), a), a, f32x4.lt(dx, clear));
  return v128.bitselect(f32x4.sub(f32x4.splat(1), a), a, f32x4.lt(dy, clear));
}

/**
 * Straight pixels from the two rings and the two angles beside them.
 * @param room memory for two numbers a column of a strip
 */
export function fromRings(
  means: usize,
  least: i32,
  start: f32,
  span: f32,
  steps: i32,
  cx: f32,
  cy: f32,
  width: i32,
  height: i32,
  room: usize,
  data: usize,
): void {
  const ring = <usize>(steps + 2) * 8;
  const places = at(room, strip, 4);
  // In strips as wide as the rings a strip meets stay at hand.
  for (let left = 0; left < width; left += strip) {
    const count = min(strip, width - left);
    for (let y = 0; y < height; y++) {
      placesOf(<f32>left - cx, <f32>y - cy, count, <f32>least, start, span, steps, room, places);
      const pixels = at(data, y * width + left, 4);
      for (let k = 0; k < count; k++) {
        const away = load<i32>(at(room, k, 4));
        const place = load<i32>(at(places, k, 4));
        const near = means + <usize>(away >> 15) * ring + <usize>(place >> 15) * 8;
        const mean = mixedPair(mixedFine(v128.load(near), v128.load(near + ring), beyond(away)), beyond(place));
        storeFine(at(pixels, k, 4), mean, left + k, y);
      }
    }
  }
}

/** On which ring and at which angle pixels of a row lie, in 1 / 2^15 of a step. */
// @ts-ignore: a decorator of the compiler
@inline
function placesOf(left: f32, down: f32, count: i32, least: f32, start: f32, span: f32, steps: i32, rings: usize, angles: usize): void {
  const fine: f32 = 32768;
  const dy = f32x4.splat(down);
  const dy2 = f32x4.mul(dy, dy);
  const most = f32x4.splat(<f32>steps * fine);
  const scale = f32x4.splat((<f32>steps / span) * fine);
  for (let k = 0; k < count; k += 4) {
    const dx = f32x4.add(f32x4.splat(left + <f32>k), f32x4(0, 1, 2, 3));
    const away = f32x4.sub(f32x4.sqrt(f32x4.add(f32x4.mul(dx, dx), dy2)), f32x4.splat(least));
    v128.store(at(rings, k, 4), i32x4.trunc_sat_f32x4_s(f32x4.mul(away, f32x4.splat(fine))));
    const turn = f32x4.sub(turnsOf(dx, dy), f32x4.splat(start));
    const place = f32x4.mul(f32x4.sub(turn, f32x4.floor(turn)), scale);
    v128.store(at(angles, k, 4), i32x4.trunc_sat_f32x4_s(f32x4.pmin(place, most)));
  }
}
