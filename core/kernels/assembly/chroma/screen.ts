import { continueCells, settle, smoothCells } from './cells';
import { blockHeight, blockWidth, bluePlane, lumaPlane, redPlane, side, stride } from './frame';
import { firstLanes, squaredDistance, sumOf, sumsOf } from './vectors';

/** A distance beyond all others: there is no block. */
export const nowhere: f32 = 1e9;

/**
 * Sum over the blocks of every cell along the borders: luma, blue less luma, red less luma, and how many there are; four floats
 * a cell. @param rim cells from the border that are summed
 */
export function sumCells(
  rim: i32,
  out: usize,
): void {
  const columns = stride / side;
  const rows = (blockHeight + side - 1) / side;
  for (let cy = 0; cy < rows; cy++) {
    for (let cx = 0; cx < columns; cx++) {
      if (cy >= rim && cy < rows - rim && cx == rim) cx = max(rim, columns - rim);
      const lanes = firstLanes(blockWidth - cx * side);
      let l = f32x4.splat(0);
      let b = l;
      let r = l;
      let n = l;
      for (let by = cy * side; by < min(blockHeight, cy * side + side); by++) {
        const i = <usize>((by * stride + cx * side) * 4);
        l = f32x4.add(l, v128.and(lanes, v128.load(lumaPlane + i)));
        b = f32x4.add(b, v128.and(lanes, v128.load(bluePlane + i)));
        r = f32x4.add(r, v128.and(lanes, v128.load(redPlane + i)));
        n = f32x4.add(n, v128.and(lanes, f32x4.splat(1)));
      }
      v128.store(out + <usize>((cy * columns + cx) * 16), sumsOf(l, b, r, n));
    }
  }
}

/**
 * One measure of the screen, from the blocks that lie `within` a distance of what is known of it, continued over all cells.
 * @param samples colours of it, four floats each  @param count of samples; with 0 `values` holds a colour for every cell
 * @param every of so many rows of blocks one is looked at
 * @returns whether any block lies so near; if not, values are left as sums of nothing
 */
export function measureScreen(
  samples: usize,
  count: i32,
  within: f32,
  enough: f32,
  every: i32,
  values: usize,
  weight: usize,
  scratch: usize,
): bool {
  const columns = stride / side;
  const rows = (blockHeight + side - 1) / side;
  const near = f32x4.splat(within * within);
  for (let cy = 0; cy < rows; cy++) {
    for (let cx = 0; cx < columns; cx++) {
      const cell = <usize>(cy * columns + cx);
      const lanes = firstLanes(blockWidth - cx * side);
      const known = count == 0 ? values + cell * 16 : samples;
      const knownLuma = v128.load32_splat(known);
      const knownBlue = v128.load32_splat(known + 4);
      const knownRed = v128.load32_splat(known + 8);
      let l = f32x4.splat(0);
      let b = l;
      let r = l;
      let n = l;
      const end = min(blockHeight, cy * side + side);
      for (let by = cy * side; by < end; by += every) {
        const i = <usize>((by * stride + cx * side) * 4);
        const own = v128.load(lumaPlane + i);
        const ownBlue = v128.load(bluePlane + i);
        const ownRed = v128.load(redPlane + i);
        let takes = f32x4.lt(
          squaredDistance(f32x4.sub(own, knownLuma), f32x4.sub(ownBlue, knownBlue), f32x4.sub(ownRed, knownRed)),
          near,
        );
        for (let k = 1; k < count; k++) {
          const other = samples + <usize>(k * 16);
          const distance = squaredDistance(
            f32x4.sub(own, v128.load32_splat(other)),
            f32x4.sub(ownBlue, v128.load32_splat(other + 4)),
            f32x4.sub(ownRed, v128.load32_splat(other + 8)),
          );
          takes = v128.or(takes, f32x4.lt(distance, near));
        }
        takes = v128.and(takes, lanes);
        l = f32x4.add(l, v128.and(takes, own));
        b = f32x4.add(b, v128.and(takes, ownBlue));
        r = f32x4.add(r, v128.and(takes, ownRed));
        n = f32x4.add(n, v128.and(takes, f32x4.splat(1)));
      }
      v128.store(values + cell * 16, sumsOf(l, b, r, f32x4.splat(0)));
      store<f32>(weight + cell * 4, sumOf(n));
    }
  }
  if (!settle(values, weight, columns * rows, enough)) return false;
  continueCells(values, weight, columns, rows, scratch);
  return true;
}

