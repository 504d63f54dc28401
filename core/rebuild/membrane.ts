import { bondsWithin, GridLaplacian } from '../pixels/grid-laplacian.ts';
import type { Progress } from '../pixels/progress.ts';
import { boundsOf, cropBytes, growRect, type Bytes, type Rgba } from '../pixels/raster.ts';

/**
 * Adds to copied pixels the smooth difference that makes them meet the picture around them: membrane interpolation, the
 * seamless cloning of Perez, Gangnet & Blake 2003.
 * @param copied three floats a pixel, known one pixel beyond `under`; changed where `under` is 1
 * @throws Cancelled
 */
export async function matchSurroundings(
  picture: Rgba,
  copied: Float32Array,
  under: Bytes,
  progress?: Progress,
): Promise<void> {
  const { width, height, data } = picture;
  const bounds = boundsOf(under);
  if (!bounds) return;
  const area = growRect(bounds, 1, width, height);
  const inside = cropBytes(under, area);
  const { right, down, anchor } = bondsWithin(inside);
  const grid = await GridLaplacian.over(area.width, area.height, right, down, anchor);
  const atPicture = (k: number): number => (((k / area.width) | 0) + area.y) * width + (k % area.width) + area.x;
  for (let c = 0; c < 3; c++) {
    const wanted = new Float32Array(anchor.length);
    for (let k = 0; k < wanted.length; k++) {
      if (anchor[k] === 0) continue;
      for (const next of neighbours(k, area.width, area.height)) {
        // Just outside the copy differs from the picture by this much.
        const j = atPicture(next);
        if (!inside.data[next]) wanted[k] = wanted[k]! + data[j * 4 + c]! - copied[j * 3 + c]!;
      }
    }
    const add = await grid.solve(wanted, undefined, 1e-2, 30, progress);
    for (let k = 0; k < add.length; k++) {
      const i = atPicture(k) * 3 + c;
      if (inside.data[k]) copied[i] = copied[i]! + add[k]!;
    }
  }
  grid.release();
}

function neighbours(k: number, width: number, height: number): number[] {
  const x = k % width;
  const out: number[] = [];
  if (x > 0) out.push(k - 1);
  if (x + 1 < width) out.push(k + 1);
  if (k >= width) out.push(k - width);
  if (k + width < width * height) out.push(k + width);
  return out;
}
