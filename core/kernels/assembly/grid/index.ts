export { reserve, freeFrom } from '../memory';

/*
 * A grid of pixels tied to their neighbours (core/pixels/grid-laplacian.ts). All numbers are f32. Rows have an odd number of
 * places, at least one more than the grid is wide; those and the places before and after the grid (a row and four more) have
 * no bonds. So neighbours need no check, and the places of one colour of a chessboard are the even or the odd ones, which lets
 * four be worked on at once, of which two are kept.
 */

/** Addresses of the numbers of one grid, laid down by the caller in this order. */
@unmanaged
class Grid {
  width: i32;
  height: i32;
  stride: i32;
  right: usize;
  down: usize;
  anchor: usize;
  diagonal: usize;
  x: usize;
  b: usize;
}

// @ts-ignore: a decorator of the compiler
@inline
function sizeOf(grid: Grid): usize {
  return <usize>(grid.stride * grid.height) << 2;
}

/** Sum of four places' neighbours, each times its bond. @param p offset of the first place @param row bytes of a row */
// @ts-ignore: a decorator of the compiler
@inline
function pull(right: usize, down: usize, values: usize, p: usize, row: usize): v128 {
  const beside = f32x4.add(
    f32x4.mul(v128.load(right + p - 4), v128.load(values + p - 4)),
    f32x4.mul(v128.load(right + p), v128.load(values + p + 4)),
  );
  const above = f32x4.mul(v128.load(down + p - row), v128.load(values + p - row));
  return f32x4.add(beside, f32x4.add(above, f32x4.mul(v128.load(down + p), v128.load(values + p + row))));
}

/** Those of four places that are `own` take what their neighbours ask for. */
// @ts-ignore: a decorator of the compiler
@inline
function relaxFour(grid: Grid, p: usize, row: usize, own: v128): void {
  const x = grid.x;
  const ties = v128.load(grid.diagonal + p);
  const value = f32x4.div(f32x4.add(v128.load(grid.b + p), pull(grid.right, grid.down, x, p, row)), ties);
  const taken = v128.and(own, f32x4.gt(ties, f32x4.splat(0)));
  v128.store(x + p, v128.bitselect(value, v128.load(x + p), taken));
}

/**
 * One sweep of Gauss-Seidel, one colour of the chessboard after the other: the second follows a row and a little behind the
 * first, where all that it looks at is done already and is still at hand.
 */
export function relax(at: usize, first: i32): void {
  const grid = changetype<Grid>(at);
  const row = <usize>grid.stride << 2;
  const behind = (row & ~15) + 32;
  const end = (sizeOf(grid) + 15) & ~15;
  const even = i32x4(-1, 0, -1, 0);
  const leads = first == 0 ? even : v128.not(even);
  const follows = v128.not(leads);
  for (let p: usize = 0; p < min(end, behind); p += 16) relaxFour(grid, p, row, leads);
  for (let p = behind; p < end; p += 16) {
    relaxFour(grid, p, row, leads);
    relaxFour(grid, p - behind, row, follows);
  }
  for (let p = max(end, behind) - behind; p < end; p += 16) relaxFour(grid, p, row, follows);
}

/** out = A values, or b - A values. */
// @ts-ignore: a decorator of the compiler
@inline
function applied(grid: Grid, values: usize, out: usize, b: usize): void {
  const right = grid.right;
  const down = grid.down;
  const diagonal = grid.diagonal;
  const row = <usize>grid.stride << 2;
  const end = sizeOf(grid);
  for (let p: usize = 0; p < end; p += 16) {
    const product = f32x4.sub(f32x4.mul(v128.load(diagonal + p), v128.load(values + p)), pull(right, down, values, p, row));
    if (b == 0) v128.store(out + p, product);
    else {
      const ties = f32x4.gt(v128.load(diagonal + p), f32x4.splat(0));
      v128.store(out + p, v128.and(f32x4.sub(v128.load(b + p), product), ties));
    }
  }
}

/** out = A values. */
export function multiply(at: usize, values: usize, out: usize): void {
  applied(changetype<Grid>(at), values, out, 0);
}

/** out = b - A values, 0 where nothing is tied. */
export function residual(at: usize, values: usize, b: usize, out: usize): void {
  applied(changetype<Grid>(at), values, out, b);
}

/** Each place of the next grid becomes the sum of the four it stands for. */
function sumOfFour(from: usize, stride: i32, to: usize, next: Grid): void {
  const row = <usize>stride << 2;
  for (let y = 0; y < next.height; y++) {
    let p = from + <usize>(2 * y) * row;
    const q = to + (<usize>(y * next.stride) << 2);
    for (let x = 0; x < next.width; x++, p += 8)
      store<f32>(q + (<usize>x << 2), load<f32>(p) + load<f32>(p, 4) + load<f32>(p + row) + load<f32>(p + row, 4));
  }
}

