import { continueCells, settle } from './cells';
import { blockHeight, bluePlane, lumaPlane, redPlane, side, stride } from './frame';
import { nowhere } from './screen';
import { sumOf, sumsOf } from './vectors';

/** A byte a cell: 1 where any block of it is nearer to the screen than `edge`. */
export function cellsOfScreen(ranges: usize, count: i32, edge: f32, out: usize): void {
  for (let i = 0; i < count; i++) store<u8>(out + <usize>i, load<f32>(ranges + <usize>(i * 8)) < edge ? 1 : 0);
}

/**
 * The subject's colours in the cells near the screen, weighted by how sure they are its own, and how far off
 * against the farthest around, and continued over all cells.
 * @param ranges of the distances in every cell  @param near a byte a cell  @param strength of the screen  @returns whether any of the subject is seen
 */
export function measureSubject(
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
  const rows = (blockHeight + side - 1) / side;
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
      const whole = f32x4.splat(1 / (0.9 * farthestAround(ranges, cx, cy, columns, rows)));
      for (let by = cy * side; by < min(blockHeight, cy * side + side); by++) {
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
        const faint = f32x4.mul(f32x4.mul(f32x4.mul(four, four), four), f32x4.splat(0.002));
        const share = f32x4.min(f32x4.splat(1), f32x4.mul(d, whole));
        const second = f32x4.mul(share, share);
        const fourth = f32x4.mul(second, second);
        const known = f32x4.add(faint, v128.and(sure, f32x4.splat(1)));
        const w = v128.and(some, f32x4.mul(known, f32x4.mul(fourth, fourth)));
        const i = <usize>((by * stride + cx * side) * 4);
        const own = v128.load(lumaPlane + i);
        const weighted = f32x4.mul(w, own);
        l = f32x4.add(l, weighted);
        b = f32x4.add(b, f32x4.mul(w, v128.load(bluePlane + i)));
        r = f32x4.add(r, f32x4.mul(w, v128.load(redPlane + i)));
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

/** The greatest distance in a cell and those around it. */
// @ts-ignore: decorator
@inline
function farthestAround(ranges: usize, cx: i32, cy: i32, columns: i32, rows: i32): f32 {
  let most: f32 = 0;
  for (let y = max(0, cy - 1); y <= min(rows - 1, cy + 1); y++)
    for (let x = max(0, cx - 1); x <= min(columns - 1, cx + 1); x++)
      most = max<f32>(most, load<f32>(ranges + <usize>((y * columns + x) * 8 + 4)));
  return most;
}

/**
 * The subject's colours in the cells that lie too deep for any to be mixed with the screen, continued over all cells.
 * @param near,wanted a byte a cell: those near the screen are left out, and those not wanted too
 * @returns whether any of the subject is seen there
 */
export function measureDeep(
  distance: usize,
  near: usize,
  wanted: usize,
  edge: f32,
  values: usize,
  weight: usize,
  scratch: usize,
): bool {
  const columns = stride / side;
  const rows = (blockHeight + side - 1) / side;
  const wide = (stride + 2 * side) * 4;
  for (let cy = 0; cy < rows; cy++) {
    const end = min(blockHeight, cy * side + side);
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
        const own = v128.and(there, v128.load(lumaPlane + i));
        l = f32x4.add(l, own);
        b = f32x4.add(b, v128.and(there, v128.load(bluePlane + i)));
        r = f32x4.add(r, v128.and(there, v128.load(redPlane + i)));
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
