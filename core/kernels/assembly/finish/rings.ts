import { addressesOf, mixedFour, mixedFirst, mixedFourth, mixedSecond, mixedThird, sharesAbove, sharesAlong, sharesBelow, storeFour, storeWhole } from './fine';
import { storeSome, strip } from './means';
import { at } from './vectors';

/*
 * Means along rings about a point (pictures as in fine.ts). Rings have whole radii and are parted into as many cells of equal
 * angles; a cell is so short that it is straight. Each holds the sum of some samples, as many in all cells of a ring.
 */

const whole: f32 = 6.2831853;
/** Places are counted from three pixels before the first, so that none is below 0, in 1 / 2^15 of a pixel. */
const ahead: f64 = 3;
/** Samples of a ring that are taken before those of the next one. */
const chunk = 64;
/** Pixels from the point within which rings and angles bend too much to look for them at every fourth pixel only. */
const near: f32 = 64;

/** Pixels of a block's side: 2^4. */
// @ts-ignore: a decorator of the compiler
@inline
const side = 4;

/**
 * Says of each block of 16 x 16 pixels whether something is seen in it, or in one that is no farther than so many blocks.
 * @param to u8 of each block, in rows
 */
export function seenBlocks(data: usize, width: i32, height: i32, farthest: i32, room: usize, to: usize): void {
  const wide = (width + 15) >> side;
  const high = (height + 15) >> side;
  memory.fill(room, 0, <usize>(wide * high));
  for (let y = 0; y < height; y++) {
    const row = at(data, y * width, 4);
    const blocks = at(room, (y >> side) * wide, 1);
    let x = 0;
    for (; x + 4 <= width; x += 4)
      if (v128.any_true(i32x4.shr_u(v128.load(at(row, x, 4)), 24))) store<u8>(at(blocks, x >> side, 1), 1);
    for (; x < width; x++) if (load<u8>(at(row, x, 4), 3)) store<u8>(at(blocks, x >> side, 1), 1);
  }
  memory.fill(to, 0, <usize>(wide * high));
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      if (!load<u8>(at(room, y * wide + x, 1))) continue;
      const first = max(0, x - farthest);
      const count = min(wide, x + farthest + 1) - first;
      for (let v = max(0, y - farthest); v < min(high, y + farthest + 1); v++)
        memory.fill(at(to, v * wide + first, 1), 1, <usize>count);
    }
}

/** The sum of four samples. @param origin of the pixel that lies at place 0 */
// @ts-ignore: a decorator of the compiler
@inline
function fourSampled(origin: usize, row: i32, x: v128, y: v128): v128 {
  const along = sharesAlong(x);
  const below = sharesBelow(along, y);
  const above = sharesAbove(along, below);
  const pixels = addressesOf(x, y, row);
  const left = i32x4.add(mixedFirst(origin, row, pixels, above, below), mixedSecond(origin, row, pixels, above, below));
  const right = i32x4.add(mixedThird(origin, row, pixels, above, below), mixedFourth(origin, row, pixels, above, below));
  return i32x4.add(left, right);
}

/** One of them, clear outside. */
function sampled(origin: usize, width: i32, height: i32, x: i32, y: i32): v128 {
  if (<u32>((x >> 15) - 2) > <u32>width || <u32>((y >> 15) - 2) > <u32>height) return i32x4.splat(0);
  const row = (width + 2) * 8;
  const along = sharesAlong(i32x4.splat(x));
  const below = sharesBelow(along, i32x4.splat(y));
  return mixedFour(origin + <usize>((y >> 15) * row) + at(0, x >> 15, 8), row, sharesAbove(along, below), below);
}

/** The sum of samples on both sides of a place. @param place its x and y, then the way from sample to sample */
function sumOneByOne(origin: usize, width: i32, height: i32, place: v128, samples: i32): v128 {
  const dx = i32x4.extract_lane(place, 2);
  const dy = i32x4.extract_lane(place, 3);
  const x = i32x4.extract_lane(place, 0);
  const y = i32x4.extract_lane(place, 1);
  let sum = i32x4.splat(0);
  for (let n = 1 - samples; n < samples; n += 2)
    sum = i32x4.add(sum, sampled(origin, width, height, x + ((dx * n) >> 1), y + ((dy * n) >> 1)));
  return sum;
}

/** Places a mean may reach without a look at each: two pixels before the first, and two behind the last. */
// @ts-ignore: a decorator of the compiler
@inline
function lastOf(width: i32, height: i32): v128 {
  return i32x4(((width + 3) << 15) - 1, ((height + 3) << 15) - 1, i32.MAX_VALUE, i32.MAX_VALUE);
}

