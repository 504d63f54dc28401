import { blockHeight, blockWidth, bluePlane, mixture, redPlane, side, stride } from './frame';
import { clamped, lanesOf, leastAround, mostAround } from './vectors';

/** Blocks around the planes that are repeated: as far as surroundings of what is looked at may reach, and whole vectors. */
const margin = 4;
const reach = 2;
/** 1 / (2 planes * 5 blocks of a patch * variance of 6 * 6 * 16 variances), and what noise alone may differ by. */
const scale: f32 = 1.0 / (2 * 5 * 36 * 16);
const allowed: f32 = 2.0 / 16.0;

/** Bytes that `steadyColours` needs besides the flags. */
export function steadyBytes(rowBlocks: i32, rows: i32): usize {
  return <usize>(2 * (rowBlocks + 2 * side) * (rows + 2 * margin) * 4);
}

/**
 * Marks the blocks that belong to an edge: bits of a byte for every four blocks.
 * @param cover with margins, from `coverOfBlocks`, which tells the cells where to look
 * @returns whether there are any
 */
export function blocksInEdge(cover: usize, flags: usize): bool {
  const wide = <usize>((stride + 2 * side) * 4);
  const columns = stride / side;
  memory.fill(flags, 0, <usize>(blockHeight * columns));
  let any = false;
  for (let by = 0; by < blockHeight; by++) {
    for (let cx = 0; cx < columns; cx++) {
      if (load<u8>(mixture + <usize>((by / side) * columns + cx)) != 3) continue;
      const at = cover + <usize>(by + 1) * wide + <usize>((side + cx * side) * 4);
      const edge = v128.and(
        f32x4.gt(mostAround(at, wide), f32x4.splat(0.05)),
        f32x4.lt(leastAround(at, wide), f32x4.splat(0.95)),
      );
      const bits = <u8>i32x4.bitmask(edge);
      if (bits == 0) continue;
      any = true;
      store<u8>(flags + <usize>(by * columns + cx), bits);
    }
  }
  return any;
}

/**
 * Makes blue and red of the marked blocks the mean of those nearby whose surroundings are alike, in place.
 * @param flags from `blocksInEdge`  @param copies `steadyBytes`, for the planes as they were
 */
export function steadyColours(flags: usize, copies: usize): void {
  const wide = <usize>((stride + 2 * side) * 4);
  const size = wide * <usize>(blockHeight + 2 * margin);
  copyWithMargins(bluePlane, copies);
  copyWithMargins(redPlane, copies + size);
  for (let by = 0; by < blockHeight; by++) {
    for (let cx = 0; cx < stride / side; cx++) {
      const bits = load<u8>(flags + <usize>(by * (stride / side) + cx));
      if (bits != 0) steadyUnit(copies, wide, size, by, cx, bits);
    }
  }
}

function copyWithMargins(plane: usize, copy: usize): void {
  const wide = <usize>((stride + 2 * side) * 4);
  for (let row = -margin; row < blockHeight + margin; row++) {
    const from = plane + <usize>(max(0, min(blockHeight - 1, row)) * stride * 4);
    const to = copy + <usize>(row + margin) * wide + side * 4;
    memory.copy(to, from, <usize>(blockWidth * 4));
    for (let k = 1; k <= side; k++) store<f32>(to - <usize>(k * 4), load<f32>(from));
    const last = load<f32>(from + <usize>((blockWidth - 1) * 4));
    for (let k = blockWidth; k < stride + side; k++) store<f32>(to + <usize>(k * 4), last);
  }
}

function steadyUnit(copies: usize, wide: usize, size: usize, by: i32, cx: i32, bits: u8): void {
  const at = copies + <usize>(by + margin) * wide + <usize>((side + cx * side) * 4);
  let sum = f32x4.splat(0);
  let best = f32x4.splat(0.001);
  let blues = f32x4.splat(0);
  let reds = f32x4.splat(0);
  for (let dy = -reach; dy <= reach; dy++) {
    for (let dx = -reach; dx <= reach; dx++) {
      if (dx == 0 && dy == 0) continue;
      const other = at + <usize>(dy * <i32>wide + dx * 4);
      const squares = f32x4.add(patchSquares(at, other, wide), patchSquares(at + size, other + size, wide));
      const excess = f32x4.sub(f32x4.mul(squares, f32x4.splat(scale)), f32x4.splat(allowed));
      const near = clamped(f32x4.sub(f32x4.splat(1), excess));
      const square = f32x4.mul(near, near);
      const weight = f32x4.mul(square, square);
      sum = f32x4.add(sum, weight);
      best = f32x4.max(best, weight);
      blues = f32x4.add(blues, f32x4.mul(weight, v128.load(other)));
      reds = f32x4.add(reds, f32x4.mul(weight, v128.load(other + size)));
    }
  }
  const total = f32x4.add(sum, best);
  const blue = f32x4.div(f32x4.add(blues, f32x4.mul(best, v128.load(at))), total);
  const red = f32x4.div(f32x4.add(reds, f32x4.mul(best, v128.load(at + size))), total);
  const wanted = lanesOf(bits);
  const i = <usize>((by * stride + cx * side) * 4);
  v128.store(bluePlane + i, v128.bitselect(blue, v128.load(bluePlane + i), wanted));
  v128.store(redPlane + i, v128.bitselect(red, v128.load(redPlane + i), wanted));
}

/** Sum of the squared differences of one plane over a block and the four beside it. */
// @ts-ignore: decorator
@inline
function patchSquares(a: usize, b: usize, wide: usize): v128 {
  const beside = f32x4.add(squared(a - 4, b - 4), squared(a + 4, b + 4));
  const over = f32x4.add(squared(a - wide, b - wide), squared(a + wide, b + wide));
  return f32x4.add(squared(a, b), f32x4.add(beside, over));
}

// @ts-ignore: decorator
@inline
function squared(a: usize, b: usize): v128 {
  const d = f32x4.sub(v128.load(a), v128.load(b));
  return f32x4.mul(d, d);
}
