import {
  blockHeight,
  blockWidth,
  bluePlane,
  core,
  edge,
  lumaPlane,
  mixture,
  nearScreen,
  noise,
  redPlane,
  screen,
  side,
  stride,
  subject,
} from './frame';
import { tellOfUnits, toldOfOther } from './edges';
import { everyBlue, everyGreen, everyRed, everySecond } from './pixels';
import { clamped, greenOf, lanesOf, leastAround, lumaOf, squaredDistance } from './vectors';

// @ts-ignore: decorator
@inline
function aboveNoise(distance: v128): v128 {
  return clamped(f32x4.sub(f32x4.mul(distance, f32x4.splat(1 / noise)), f32x4.splat(1)));
}

/** What core and edge alone say. */
// @ts-ignore: decorator
@inline
function byThresholds(distance: v128): v128 {
  const span = max<f32>(1, edge - core);
  const between = clamped(f32x4.mul(f32x4.sub(distance, f32x4.splat(core)), f32x4.splat(1 / span)));
  return f32x4.mul(aboveNoise(distance), between);
}

/** How much of four colours of one cell is subject, 0..1. */
// @ts-ignore: decorator
@inline
function shareOf(cell: usize, luma: v128, blue: v128, red: v128): v128 {
  const behind = screen + cell * 16;
  const l = f32x4.sub(luma, v128.load32_splat(behind));
  const b = f32x4.sub(blue, v128.load32_splat(behind + 4));
  const r = f32x4.sub(red, v128.load32_splat(behind + 8));
  const square = squaredDistance(l, b, r);
  const distance = f32x4.sqrt(square);
  if (subject == 0 || load<u8>(nearScreen + cell) == 0) return byThresholds(distance);
  const own = subject + cell * 16;
  const wl = f32x4.splat(load<f32>(own) - load<f32>(behind));
  const wb = f32x4.splat(load<f32>(own + 4) - load<f32>(behind + 4));
  const wr = f32x4.splat(load<f32>(own + 8) - load<f32>(behind + 8));
  const wayRed = f32x4.add(wl, wr);
  const wayGreen = greenOf(wl, wb, wr);
  const wayBlue = f32x4.add(wl, wb);
  const length = dot(wayRed, wayGreen, wayBlue, wayRed, wayGreen, wayBlue);
  if (f32x4.extract_lane(length, 0) < 400) return byThresholds(distance);
  const red0 = f32x4.add(l, r);
  const green0 = greenOf(l, b, r);
  const blue0 = f32x4.add(l, b);
  const mixed = f32x4.div(dot(red0, green0, blue0, wayRed, wayGreen, wayBlue), length);
  const whole = dot(red0, green0, blue0, red0, green0, blue0);
  const zero = f32x4.splat(0);
  const beside = f32x4.sqrt(f32x4.max(zero, f32x4.sub(whole, f32x4.mul(f32x4.mul(mixed, mixed), length))));
  const other = clamped(f32x4.mul(f32x4.sub(beside, f32x4.splat(20)), f32x4.splat(1.0 / 20.0)));
  const unlike = f32x4.sqrt(f32x4.div(square, f32x4.max(f32x4.splat(1), squaredDistance(wl, wb, wr))));
  const more = f32x4.sub(f32x4.max(mixed, unlike), mixed);
  const alpha = f32x4.add(mixed, f32x4.mul(other, more));
  return f32x4.mul(aboveNoise(distance), clamped(f32x4.mul(f32x4.sub(alpha, f32x4.splat(0.02)), f32x4.splat(1.0 / 0.92))));
}

// @ts-ignore: decorator
@inline
function dot(a: v128, b: v128, c: v128, x: v128, y: v128, z: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(a, x), f32x4.mul(b, y)), f32x4.mul(c, z));
}

// @ts-ignore: decorator
@inline
function cellOf(by: i32, cx: i32): usize {
  return <usize>((by / side) * (stride / side) + cx);
}

/**
 * How much of every block is subject, in a plane with margins in which the outermost blocks are repeated.
 * @param ranges of the distances in every cell  @param out distances to the screen, which become covers  @param scratch a byte a cell
 */