export function smoothScreen(values: usize, columns: i32, rows: i32, rounds: i32, scratch: usize): void {
  smoothCells(values, columns, rows, rounds, scratch);
}

/**
 * Distance of every block to the screen behind it, in a plane with a margin of four blocks left and right and one above and
 * below, which is nowhere; and the least and the greatest in every cell, two floats each.
 */
export function distanceToScreen(
  screen: usize,
  out: usize,
  ranges: usize,
): void {
  const columns = stride / side;
  const wide = stride + 2 * side;
  const none = f32x4.splat(nowhere);
  const last = out + <usize>((blockHeight + 1) * wide * 4);
  for (let i = 0; i < wide; i += side) {
    v128.store(out + <usize>(i * 4), none);
    v128.store(last + <usize>(i * 4), none);
  }
  for (let by = 0; by < blockHeight; by++) {
    const row = out + <usize>((by + 1) * wide * 4);
    v128.store(row, none);
    v128.store(row + <usize>((wide - side) * 4), none);
  }
  for (let cy = 0; cy * side < blockHeight; cy++) {
    const end = min(blockHeight, cy * side + side);
    for (let cx = 0; cx < columns; cx++) {
      const cell = <usize>(cy * columns + cx);
      const behind = screen + cell * 16;
      const lanes = firstLanes(blockWidth - cx * side);
      const knownLuma = v128.load32_splat(behind);
      const knownBlue = v128.load32_splat(behind + 4);
      const knownRed = v128.load32_splat(behind + 8);
      let least = none;
      let most = f32x4.splat(0);
      for (let by = cy * side; by < end; by++) {
        const i = <usize>((by * stride + cx * side) * 4);
        const square = squaredDistance(
          f32x4.sub(v128.load(lumaPlane + i), knownLuma),
          f32x4.sub(v128.load(bluePlane + i), knownBlue),
          f32x4.sub(v128.load(redPlane + i), knownRed),
        );
        const d = v128.bitselect(f32x4.sqrt(square), none, lanes);
        v128.store(out + <usize>(((by + 1) * wide + side + cx * side) * 4), d);
        least = f32x4.min(least, d);
        most = f32x4.max(most, v128.and(d, lanes));
      }
      store<f32>(ranges + cell * 8, leastLane(least));
      store<f32>(ranges + cell * 8 + 4, -leastLane(f32x4.neg(most)));
    }
  }
}

// @ts-ignore: decorator
@inline
function leastLane(v: v128): f32 {
  const two = f32x4.min(v, v128.shuffle<i32>(v, v, 2, 3, 0, 1));
  return min<f32>(f32x4.extract_lane(two, 0), f32x4.extract_lane(two, 1));
}

/** Counts distances below `most` in 64 even steps, every third block. @returns how many were counted */
export function countDistances(distance: usize, most: f32, counts: usize): i32 {
  const wide = stride + 2 * side;
  let all = 0;
  let skip = 0;
  const scale: f32 = 64.0 / most;
  for (let by = 0; by < blockHeight; by++) {
    const row = distance + <usize>(((by + 1) * wide + side) * 4);
    let x = skip;
    for (; x < blockWidth; x += 3) {
      const d = load<f32>(row + <usize>(x * 4));
      if (d >= most) continue;
      const p = counts + <usize>(min(63, <i32>(d * scale)) * 4);
      store<i32>(p, load<i32>(p) + 1);
      all++;
    }
    skip = x - blockWidth;
  }
  return all;
}