/** The sum of a cell's samples. @param place of its middle, then the way from sample to sample  @param beside -(samples - 1) and the next three, in halves */
// @ts-ignore: a decorator of the compiler
@inline
function sumOfCell(origin: usize, width: i32, height: i32, most: v128, place: v128, samples: i32, beside: v128): v128 {
  const half = samples >> 1;
  const least = i32x4(65536, 65536, i32.MIN_VALUE, i32.MIN_VALUE);
  const reach = i32x4.mul(i32x4.abs(v128.shuffle<i32>(place, place, 2, 3, 2, 3)), i32x4(half, half, 0, 0));
  const first = i32x4.sub(place, reach);
  const last = i32x4.add(place, reach);
  if (v128.any_true(v128.or(i32x4.lt_s(last, least), i32x4.gt_s(first, most)))) return i32x4.splat(0);
  if (v128.any_true(v128.or(i32x4.lt_s(first, least), i32x4.gt_s(last, most)))) return sumOneByOne(origin, width, height, place, samples);
  const row = (width + 2) * 8;
  const dx = v128.shuffle<i32>(place, place, 2, 2, 2, 2);
  const dy = v128.shuffle<i32>(place, place, 3, 3, 3, 3);
  let x = i32x4.add(v128.shuffle<i32>(place, place, 0, 0, 0, 0), i32x4.shr_s(i32x4.mul(dx, beside), 1));
  let y = i32x4.add(v128.shuffle<i32>(place, place, 1, 1, 1, 1), i32x4.shr_s(i32x4.mul(dy, beside), 1));
  const wayX = i32x4.shl(dx, 2);
  const wayY = i32x4.shl(dy, 2);
  let sum = fourSampled(origin, row, x, y);
  for (let n = 4; n < samples; n += 4) {
    x = i32x4.add(x, wayX);
    y = i32x4.add(y, wayY);
    sum = i32x4.add(sum, fourSampled(origin, row, x, y));
  }
  return sum;
}

/** From a picture's first number to that of a pixel which lies before it by two. */
// @ts-ignore: a decorator of the compiler
@inline
function beforeFirst(from: usize, width: i32): usize {
  return from - <usize>((width + 2) * 16) - 16;
}

// @ts-ignore: a decorator of the compiler
@inline
function placeOf(centre: v128, sizes: v128, towards: usize): v128 {
  return i32x4.add(centre, i32x4.trunc_sat_f32x4_s(f32x4.mul(sizes, v128.load(towards))));
}

// @ts-ignore: a decorator of the compiler
@inline
function centreOf(x: f64, y: f64): v128 {
  return i32x4(<i32>((x + ahead) * 32768), <i32>((y + ahead) * 32768), 0, 0);
}

/**
 * Cells of a ring.
 * @param towards f32 of each: cosine and sine of its middle, and what they become from its start to its end
 * @param samples in each cell, a multiple of four
 */
function layCells(from: usize, width: i32, height: i32, x: f64, y: f64, radius: f32, towards: usize, count: i32, samples: i32, cells: usize): void {
  const origin = beforeFirst(from, width);
  const centre = centreOf(x, y);
  const long = radius * 32768;
  const each = long / <f32>samples;
  const sizes = f32x4(long, long, each, each);
  const most = lastOf(width, height);
  const beside = i32x4.sub(i32x4(0, 2, 4, 6), i32x4.splat(samples - 1));
  for (let k = 0; k < count; k++) {
    const place = placeOf(centre, sizes, at(towards, k, 16));
    v128.store(at(cells, k, 16), sumOfCell(origin, width, height, most, place, samples, beside));
  }
}