export function coverOfBlocks(ranges: usize, out: usize, scratch: usize): void {
  const wide = <usize>((stride + 2 * side) * 4);
  const columns = stride / side;
  const rows = (blockHeight + side - 1) / side;
  for (let cy = 0; cy < rows; cy++) {
    const end = min(blockHeight, cy * side + side);
    for (let cx = 0; cx < columns; cx++) {
      const cell = <usize>(cy * columns + cx);
      const nothing = load<f32>(ranges + cell * 8 + 4) <= noise;
      const alone = subject == 0 || load<u8>(nearScreen + cell) == 0;
      let most = f32x4.splat(0);
      let least = f32x4.splat(nothing ? 0 : 1);
      for (let by = cy * side; by < end; by++) {
        const at = out + <usize>(by + 1) * wide + <usize>((side + cx * side) * 4);
        let share = f32x4.splat(0);
        if (!nothing) {
          const i = <usize>((by * stride + cx * side) * 4);
          const distance = v128.load(at);
          if (alone) share = byThresholds(distance);
          else if (v128.any_true(f32x4.gt(distance, f32x4.splat(noise))))
            share = shareOf(cell, v128.load(lumaPlane + i), v128.load(bluePlane + i), v128.load(redPlane + i));
          most = f32x4.max(most, share);
          least = f32x4.min(least, share);
        }
        v128.store(at, share);
      }
      let holds: u8 = v128.any_true(f32x4.gt(most, f32x4.splat(0))) ? 1 : 0;
      if (v128.any_true(f32x4.lt(least, f32x4.splat(0.999)))) holds |= 2;
      store<u8>(scratch + cell, holds);
    }
  }
  repeatOutermost(out);
  for (let cy = 0; cy < rows; cy++) {
    for (let cx = 0; cx < columns; cx++) {
      let holds: u8 = 0;
      for (let y = max(0, cy - 1); y <= min(rows - 1, cy + 1); y++)
        for (let x = max(0, cx - 1); x <= min(columns - 1, cx + 1); x++) holds |= load<u8>(scratch + <usize>(y * columns + x));
      store<u8>(mixture + <usize>(cy * columns + cx), holds);
    }
  }
}

/** Repeats the outermost blocks of a plane in its margins. */
function repeatOutermost(plane: usize): void {
  const wide = <usize>((stride + 2 * side) * 4);
  for (let by = 0; by < blockHeight; by++) {
    const row = plane + <usize>(by + 1) * wide + side * 4;
    store<f32>(row - 4, load<f32>(row));
    const end = row + <usize>(blockWidth * 4);
    store<f32>(end, load<f32>(end - 4));
  }
  memory.copy(plane, plane + wide, wide);
  memory.copy(plane + <usize>(blockHeight + 1) * wide, plane + <usize>blockHeight * wide, wide);
}

/** The covers of the blocks that were steadied. @param flags from `blocksInEdge`  @param cover from `coverOfBlocks` */
export function coverOfSteadyBlocks(flags: usize, cover: usize): void {
  const wide = <usize>((stride + 2 * side) * 4);
  const columns = stride / side;
  for (let by = 0; by < blockHeight; by++) {
    for (let cx = 0; cx < columns; cx++) {
      const bits = load<u8>(flags + <usize>(by * columns + cx));
      if (bits == 0) continue;
      const i = <usize>((by * stride + cx * side) * 4);
      const at = cover + <usize>(by + 1) * wide + <usize>((side + cx * side) * 4);
      const share = shareOf(cellOf(by, cx), v128.load(lumaPlane + i), v128.load(bluePlane + i), v128.load(redPlane + i));
      const wanted = lanesOf(bits);
      v128.store(at, v128.bitselect(share, v128.load(at), wanted));
    }
  }
  repeatOutermost(cover);
}

/**
 * Alpha of a picture with colour for every pixel.
 * @param cover with margins, from `coverOfBlocks`  @param alpha a byte a pixel, rows of 2 * stride
 */
