import { continueCells, settle, smoothCells } from './cells';
import { side } from './frame';
import { firstLanes, squaredDistance, sumOf, sumsOf } from './vectors';

/** A distance beyond all others: there is no block. */
export const nowhere: f32 = 1e9;

/**
 * Sum over the blocks of every cell along the borders: luma, blue less luma, red less luma, and how many there are; four floats
 * a cell. @param rim cells from the border that are summed
 */
export function sumCells(
  luma: usize,
  blue: usize,
  red: usize,
  width: i32,
  height: i32,
  stride: i32,
  rim: i32,
  out: usize,
): void {
  const columns = stride / side;
  const rows = (height + side - 1) / side;
  for (let cy = 0; cy < rows; cy++) {
    for (let cx = 0; cx < columns; cx++) {
      if (cy >= rim && cy < rows - rim && cx == rim) cx = max(rim, columns - rim);
      const lanes = firstLanes(width - cx * side);
      let l = f32x4.splat(0);
      let b = l;
      let r = l;
      let n = l;
      for (let by = cy * side; by < min(height, cy * side + side); by++) {
        const i = <usize>((by * stride + cx * side) * 4);
        l = f32x4.add(l, v128.and(lanes, v128.load(luma + i)));
        b = f32x4.add(b, v128.and(lanes, v128.load(blue + i)));
        r = f32x4.add(r, v128.and(lanes, v128.load(red + i)));
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
  luma: usize,
  blue: usize,
  red: usize,
  width: i32,
  height: i32,
  stride: i32,
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
  const rows = (height + side - 1) / side;
  const near = f32x4.splat(within * within);
  for (let cy = 0; cy < rows; cy++) {
    for (let cx = 0; cx < columns; cx++) {
      const cell = <usize>(cy * columns + cx);
      const lanes = firstLanes(width - cx * side);
      const known = count == 0 ? values + cell * 16 : samples;
      const knownLuma = v128.load32_splat(known);
      const knownBlue = v128.load32_splat(known + 4);
      const knownRed = v128.load32_splat(known + 8);
      let l = f32x4.splat(0);
      let b = l;
      let r = l;
      let n = l;
      const end = min(height, cy * side + side);
      for (let by = cy * side; by < end; by += every) {
        const i = <usize>((by * stride + cx * side) * 4);
        const own = v128.load(luma + i);
        const ownBlue = v128.load(blue + i);
        const ownRed = v128.load(red + i);
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
  luma: usize,
  blue: usize,
  red: usize,
  width: i32,
  height: i32,
  stride: i32,
  screen: usize,
  out: usize,
  ranges: usize,
): void {
  const columns = stride / side;
  const wide = stride + 2 * side;
  const none = f32x4.splat(nowhere);
  const last = out + <usize>((height + 1) * wide * 4);
  for (let i = 0; i < wide; i += side) {
    v128.store(out + <usize>(i * 4), none);
    v128.store(last + <usize>(i * 4), none);
  }
  for (let by = 0; by < height; by++) {
    const row = out + <usize>((by + 1) * wide * 4);
    v128.store(row, none);
    v128.store(row + <usize>((wide - side) * 4), none);
  }
  for (let cy = 0; cy * side < height; cy++) {
    const end = min(height, cy * side + side);
    for (let cx = 0; cx < columns; cx++) {
      const cell = <usize>(cy * columns + cx);
      const behind = screen + cell * 16;
      const lanes = firstLanes(width - cx * side);
      const knownLuma = v128.load32_splat(behind);
      const knownBlue = v128.load32_splat(behind + 4);
      const knownRed = v128.load32_splat(behind + 8);
      let least = none;
      let most = f32x4.splat(0);
      for (let by = cy * side; by < end; by++) {
        const i = <usize>((by * stride + cx * side) * 4);
        const square = squaredDistance(
          f32x4.sub(v128.load(luma + i), knownLuma),
          f32x4.sub(v128.load(blue + i), knownBlue),
          f32x4.sub(v128.load(red + i), knownRed),
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
export function countDistances(distance: usize, width: i32, height: i32, stride: i32, most: f32, counts: usize): i32 {
  const wide = stride + 2 * side;
  let all = 0;
  let skip = 0;
  const scale: f32 = 64.0 / most;
  for (let by = 0; by < height; by++) {
    const row = distance + <usize>(((by + 1) * wide + side) * 4);
    let x = skip;
    for (; x < width; x += 3) {
      const d = load<f32>(row + <usize>(x * 4));
      if (d >= most) continue;
      const p = counts + <usize>(min(63, <i32>(d * scale)) * 4);
      store<i32>(p, load<i32>(p) + 1);
      all++;
    }
    skip = x - width;
  }
  return all;
}

/** A byte a cell: 1 where any block of it is nearer to the screen than `edge`. */
export function cellsOfScreen(ranges: usize, count: i32, edge: f32, out: usize): void {
  for (let i = 0; i < count; i++) store<u8>(out + <usize>i, load<f32>(ranges + <usize>(i * 8)) < edge ? 1 : 0);
}

/**
 * The subject's colours in the cells near the screen, weighted by how sure they are its own, and continued over all cells.
 * @param ranges of the distances in every cell  @param near a byte a cell  @param strength of the screen  @returns whether any of the subject is seen
 */
export function measureSubject(
  luma: usize,
  blue: usize,
  red: usize,
  height: i32,
  stride: i32,
  distance: usize,
  ranges: usize,
  near: usize,
  core: f32,
  edge: f32,
  strength: f32,
  values: usize,
  weight: usize,
  scratch: usize,
): bool {
  const columns = stride / side;
  const rows = (height + side - 1) / side;
  const wide = (stride + 2 * side) * 4;
  const span = max<f32>(1, edge - core);
  for (let cy = 0; cy < rows; cy++) {
    for (let cx = 0; cx < columns; cx++) {
      const cell = <usize>(cy * columns + cx);
      if (load<u8>(near + cell) == 0 || load<f32>(ranges + cell * 8 + 4) < core + 0.3 * span) {
        v128.store(values + cell * 16, f32x4.splat(0));
        store<f32>(weight + cell * 4, 0);
        continue;
      }
      let l = f32x4.splat(0);
      let b = l;
      let r = l;
      let square = l;
      let n = l;
      for (let by = cy * side; by < min(height, cy * side + side); by++) {
        const at = distance + <usize>((by + 1) * wide + (side + cx * side) * 4);
        const d = v128.load(at);
        const there = f32x4.lt(d, f32x4.splat(nowhere));
        let cover = f32x4.div(f32x4.sub(d, f32x4.splat(core)), f32x4.splat(span));
        cover = f32x4.min(f32x4.splat(1), f32x4.max(f32x4.splat(0), cover));
        const some = v128.and(there, f32x4.ge(cover, f32x4.splat(0.3)));
        if (!v128.any_true(some)) continue;
        const least = f32x4.min(f32x4.min(leastOf(at - wide), leastOf(at)), leastOf(at + wide));
        const sure = f32x4.gt(least, f32x4.splat(core + 0.9 * span));
        let alone = f32x4.sub(d, f32x4.splat(core / strength));
        alone = f32x4.mul(alone, f32x4.splat(1 / max<f32>(1, (edge - core) / strength)));
        alone = f32x4.min(f32x4.splat(1), f32x4.max(f32x4.splat(0), alone));
        const two = f32x4.mul(alone, alone);
        const four = f32x4.mul(two, two);
        let w = f32x4.mul(f32x4.mul(f32x4.mul(four, four), four), f32x4.splat(0.002));
        w = v128.and(some, f32x4.add(w, v128.and(sure, f32x4.splat(1))));
        const i = <usize>((by * stride + cx * side) * 4);
        const own = v128.load(luma + i);
        const weighted = f32x4.mul(w, own);
        l = f32x4.add(l, weighted);
        b = f32x4.add(b, f32x4.mul(w, v128.load(blue + i)));
        r = f32x4.add(r, f32x4.mul(w, v128.load(red + i)));
        square = f32x4.add(square, f32x4.mul(weighted, own));
        n = f32x4.add(n, w);
      }
      v128.store(values + cell * 16, sumsOf(l, b, r, square));
      store<f32>(weight + cell * 4, sumOf(n));
    }
  }
  if (!settle(values, weight, columns * rows, <f32>side)) return false;
  continueCells(values, weight, columns, rows, scratch);
  return true;
}

/**
 * The subject's colours in the cells that lie too deep for any to be mixed with the screen, continued over all cells.
 * @param near,wanted a byte a cell: those near the screen are left out, and those not wanted too
 * @returns whether any of the subject is seen there
 */
export function measureDeep(
  luma: usize,
  blue: usize,
  red: usize,
  height: i32,
  stride: i32,
  distance: usize,
  near: usize,
  wanted: usize,
  edge: f32,
  values: usize,
  weight: usize,
  scratch: usize,
): bool {
  const columns = stride / side;
  const rows = (height + side - 1) / side;
  const wide = (stride + 2 * side) * 4;
  for (let cy = 0; cy < rows; cy++) {
    const end = min(height, cy * side + side);
    for (let cx = 0; cx < columns; cx++) {
      const cell = <usize>(cy * columns + cx);
      let l = f32x4.splat(0);
      let b = l;
      let r = l;
      let square = l;
      let n = l;
      const looked = load<u8>(wanted + cell) != 0 && load<u8>(near + cell) == 0;
      for (let by = cy * side; looked && by < end; by++) {
        const d = v128.load(distance + <usize>((by + 1) * wide + (side + cx * side) * 4));
        const there = v128.and(f32x4.lt(d, f32x4.splat(nowhere)), f32x4.ge(d, f32x4.splat(edge)));
        const i = <usize>((by * stride + cx * side) * 4);
        const own = v128.and(there, v128.load(luma + i));
        l = f32x4.add(l, own);
        b = f32x4.add(b, v128.and(there, v128.load(blue + i)));
        r = f32x4.add(r, v128.and(there, v128.load(red + i)));
        square = f32x4.add(square, f32x4.mul(own, own));
        n = f32x4.add(n, v128.and(there, f32x4.splat(1)));
      }
      v128.store(values + cell * 16, sumsOf(l, b, r, square));
      store<f32>(weight + cell * 4, sumOf(n));
    }
  }
  if (!settle(values, weight, columns * rows, <f32>side)) return false;
  continueCells(values, weight, columns, rows, scratch);
  return true;
}

/** Puts the deeper colour for one near the edge that is a mixture of it and the screen's, in place. */
export function preferDeep(colours: usize, deep: usize, screen: usize, count: i32): void {
  for (let cell = 0; cell < count; cell++) {
    const o = <usize>(cell * 16);
    const behind = v128.load(screen + o);
    const near = f32x4.sub(v128.load(colours + o), behind);
    const far = f32x4.sub(v128.load(deep + o), behind);
    const square = colourDot(near, near);
    const along = colourDot(near, far);
    const length = max<f32>(1, colourDot(far, far));
    const share = along / length;
    if (share >= 1 || share <= 0) continue;
    const beside = sqrt<f32>(max<f32>(0, square - share * share * length));
    const own = max<f32>(0, min<f32>(1, (beside - 10) / 10));
    const towards = f32x4.mul(f32x4.sub(v128.load(colours + o), v128.load(deep + o)), f32x4.splat(own));
    v128.store(colours + o, f32x4.add(v128.load(deep + o), towards));
  }
}

/** Product of two differences of colour in red, green and blue; given as luma, blue less luma, red less luma. */
// @ts-ignore: decorator
@inline
function colourDot(a: v128, b: v128): f32 {
  const la = f32x4.extract_lane(a, 0);
  const lb = f32x4.extract_lane(b, 0);
  const blueA = f32x4.extract_lane(a, 1);
  const blueB = f32x4.extract_lane(b, 1);
  const redA = f32x4.extract_lane(a, 2);
  const redB = f32x4.extract_lane(b, 2);
  const greenA = la - (redA * 0.2126 + blueA * 0.0722) / 0.7152;
  const greenB = lb - (redB * 0.2126 + blueB * 0.0722) / 0.7152;
  return (la + redA) * (lb + redB) + greenA * greenB + (la + blueA) * (lb + blueB);
}

/** The least of each block and those left and right of it. */
// @ts-ignore: decorator
@inline
function leastOf(at: usize): v128 {
  return f32x4.min(f32x4.min(v128.load(at - 4), v128.load(at)), v128.load(at + 4));
}