/** The same from means of two pixels: of neighbours in a row where the ring goes sideways, else in a column. */
function layCellsOfPairs(columns: usize, rows: usize, width: i32, height: i32, x: f64, y: f64, blocks: usize, radius: f32, towards: usize, count: i32, samples: i32, cells: usize): void {
  const wideBlocks = (width + 15) >> side;
  const highBlocks = (height + 15) >> side;
  const wide = (width + 1) >> 1;
  const high = (height + 1) >> 1;
  const besideColumns = beforeFirst(columns, wide);
  const besideRows = beforeFirst(rows, width);
  const columnCentre = centreOf((x - 0.5) / 2, y);
  const rowCentre = centreOf(x, (y - 0.5) / 2);
  const long = radius * 32768;
  const each = long / <f32>samples;
  const columnSizes = f32x4(long / 2, long, each / 2, each);
  const rowSizes = f32x4(long, long / 2, each, each / 2);
  const columnMost = lastOf(wide, height);
  const rowMost = lastOf(width, high);
  const beside = i32x4.sub(i32x4(0, 2, 4, 6), i32x4.splat(samples - 1));
  for (let k = 0; k < count; k++) {
    const way = at(towards, k, 16);
    const to = at(cells, k, 16);
    const column = <i32>(<f32>x + radius * load<f32>(way)) >> side;
    const row = <i32>(<f32>y + radius * load<f32>(way, 4)) >> side;
    if (<u32>column < <u32>wideBlocks && <u32>row < <u32>highBlocks && !load<u8>(at(blocks, row * wideBlocks + column, 1))) {
      v128.store(to, i32x4.splat(0));
      continue;
    }
    if (abs(load<f32>(way, 8)) >= abs(load<f32>(way, 12)))
      v128.store(to, sumOfCell(besideColumns, wide, height, columnMost, placeOf(columnCentre, columnSizes, way), samples, beside));
    else v128.store(to, sumOfCell(besideRows, width, high, rowMost, placeOf(rowCentre, rowSizes, way), samples, beside));
  }
}

/**
 * Means over an angle about where each cell begins: whole cells, and a part of those at both ends.
 * @param cells with as many as a mean reaches before the first and after the last  @param each samples of a cell
 */
function meansOf(cells: usize, count: i32, half: f64, each: i32, to: usize): void {
  const reach = <i32>half;
  const part = f32x4.splat(<f32>(half - <f64>reach));
  const share = f32x4.splat(<f32>(1 / (2 * half * <f64>each)));
  let sum = i32x4.splat(0);
  for (let k = -reach; k < reach; k++) sum = i32x4.add(sum, v128.load(at(cells, k, 16)));
  let leave = at(cells, -reach - 1, 16);
  let enter = at(cells, reach, 16);
  for (let k = 0; k < count; k++) {
    const next = v128.load(enter);
    const ends = f32x4.convert_i32x4_s(i32x4.add(v128.load(leave), next));
    storeWhole(at(to, k, 8), f32x4.mul(f32x4.add(f32x4.convert_i32x4_s(sum), f32x4.mul(ends, part)), share));
    leave += 16;
    enter += 16;
    sum = i32x4.add(sum, i32x4.sub(next, v128.load(leave)));
  }
}

/** What lies before the first and after the last cell: in a closed ring the others, else nothing. */
function layEnds(cells: usize, steps: i32, reach: i32, closed: bool): void {
  const before = at(cells, -reach, 16);
  const after = at(cells, steps, 16);
  const bytes = <usize>(reach * 16);
  if (!closed) {
    memory.fill(before, 0, bytes);
    memory.fill(after, 0, bytes);
    return;
  }
  memory.copy(before, at(after, -reach, 16), bytes);
  memory.copy(after, cells, bytes);
}

/**
 * Of each ring of a picture the means over an angle about where each of `steps` cells begins, and two more.
 * @param from a part of the picture, in which the point is at x and y, that holds the rings before `paired`; the others are taken
 * from means of two pixels, in `columns` of neighbours in a row and in `rows` of those in a column
 * @param blocks of the picture near which something is seen, as of `seenBlocks`
 * @param towards f32 of each cell: cosine and sine of its middle, and what they become from its start to its end
 * @param samples i32 of each ring: in each of its cells, a multiple of four
 * @param half how many cells are half a mean; no more than `steps` - 3 if the rings are closed
 * @param block rings that are laid out together
 * @param room memory for block x (steps + 2 x reach) x 16 bytes, reach being half + 4
 */
