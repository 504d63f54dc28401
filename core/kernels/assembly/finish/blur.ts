import { at } from './vectors';

/*
 * Blurs work on lines of vectors. A line is a row or a column of a picture of four floats a pixel, or four rows, or four
 * columns, of a plane of one: each of the four lanes is blurred alone.
 */

/** How a line is blurred: by three means of these radii, or, with weights, by those of one side and of the middle. */
let radius1: i32 = 0;
let radius2: i32 = 0;
let radius3: i32 = 0;
let weights: usize = 0;
let reach: i32 = 0;
/** Lines with room for the reach at both ends, and how far apart they begin, in vectors. */
let lineA: usize = 0;
let lineB: usize = 0;
let apart: i32 = 0;

/** Repeats the first and the last vector of a line at its ends. */
// @ts-ignore: a decorator of the compiler
@inline
function repeatEnds(line: usize, count: i32, by: i32): void {
  const first = v128.load(line);
  const last = v128.load(at(line, count - 1, 16));
  for (let k = 1; k <= by; k++) {
    v128.store(line - <usize>(k * 16), first);
    v128.store(at(line, count - 1 + k, 16), last);
  }
}

function meanAlong(from: usize, to: usize, count: i32, radius: i32): void {
  repeatEnds(from, count, radius + 1);
  const share = f32x4.splat(1 / (<f32>radius * 2 + 1));
  let sum = f32x4.splat(0);
  for (let k = -radius; k <= radius; k++) sum = f32x4.add(sum, v128.load(from + <usize>(k * 16)));
  let enter = at(from, radius + 1, 16);
  let leave = from - <usize>(radius * 16);
  const end = at(to, count, 16);
  for (let out = to; out < end; out += 16) {
    v128.store(out, f32x4.mul(sum, share));
    sum = f32x4.add(sum, f32x4.sub(v128.load(enter), v128.load(leave)));
    enter += 16;
    leave += 16;
  }
}

function weighedAlong(from: usize, to: usize, count: i32): void {
  repeatEnds(from, count, reach);
  for (let k = 0; k < count; k++) {
    const middle = at(from, k, 16);
    let sum = f32x4.mul(v128.load(middle), v128.load32_splat(weights));
    for (let w = 1; w <= reach; w++) {
      const away = <usize>(w * 16);
      const both = f32x4.add(v128.load(middle - away), v128.load(middle + away));
      sum = f32x4.add(sum, f32x4.mul(both, v128.load32_splat(at(weights, w, 4))));
    }
    v128.store(at(to, k, 16), sum);
  }
}

/** Blurs what is in line A. */
// @ts-ignore: a decorator of the compiler
@inline
function blurLine(count: i32, to: usize): void {
  if (weights != 0) {
    weighedAlong(lineA, to, count);
    return;
  }
  meanAlong(lineA, lineB, count, radius1);
  meanAlong(lineB, lineA, count, radius2);
  meanAlong(lineA, to, count, radius3);
}

// @ts-ignore: a decorator of the compiler
@inline
function isClear(line: usize, count: i32): bool {
  let any = i32x4.splat(0);
  for (let k = 0; k < count; k++) any = v128.or(any, v128.load(at(line, k, 16)));
  return !v128.any_true(any);
}

/** Four lines of a plane, whose values lie `step` bytes apart and the lines `stride`, through the blur. */
function blurFour(plane: usize, count: i32, step: i32, stride: i32, lines: i32): void {
  // Past the last line it is taken again: it is written once more as it was blurred.
  const s1 = <usize>(min(1, lines - 1) * stride);
  const s2 = <usize>(min(2, lines - 1) * stride);
  const s3 = <usize>(min(3, lines - 1) * stride);
  for (let k = 0; k < count; k++) {
    const i = at(plane, k, step);
    let four = f32x4.splat(load<f32>(i));
    four = f32x4.replace_lane(four, 1, load<f32>(i + s1));
    four = f32x4.replace_lane(four, 2, load<f32>(i + s2));
    four = f32x4.replace_lane(four, 3, load<f32>(i + s3));
    v128.store(at(lineA, k, 16), four);
  }
  if (isClear(lineA, count)) return;
  blurLine(count, lineB);
  for (let k = 0; k < count; k++) {
    const i = at(plane, k, step);
    const four = v128.load(at(lineB, k, 16));
    store<f32>(i, f32x4.extract_lane(four, 0));
    store<f32>(i + s1, f32x4.extract_lane(four, 1));
    store<f32>(i + s2, f32x4.extract_lane(four, 2));
    store<f32>(i + s3, f32x4.extract_lane(four, 3));
  }
}

/** One line of vectors that lie one after the other. */
function blurOne(first: usize, count: i32): void {
  memory.copy(lineA, first, <usize>count * 16);
  if (!isClear(lineA, count)) blurLine(count, first);
}

/** Up to four columns of vectors side by side, `stride` bytes from row to row: they share what is read at once. */
function blurColumns(first: usize, count: i32, stride: i32, columns: i32): void {
  const own = lineA;
  for (let y = 0; y < count; y++) {
    const i = at(first, y, stride);
    for (let c = 0; c < columns; c++) v128.store(at(own, c * apart + y, 16), v128.load(at(i, c, 16)));
  }
  for (let c = 0; c < columns; c++) {
    lineA = at(own, c * apart, 16);
    // A mean reads again what lies behind it: line A cannot be written over yet.
    if (isClear(lineA, count)) continue;
    blurLine(count, lineB);
    memory.copy(lineA, lineB, <usize>count * 16);
  }
  lineA = own;
  for (let y = 0; y < count; y++) {
    const i = at(first, y, stride);
    for (let c = 0; c < columns; c++) v128.store(at(i, c, 16), v128.load(at(own, c * apart + y, 16)));
  }
}

/**
 * Blurs a picture in place, along its rows and then its columns, borders repeated.
 * @param channels 1 or 4 floats a pixel
 * @param boxes three radii of means (i32), or 0  @param sides weights (f32) of the middle and of `side` values beside it, or 0
 * @param lines memory for five lines of max(width, height) + 2 x `ends` vectors; `ends` is more than any reach
 */
export function blur(
  data: usize,
  width: i32,
  height: i32,
  channels: i32,
  boxes: usize,
  sides: usize,
  side: i32,
  lines: usize,
  ends: i32,
): void {
  radius1 = boxes ? load<i32>(boxes) : 0;
  radius2 = boxes ? load<i32>(boxes, 4) : 0;
  radius3 = boxes ? load<i32>(boxes, 8) : 0;
  weights = sides;
  reach = side;
  apart = max(width, height) + 2 * ends;
  lineB = at(lines, ends, 16);
  lineA = at(lineB, apart, 16);
  const row = width * channels * 4;
  if (channels == 4) for (let y = 0; y < height; y++) blurOne(at(data, y, row), width);
  else for (let y = 0; y < height; y += 4) blurFour(at(data, y, row), width, 4, row, height - y);
  // Four columns of a plane side by side are vectors as they lie; a rest of fewer is gathered.
  const vectors = (width * channels) >> 2;
  for (let x = 0; x < vectors; x += 4) blurColumns(at(data, x, 16), height, row, min(4, vectors - x));
  const rest = vectors << 2;
  if (rest < width * channels) blurFour(at(data, rest, 4), height, row, 4, width * channels - rest);
}
