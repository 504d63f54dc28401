import { checkpoint, type Progress } from './progress.ts';

/** A grid and how its pixels are tied: weights of the bonds to the right and lower neighbour, and to a fixed zero. */
export interface Bonds {
  width: number;
  height: number;
  right: Float32Array;
  down: Float32Array;
  anchor: Float32Array;
}

/** What conjugate gradients do with the numbers of one grid, wherever those lie. */
export interface GridWork {
  /** Takes b and a first guess, and what is missing from it. @returns the square of b */
  begin(b: Float32Array, start: Float32Array | undefined): number;
  /** The square of what is missing. */
  missing(): number;
  /** One V-cycle on what is missing. @returns its product with what is missing */
  precondition(): number;
  /** The new direction: what the cycle found and a share of the one before. @returns its curvature */
  turn(share: number): number;
  advance(step: number): void;
  solution(): Float32Array;
  /** Gives memory back, where that is not done by itself. */
  release?(): void;
}

/** Pixels of the smallest grid of a hierarchy, at most. */
export const coarsest = 48;
/** Sweeps there. */
export const coarsestSweeps = 24;

/** Conjugate gradients, preconditioned. @param tolerance norm of what is missing relative to that of b @throws Cancelled */
export async function conjugateGradients(
  work: GridWork,
  b: Float32Array,
  start: Float32Array | undefined,
  tolerance: number,
  mostRounds: number,
  progress?: Progress,
): Promise<Float32Array> {
  const limit = tolerance * tolerance * Math.max(1e-12, work.begin(b, start));
  let before = 0;
  for (let round = 0; round < mostRounds; round++) {
    await checkpoint(progress);
    if (work.missing() <= limit) break;
    const now = work.precondition();
    await checkpoint(progress);
    const curvature = work.turn(round === 0 ? 0 : now / before);
    before = now;
    if (!(curvature > 0)) break;
    work.advance(now / curvature);
  }
  return work.solution();
}