export function alphaOfPixels(picture: usize, cover: usize, alpha: usize): void {
  const rowBytes = <usize>(stride * 8);
  const wide = <usize>((stride + 2 * side) * 4);
  for (let by = 0; by < blockHeight; by++) {
    for (let cx = 0; cx < stride / side; cx++) {
      const cell = cellOf(by, cx);
      const inside = insideBy(leastAround(cover + <usize>(by + 1) * wide + <usize>((side + cx * side) * 4), wide));
      for (let v = 0; v < 2; v++) {
        const at = picture + <usize>(2 * by + v) * rowBytes + <usize>(cx * 32);
        const even = solidified(shareOfPixels(cell, everySecond(at, 0)), inside);
        const odd = solidified(shareOfPixels(cell, everySecond(at, 1)), inside);
        storeAlpha(alpha + <usize>((2 * by + v) * stride * 2 + cx * 8), even, odd);
      }
    }
  }
}

/** How far blocks lie inside the subject, from the least cover around them. */
// @ts-ignore: decorator
@inline
function insideBy(least: v128): v128 {
  return clamped(f32x4.mul(f32x4.sub(least, f32x4.splat(0.65)), f32x4.splat(1.0 / 0.25)));
}

// @ts-ignore: decorator
@inline
function solidified(share: v128, inside: v128): v128 {
  return f32x4.add(share, f32x4.mul(f32x4.sub(f32x4.splat(1), share), inside));
}

// @ts-ignore: decorator
@inline
function shareOfPixels(cell: usize, pixels: v128): v128 {
  const r = everyRed(pixels);
  const g = everyGreen(pixels);
  const b = everyBlue(pixels);
  const luma = lumaOf(r, g, b);
  return shareOf(cell, luma, f32x4.sub(b, luma), f32x4.sub(r, luma));
}

/** Eight bytes from two times four shares: those of even and of odd pixels. */
// @ts-ignore: decorator
@inline
function storeAlpha(at: usize, even: v128, odd: v128): void {
  const low = bytesOf(even);
  const both = v128.or(low, i32x4.shl(bytesOf(odd), 8));
  v128.store64_lane(at, i16x8.narrow_i32x4_u(both, both), 0);
}

// @ts-ignore: decorator
@inline
function bytesOf(share: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(share, f32x4.splat(255)), f32x4.splat(0.5)));
}

/** What `alphaOfHalvedColour` was given. */
let coverPlane: usize = 0;
let alphaPlane: usize = 0;
let solidFlags: usize = 0;

/**
 * Alpha of a picture that stores colour at half size, from the cover of its blocks and what the edge network tells. The network
 * is asked about two units at a time, as its weights are then read half as often.
 * @param cover with margins, from `coverOfBlocks`  @param solid a byte a block with the same margins, ones;
 * it becomes 0 where a block is not all subject
 */
export function alphaOfHalvedColour(cover: usize, alpha: usize, solid: usize): void {
  coverPlane = cover;
  alphaPlane = alpha;
  solidFlags = solid;
  const columns = stride / side;
  let waiting = -1;
  for (let by = 0; by < blockHeight; by++) {
    for (let cx = 0; cx < columns; cx++) {
      const holds = load<u8>(mixture + cellOf(by, cx));
      if (holds != 3) {
        const value: u64 = holds == 1 ? ~(<u64>0) : 0;
        const row = alpha + <usize>(by * 4 * stride + cx * 8);
        store<u64>(row, value);
        store<u64>(row + <usize>(2 * stride), value);
        if (holds == 2) store<u32>(flagsOf(by, cx), 0);
        continue;
      }
      if (!alphaOfUnit(by, cx, 0)) continue;
      const unit = by * columns + cx;
      if (waiting >= 0) askOfUnits(waiting, unit);
      waiting = waiting >= 0 ? -1 : unit;
    }
  }
  if (waiting >= 0) askOfUnits(waiting, waiting);
}

function askOfUnits(one: i32, other: i32): void {
  const columns = stride / side;
  const told = tellOfUnits(one / columns, one % columns, other / columns, other % columns);
  alphaOfUnit(one / columns, one % columns, told);
  alphaOfUnit(other / columns, other % columns, told + toldOfOther());
}

