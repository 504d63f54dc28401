import { checkpoint, type Progress } from './progress.ts';
import type { Bytes } from './raster.ts';

/** One grid of the hierarchy; weights of the bonds to the right and lower neighbour, and to a fixed zero outside. */
interface Grid {
  width: number;
  height: number;
  right: Float32Array;
  down: Float32Array;
  anchor: Float32Array;
  diagonal: Float32Array;
  x: Float32Array;
  b: Float32Array;
}

const coarsest = 48;

/**
 * The weighted Laplacian of a pixel grid: every pixel is tied to its four neighbours by bonds of given weight, and to a
 * fixed zero by its anchor. Solves sum_j w_ij (x_i - x_j) + a_i x_i = b_i by conjugate gradients, preconditioned by one
 * V-cycle of aggregation multigrid (blocks of 2 x 2; Braess 1995). Pixels without bonds and anchor stay 0.
 */
export class GridLaplacian {
  private constructor(private readonly grids: Grid[]) {}

  /**
   * @param right weight (0 or more) of the bond from each pixel to its right neighbour; the last column's is set to 0
   * @param down the same to the lower neighbour; the last row's is not used
   * @param anchor weight of each pixel's bond to zero; without any anchor the solution is only known up to a constant
   * @throws Cancelled
   */
  static async over(
    width: number,
    height: number,
    right: Float32Array,
    down: Float32Array,
    anchor: Float32Array,
    progress?: Progress,
  ): Promise<GridLaplacian> {
    const grids = [gridOf(width, height, right, down, anchor)];
    for (let grid = grids[0]!; grid.width * grid.height > coarsest;) {
      await checkpoint(progress);
      grid = coarser(grid);
      grids.push(grid);
    }
    return new GridLaplacian(grids);
  }

  /**
   * @param start first guess, not changed  @param tolerance residual norm relative to that of b
   * @throws Cancelled
   */
  async solve(
    b: Float32Array,
    start?: Float32Array,
    tolerance = 1e-3,
    mostRounds = 60,
    progress?: Progress,
  ): Promise<Float32Array> {
    const grid = this.grids[0]!;
    const x = start ? start.slice() : new Float32Array(b.length);
    const residual = new Float32Array(b.length);
    const product = new Float32Array(b.length);
    multiply(grid, x, product);
    for (let i = 0; i < b.length; i++) residual[i] = grid.diagonal[i]! > 0 ? b[i]! - product[i]! : 0;
    await checkpoint(progress);
    const limit = tolerance * tolerance * Math.max(1e-12, dot(b, b));
    const direction = new Float32Array(b.length);
    let before = 0;
    for (let round = 0; round < mostRounds; round++) {
      await checkpoint(progress);
      if (dot(residual, residual) <= limit) break;
      const z = this.precondition(residual);
      await checkpoint(progress);
      const now = dot(residual, z);
      const k = round === 0 ? 0 : now / before;
      for (let i = 0; i < direction.length; i++) direction[i] = z[i]! + k * direction[i]!;
      before = now;
      multiply(grid, direction, product);
      const curvature = dot(direction, product);
      if (!(curvature > 0)) break;
      const step = now / curvature;
      for (let i = 0; i < x.length; i++) {
        x[i] = x[i]! + step * direction[i]!;
        residual[i] = residual[i]! - step * product[i]!;
      }
    }
    return x;
  }

  private precondition(residual: Float32Array): Float32Array {
    this.grids[0]!.b.set(residual);
    this.cycle(0);
    return this.grids[0]!.x;
  }

  private cycle(level: number): void {
    const grid = this.grids[level]!;
    grid.x.fill(0);
    const next = this.grids[level + 1];
    if (!next) {
      for (let k = 0; k < 12; k++) {
        relax(grid, false);
        relax(grid, true);
      }
      return;
    }
    relax(grid, false);
    restrictResidual(grid, next);
    this.cycle(level + 1);
    for (let y = 0; y < grid.height; y++) {
      for (let x = 0, i = y * grid.width; x < grid.width; x++, i++) {
        if (grid.diagonal[i]! > 0) grid.x[i] = grid.x[i]! + next.x[(y >> 1) * next.width + (x >> 1)]!;
      }
    }
    relax(grid, true);
  }
}

