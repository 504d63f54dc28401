import { GridLaplacian } from '../pixels/grid-laplacian.ts';
import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Plane, Rgba } from '../pixels/raster.ts';

/** Depth is solved at this size at most, longer edge: it changes more slowly than colour. */
const solvedSize = 440;
/** Difference of colour (bytes, Euclidean) at which a bond between neighbours has fallen to 1 / e. */
const edgeSharpness = 9;
const weakestBond = 1e-4;

/** The size at which the depth of a picture is solved, with its proportions, and how much smaller that is. */
export function solvedSizeOf(picture: { width: number; height: number }): {
  width: number;
  height: number;
  shrink: number;
} {
  const shrink = Math.min(1, solvedSize / Math.max(picture.width, picture.height));
  const side = (length: number): number => Math.max(2, Math.round(length * shrink));
  return { width: side(picture.width), height: side(picture.height), shrink };
}

/**
 * Values that are tied to a picture's pixels more or less strongly, spread over what looks alike and stopped where colour
 * changes (edge-aware diffusion: Levin, Lischinski & Weiss 2004, with bonds between neighbours only).
 * @param colours the picture at the solved size  @param wanted value times tie a pixel  @param tie 0 (free) and more
 * @returns values within 0..1  @throws Cancelled
 */
export async function spreadOverEdges(
  colours: Rgba,
  wanted: Float32Array,
  tie: Float32Array,
  progress?: Progress,
): Promise<Plane> {
  const { width, height } = colours;
  const count = width * height;
  const [right, down] = [new Float32Array(count), new Float32Array(count)];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) right[i] = bond(colours, i, i + 1);
      if (y + 1 < height) down[i] = bond(colours, i, i + width);
    }
  }
  await checkpoint(progress);
  const grid = await GridLaplacian.over(width, height, right, down, tie, progress);
  const solved = await grid.solve(wanted, undefined, 1e-3, 40, progress);
  grid.release();
  return { width, height, data: solved.map((v) => Math.max(0, Math.min(1, v))) };
}

function bond({ data }: Rgba, i: number, j: number): number {
  let square = 0;
  for (let c = 0; c < 3; c++) square += (data[i * 4 + c]! - data[j * 4 + c]!) ** 2;
  return weakestBond + Math.exp(-square / edgeSharpness ** 2);
}