// @ts-ignore: decorator
@inline
function flagsOf(by: i32, cx: i32): usize {
  return solidFlags + <usize>((by + 1) * (stride + 2 * side) + side + cx * side);
}

/**
 * Four blocks beside one another.
 * @param beyond what the network tells of them, or 0  @returns whether that has to be known first
 */
function alphaOfUnit(by: i32, cx: i32, beyond: usize): bool {
  const wide = <usize>((stride + 2 * side) * 4);
  const at = coverPlane + <usize>(by + 1) * wide + <usize>((side + cx * side) * 4);
  const flags = flagsOf(by, cx);
  const c = v128.load(at);
  const left = v128.load(at - 4);
  const right = v128.load(at + 4);
  const up = at - wide;
  const down = at + wide;
  const nine = f32x4.mul(c, f32x4.splat(9));
  const above = v128.load(up);
  const below = v128.load(down);
  let topLeft = course(nine, left, above, v128.load(up - 4));
  let topRight = course(nine, right, above, v128.load(up + 4));
  let lowLeft = course(nine, left, below, v128.load(down - 4));
  let lowRight = course(nine, right, below, v128.load(down + 4));
  const most = f32x4.max(f32x4.max(topLeft, topRight), f32x4.max(lowLeft, lowRight));
  const none = f32x4.le(most, f32x4.splat(0.001));
  const last = blockWidth - cx * side;
  const row = alphaPlane + <usize>(by * 4 * stride + cx * 8);
  if (i32x4.all_true(none)) {
    for (let k = 0; k < min(side, last); k++) store<u8>(flags + k, 0);
    store<u64>(row, 0);
    store<u64>(row + <usize>(2 * stride), 0);
    return false;
  }
  const least = f32x4.min(f32x4.min(topLeft, topRight), f32x4.min(lowLeft, lowRight));
  const all = f32x4.ge(least, f32x4.splat(0.999));
  const inside = insideBy(leastAround(at, wide));
  if (i32x4.all_true(v128.or(all, f32x4.ge(inside, f32x4.splat(1))))) {
    store<u64>(row, ~(<u64>0));
    store<u64>(row + <usize>(2 * stride), ~(<u64>0));
    return false;
  }
  if (beyond == 0) return true;
  topLeft = toldAlpha(topLeft, beyond, all, none, inside);
  topRight = toldAlpha(topRight, beyond + 16, all, none, inside);
  lowLeft = toldAlpha(lowLeft, beyond + 32, all, none, inside);
  lowRight = toldAlpha(lowRight, beyond + 48, all, none, inside);
  storeAlpha(row, topLeft, topRight);
  storeAlpha(row + <usize>(2 * stride), lowLeft, lowRight);
  const low = f32x4.min(f32x4.min(topLeft, topRight), f32x4.min(lowLeft, lowRight));
  const full = i32x4.bitmask(f32x4.ge(low, f32x4.splat(254.5 / 255.0)));
  for (let k = 0; k < min(side, last); k++) if (((full >> k) & 1) == 0) store<u8>(flags + k, 0);
  return false;
}

// @ts-ignore: decorator
@inline
function course(nine: v128, beside: v128, over: v128, corner: v128): v128 {
  const three = f32x4.mul(f32x4.add(beside, over), f32x4.splat(3));
  return f32x4.mul(f32x4.add(f32x4.add(nine, three), corner), f32x4.splat(1.0 / 16.0));
}

/** Alpha of one pixel of each of four blocks. @param beyond its course, from the edge network */
// @ts-ignore: decorator
@inline
function toldAlpha(from: v128, beyond: usize, all: v128, none: v128, inside: v128): v128 {
  const more = f32x4.mul(f32x4.convert_i32x4_s(v128.load(beyond)), f32x4.splat(1.0 / 512.0));
  const beyondEnd = f32x4.sub(f32x4.add(from, more), f32x4.splat(0.03));
  const share = v128.bitselect(f32x4.splat(1), clamped(f32x4.mul(beyondEnd, f32x4.splat(1.0 / 0.94))), all);
  return v128.andnot(solidified(share, inside), none);
}