function gridOf(width: number, height: number, right: Float32Array, down: Float32Array, anchor: Float32Array): Grid {
  const diagonal = anchor.slice();
  for (let y = 0; y < height; y++) right[y * width + width - 1] = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (x + 1 < width) {
        diagonal[i] = diagonal[i]! + right[i]!;
        diagonal[i + 1] = diagonal[i + 1]! + right[i]!;
      }
      if (y + 1 < height) {
        diagonal[i] = diagonal[i]! + down[i]!;
        diagonal[i + width] = diagonal[i + width]! + down[i]!;
      }
    }
  }
  const count = width * height;
  return { width, height, right, down, anchor, diagonal, x: new Float32Array(count), b: new Float32Array(count) };
}

/** Bonds between two blocks are the sum of the bonds between their pixels. */
function coarser(fine: Grid): Grid {
  const width = (fine.width + 1) >> 1;
  const height = (fine.height + 1) >> 1;
  const right = new Float32Array(width * height);
  const down = new Float32Array(width * height);
  const anchor = new Float32Array(width * height);
  for (let y = 0; y < fine.height; y++) {
    for (let x = 0, i = y * fine.width; x < fine.width; x++, i++) {
      const c = (y >> 1) * width + (x >> 1);
      anchor[c] = anchor[c]! + fine.anchor[i]!;
      if (x & 1 && x + 1 < fine.width) right[c] = right[c]! + fine.right[i]!;
      if (y & 1 && y + 1 < fine.height) down[c] = down[c]! + fine.down[i]!;
    }
  }
  return gridOf(width, height, right, down, anchor);
}

/** Sum of a pixel's neighbours, each times its bond. Bonds out of the grid are never set, so only the ends need a check. */
function pull(grid: Grid, values: Float32Array, i: number): number {
  const { width, right, down } = grid;
  let sum = 0;
  if (i > 0) sum = right[i - 1]! * values[i - 1]!;
  if (i + 1 < values.length) sum += right[i]! * values[i + 1]!;
  if (i >= width) sum += down[i - width]! * values[i - width]!;
  if (i + width < values.length) sum += down[i]! * values[i + width]!;
  return sum;
}

/** One sweep of Gauss-Seidel. */
function relax(grid: Grid, backwards: boolean): void {
  const { diagonal, x: values, b } = grid;
  const count = values.length;
  for (let k = 0; k < count; k++) {
    const i = backwards ? count - 1 - k : k;
    if (diagonal[i]! > 0) values[i] = (b[i]! + pull(grid, values, i)) / diagonal[i]!;
  }
}

function multiply(grid: Grid, values: Float32Array, out: Float32Array): void {
  const { diagonal } = grid;
  for (let i = 0; i < values.length; i++) {
    out[i] = diagonal[i]! > 0 ? diagonal[i]! * values[i]! - pull(grid, values, i) : 0;
  }
}

function restrictResidual(fine: Grid, next: Grid): void {
  next.b.fill(0);
  for (let y = 0; y < fine.height; y++) {
    for (let x = 0, i = y * fine.width; x < fine.width; x++, i++) {
      if (fine.diagonal[i]! === 0) continue;
      const c = (y >> 1) * next.width + (x >> 1);
      next.b[c] = next.b[c]! + fine.b[i]! - fine.diagonal[i]! * fine.x[i]! + pull(fine, fine.x, i);
    }
  }
}

function dot(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/**
 * Bonds of weight 1 between the pixels of a mask, and an anchor of 1 for each neighbour outside it that is still on the
 * grid: the usual equations with given values around a region.
 */
export function bondsWithin({ width, height, data }: Bytes): Pick<Grid, 'right' | 'down' | 'anchor'> {
  const count = width * height;
  const [right, down, anchor] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  for (let i = 0; i < count; i++) {
    const x = i % width;
    if (x + 1 < width) {
      if (data[i] && data[i + 1]) right[i] = 1;
      else if (data[i]) anchor[i]! += 1;
      else if (data[i + 1]) anchor[i + 1]! += 1;
    }
    if (i + width < count) {
      if (data[i] && data[i + width]) down[i] = 1;
      else if (data[i]) anchor[i]! += 1;
      else if (data[i + width]) anchor[i + width]! += 1;
    }
  }
  return { right, down, anchor };
}