/** What is still missing, as the b of the next grid. @param scratch as large as the grid's x */
export function restrictResidual(at: usize, to: usize, scratch: usize): void {
  const grid = changetype<Grid>(at);
  const next = changetype<Grid>(to);
  applied(grid, grid.x, scratch, grid.b);
  sumOfFour(scratch, grid.stride, next.b, next);
}

/** Adds to each tied place what was found for the place of the next grid that stands for it. */
export function addFound(at: usize, from: usize): void {
  const grid = changetype<Grid>(at);
  const next = changetype<Grid>(from);
  for (let y = 0; y < grid.height; y++) {
    const row = <usize>(y * grid.stride) << 2;
    const found = next.x + (<usize>((y >> 1) * next.stride) << 2);
    let x = 0;
    for (; x + 4 <= grid.width; x += 4) {
      const p = row + (<usize>x << 2);
      const both = v128.load64_zero(found + (<usize>x << 1));
      const ties = f32x4.gt(v128.load(grid.diagonal + p), f32x4.splat(0));
      const more = v128.and(v128.shuffle<i32>(both, both, 0, 0, 1, 1), ties);
      v128.store(grid.x + p, f32x4.add(v128.load(grid.x + p), more));
    }
    for (; x < grid.width; x++) {
      const p = row + (<usize>x << 2);
      if (load<f32>(grid.diagonal + p) > 0)
        store<f32>(grid.x + p, load<f32>(grid.x + p) + load<f32>(found + (<usize>(x >> 1) << 2)));
    }
  }
}

/** The sum of a place's bonds and its anchor. */
export function sumBonds(at: usize): void {
  const grid = changetype<Grid>(at);
  const row = <usize>grid.stride << 2;
  const end = sizeOf(grid);
  for (let p: usize = 0; p < end; p += 16) {
    const beside = f32x4.add(v128.load(grid.right + p), v128.load(grid.right + p - 4));
    const above = f32x4.add(v128.load(grid.down + p), v128.load(grid.down + p - row));
    v128.store(grid.diagonal + p, f32x4.add(v128.load(grid.anchor + p), f32x4.add(beside, above)));
  }
}

/** The bonds of the next grid: between two blocks the sum of the bonds between their places. */
export function coarsen(at: usize, to: usize): void {
  const grid = changetype<Grid>(at);
  const next = changetype<Grid>(to);
  const row = <usize>grid.stride << 2;
  sumOfFour(grid.anchor, grid.stride, next.anchor, next);
  for (let y = 0; y < next.height; y++) {
    let p = <usize>(2 * y) * row;
    let q = <usize>(y * next.stride) << 2;
    for (let x = 0; x < next.width; x++, p += 8, q += 4) {
      store<f32>(next.right + q, load<f32>(grid.right + p, 4) + load<f32>(grid.right + p + row, 4));
      store<f32>(next.down + q, load<f32>(grid.down + p + row) + load<f32>(grid.down + p + row, 4));
    }
  }
  sumBonds(to);
}

/** Sum of the products of `count` numbers, each four of a row as f32, rows as f64. */
export function dot(a: usize, b: usize, count: i32): f64 {
  const end = <usize>count << 2;
  let sum = 0.0;
  for (let from: usize = 0; from < end; from += 4096) {
    const to = min<usize>(end, from + 4096);
    let four = f32x4.splat(0);
    for (let p = from; p < to; p += 16) four = f32x4.add(four, f32x4.mul(v128.load(a + p), v128.load(b + p)));
    sum += <f64>f32x4.extract_lane(four, 0) + <f64>f32x4.extract_lane(four, 1);
    sum += <f64>f32x4.extract_lane(four, 2) + <f64>f32x4.extract_lane(four, 3);
  }
  return sum;
}

/** to = to * own + other * share. */
export function mix(to: usize, own: f32, other: usize, share: f32, count: i32): void {
  const end = <usize>count << 2;
  for (let p: usize = 0; p < end; p += 16) {
    const sum = f32x4.add(
      f32x4.mul(v128.load(to + p), f32x4.splat(own)),
      f32x4.mul(v128.load(other + p), f32x4.splat(share)),
    );
    v128.store(to + p, sum);
  }
}

/** Makes `count` numbers 0. */
export function clear(at: usize, count: i32): void {
  memory.fill(at, 0, <usize>count << 2);
}
