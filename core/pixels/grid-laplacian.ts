import { conjugateGradients, type Bonds, type GridWork } from './grid-cycles.ts';
import { KernelGrid } from './kernel-grid.ts';
import { PlainGrid } from './plain-grid.ts';
import type { Progress } from './progress.ts';
import type { Bytes } from './raster.ts';

/**
 * The weighted Laplacian of a pixel grid: every pixel is tied to its four neighbours by bonds of given weight, and to a
 * fixed zero by its anchor. Solves sum_j w_ij (x_i - x_j) + a_i x_i = b_i by conjugate gradients, preconditioned by one
 * V-cycle of aggregation multigrid (blocks of 2 x 2; Braess 1995) whose sweeps take one colour of a chessboard after the
 * other. Pixels without bonds and anchor stay 0.
 */
export class GridLaplacian {
  private constructor(private readonly work: GridWork) {}

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
    const bonds: Bonds = { width, height, right, down, anchor };
    const work = plainly ? null : KernelGrid.of(bonds);
    return new GridLaplacian(work ?? (await PlainGrid.of(bonds, progress)));
  }

  /**
   * @param start first guess, not changed  @param tolerance residual norm relative to that of b
   * @throws Cancelled
   */
  solve(
    b: Float32Array,
    start?: Float32Array,
    tolerance = 1e-3,
    mostRounds = 60,
    progress?: Progress,
  ): Promise<Float32Array> {
    return conjugateGradients(this.work, b, start, tolerance, mostRounds, progress);
  }

  /** Gives back what it holds; it can not be asked any more. */
  release(): void {
    this.work.release?.();
  }
}

let plainly = false;

/** Solves without the kernel, as a machine does that cannot run it: for comparing both. */
export async function solvingPlainly<T>(work: () => Promise<T>): Promise<T> {
  plainly = true;
  try {
    return await work();
  } finally {
    plainly = false;
  }
}

/**
 * Bonds of weight 1 between the pixels of a mask, and an anchor of 1 for each neighbour outside it that is still on the
 * grid: the usual equations with given values around a region.
 */
export function bondsWithin({ width, height, data }: Bytes): Pick<Bonds, 'right' | 'down' | 'anchor'> {
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
