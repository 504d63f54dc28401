import { coarsest, coarsestSweeps, type Bonds, type GridWork } from './grid-cycles.ts';
import { checkpoint, type Progress } from './progress.ts';

/** One grid of the hierarchy. */
interface Grid extends Bonds {
  diagonal: Float32Array;
  x: Float32Array;
  b: Float32Array;
}

/** The grids of core/pixels/grid-laplacian.ts where no kernel can run. */
export class PlainGrid implements GridWork {
  private readonly x: Float32Array;
  private readonly residual: Float32Array;
  private readonly product: Float32Array;
  private readonly direction: Float32Array;

  private constructor(private readonly grids: Grid[]) {
    const count = grids[0]!.x.length;
    [this.x, this.residual, this.product, this.direction] = [0, 1, 2, 3].map(() => new Float32Array(count)) as [
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
    ];
  }

  /** @throws Cancelled */
  static async of(bonds: Bonds, progress?: Progress): Promise<PlainGrid> {
    const grids = [gridOf(bonds)];
    for (let grid = grids[0]!; grid.width * grid.height > coarsest;) {
      await checkpoint(progress);
      grid = coarser(grid);
      grids.push(grid);
    }
    return new PlainGrid(grids);
  }

  begin(b: Float32Array, start: Float32Array | undefined): number {
    const grid = this.grids[0]!;
    if (start) this.x.set(start);
    else this.x.fill(0);
    multiply(grid, this.x, this.product);
    for (let i = 0; i < b.length; i++) this.residual[i] = grid.diagonal[i]! > 0 ? b[i]! - this.product[i]! : 0;
    this.direction.fill(0);
    return dot(b, b);
  }

  missing(): number {
    return dot(this.residual, this.residual);
  }

  precondition(): number {
    this.grids[0]!.b.set(this.residual);
    this.cycle(0);
    return dot(this.residual, this.grids[0]!.x);
  }

  turn(share: number): number {
    const { direction, product } = this;
    const z = this.grids[0]!.x;
    for (let i = 0; i < direction.length; i++) direction[i] = z[i]! + share * direction[i]!;
    multiply(this.grids[0]!, direction, product);
    return dot(direction, product);
  }

  advance(step: number): void {
    const { x, residual, direction, product } = this;
    for (let i = 0; i < x.length; i++) {
      x[i] = x[i]! + step * direction[i]!;
      residual[i] = residual[i]! - step * product[i]!;
    }
  }

  solution(): Float32Array {
    return this.x.slice();
  }

  private cycle(level: number): void {
    const grid = this.grids[level]!;
    grid.x.fill(0);
    const next = this.grids[level + 1];
    if (!next) {
      for (let k = 0; k < coarsestSweeps; k++) relax(grid, (k & 1) as 0 | 1);
      return;
    }
    relax(grid, 0);
    restrictResidual(grid, next);
    this.cycle(level + 1);
    for (let y = 0; y < grid.height; y++) {
      for (let x = 0, i = y * grid.width; x < grid.width; x++, i++) {
        if (grid.diagonal[i]! > 0) grid.x[i] = grid.x[i]! + next.x[(y >> 1) * next.width + (x >> 1)]!;
      }
    }
    relax(grid, 1);
  }
}

function gridOf({ width, height, right, down, anchor }: Bonds): Grid {
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
  return gridOf({ width, height, right, down, anchor });
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

/** One sweep of Gauss-Seidel, one colour of the chessboard after the other. @param first the colour that begins */
function relax(grid: Grid, first: 0 | 1): void {
  const { width, height, diagonal, x: values, b } = grid;
  for (const colour of [first, 1 - first]) {
    for (let y = 0; y < height; y++) {
      const row = y * width;
      for (let i = row + ((y + colour) & 1); i < row + width; i += 2)
        if (diagonal[i]! > 0) values[i] = (b[i]! + pull(grid, values, i)) / diagonal[i]!;
    }
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