export function layRings(
  from: usize,
  wide: i32,
  high: i32,
  x: f64,
  y: f64,
  columns: usize,
  rows: usize,
  width: i32,
  height: i32,
  cx: f64,
  cy: f64,
  blocks: usize,
  paired: i32,
  least: i32,
  count: i32,
  towards: usize,
  samples: usize,
  steps: i32,
  closed: i32,
  half: f64,
  means: usize,
  block: i32,
  room: usize,
): void {
  const reach = <i32>half + 4;
  const apart = steps + 2 * reach;
  for (let first = 0; first < count; first += block) {
    const rings = min(block, count - first);
    const longest = load<i32>(at(samples, first + rings - 1, 4));
    const some = max(1, chunk / longest);
    for (let done = 0; done < steps; done += some)
      for (let n = 0; n < rings; n++) {
        const cells = at(at(room, n * apart, 16), reach + done, 16);
        const each = load<i32>(at(samples, first + n, 4));
        const radius = <f32>(least + first + n);
        const ways = at(towards, done, 16);
        const now = min(some, steps - done);
        if (first + n < paired) layCells(from, wide, high, x, y, radius, ways, now, each, cells);
        else layCellsOfPairs(columns, rows, width, height, cx, cy, blocks, radius, ways, now, each, cells);
      }
    for (let n = 0; n < rings; n++) {
      const cells = at(at(room, n * apart, 16), reach, 16);
      const to = at(means, (first + n) * (steps + 2), 8);
      layEnds(cells, steps, reach, closed != 0);
      meansOf(cells, steps + 2, half, load<i32>(at(samples, first + n, 4)), to);
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
 * @param room memory for four numbers a column of a strip
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
  const ring = (steps + 2) * 8;
  const rest = at(room, 3 * strip, 4);
  // In strips as wide as the rings a strip meets stay at hand.
  for (let left = 0; left < width; left += strip) {
    const count = min(strip, width - left);
    for (let y = 0; y < height; y++) {
      placesOf(<f32>left - cx, <f32>y - cy, count, <f32>least, start, span, steps, room);
      storeSome(means, ring, room, count, at(data, y * width + left, 4), left, y, rest);
    }
  }
}

/** On which ring and at which angle four pixels of a row lie, in 1 / 2^15 of a step. @param dx, dy from the point */
// @ts-ignore: a decorator of the compiler
@inline
function fourPlaces(dx: v128, dy: f32, least: f32, start: f32, span: f32, steps: i32, rings: usize, angles: usize): void {
  const fine = f32x4.splat(32768);
  const away = f32x4.sub(f32x4.sqrt(f32x4.add(f32x4.mul(dx, dx), f32x4.splat(dy * dy))), f32x4.splat(least));
  v128.store(rings, i32x4.trunc_sat_f32x4_s(f32x4.mul(away, fine)));
  const turn = f32x4.sub(turnsOf(dx, f32x4.splat(dy)), f32x4.splat(start));
  const place = f32x4.mul(f32x4.sub(turn, f32x4.floor(turn)), f32x4.splat(<f32>steps / span));
  v128.store(angles, i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.pmin(place, f32x4.splat(<f32>steps)), fine)));
}

/** Four numbers from one on towards the next one, which is one pixel beyond them. */
// @ts-ignore: a decorator of the compiler
@inline
function towards(one: i32, next: i32, to: usize): void {
  v128.store(to, i32x4.add(i32x4.splat(one), i32x4.mul(i32x4.splat((next - one) >> 2), i32x4(0, 1, 2, 3))));
}

/**
 * The same of a row's part: far enough from the point of every fourth pixel, and between them.
 * @param rings memory for the rings and, `strip` numbers farther, the angles; then for those of every fourth pixel
 */
function placesOf(left: f32, dy: f32, count: i32, least: f32, start: f32, span: f32, steps: i32, rings: usize): void {
  const angles = at(rings, strip, 4);
  const four = f32x4(0, 1, 2, 3);
  const aside = max<f32>(0, max<f32>(left, -left - <f32>count));
  if (aside * aside + dy * dy < near * near) {
    for (let k = 0; k < count; k += 4)
      fourPlaces(f32x4.add(f32x4.splat(left + <f32>k), four), dy, least, start, span, steps, at(rings, k, 4), at(angles, k, 4));
    return;
  }
  const ringNodes = at(angles, strip, 4);
  const angleNodes = at(ringNodes, strip / 2, 4);
  for (let k = 0; k <= count; k += 16) {
    const dx = f32x4.add(f32x4.splat(left + <f32>k), f32x4(0, 4, 8, 12));
    fourPlaces(dx, dy, least, start, span, steps, at(ringNodes, k, 1), at(angleNodes, k, 1));
  }
  for (let n = 0; 4 * n < count; n++) {
    const k = 4 * n;
    const angle = load<i32>(at(angleNodes, n, 4));
    const next = load<i32>(at(angleNodes, n + 1, 4));
    // Where a turn begins anew, or ends, nothing lies between.
    if (abs(next - angle) > 32768 * 4) fourPlaces(f32x4.add(f32x4.splat(left + <f32>k), four), dy, least, start, span, steps, at(rings, k, 4), at(angles, k, 4));
    else {
      towards(load<i32>(at(ringNodes, n, 4)), load<i32>(at(ringNodes, n + 1, 4)), at(rings, k, 4));
      towards(angle, next, at(angles, k, 4));
    }
  }
}
