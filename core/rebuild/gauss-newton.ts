import { solvePositive } from '../pixels/solve.ts';
import type { Level, Similarity } from './detail.ts';

/** Residuals, in local deviations, from which a pixel counts little: as long as a place is sought, and once it is found. */
export const robustScales = { seeking: 1.2, found: 0.6 };

/** One step towards the least weighted squared difference; what moved or is new counts little. */
export function gaussNewton(
  { mine, theirs, ignore }: Level,
  at: Similarity,
  stride: number,
  robustScale: number,
): Similarity {
  const { width, height, data } = theirs;
  const cx = mine.width / 2;
  const cy = mine.height / 2;
  // The sums of the normal equations one by one: in lists they would take four times as long.
  let [n00, n01, n02, n03, n11, n12, n13, n22, n23, n33] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
  let [r0, r1, r2, r3] = [0, 0, 0, 0];
  for (let y = 0; y < mine.height; y += stride) {
    for (let x = 0; x < mine.width; x += stride) {
      const i = y * mine.width + x;
      if (ignore.data[i]) continue;
      const sx = at.a * (x + 0.5) - at.b * (y + 0.5) + at.tx - 0.5;
      const sy = at.b * (x + 0.5) + at.a * (y + 0.5) + at.ty - 0.5;
      const ix = Math.floor(sx);
      const iy = Math.floor(sy);
      if (ix < 1 || iy < 1 || ix >= width - 2 || iy >= height - 2) continue;
      const fx = sx - ix;
      const fy = sy - iy;
      const o = iy * width + ix;
      const p = data[o]!;
      const q = data[o + 1]!;
      const r = data[o + width]!;
      const s = data[o + width + 1]!;
      const gx = (q - p) * (1 - fy) + (s - r) * fy;
      const gy = (r - p) * (1 - fx) + (s - q) * fx;
      const residual = mine.data[i]! - ((p * (1 - fx) + q * fx) * (1 - fy) + (r * (1 - fx) + s * fx) * fy);
      const apart = residual / robustScale;
      const odds = 1 + apart * apart;
      const weight = 1 / (odds * odds);
      const ux = x + 0.5 - cx;
      const uy = y + 0.5 - cy;
      const grow = gx * ux + gy * uy;
      const turn = gy * ux - gx * uy;
      const wg = weight * grow;
      const wt = weight * turn;
      const wx = weight * gx;
      n00 += wg * grow;
      n01 += wg * turn;
      n02 += wg * gx;
      n03 += wg * gy;
      n11 += wt * turn;
      n12 += wt * gx;
      n13 += wt * gy;
      n22 += wx * gx;
      n23 += wx * gy;
      n33 += weight * gy * gy;
      r0 += wg * residual;
      r1 += wt * residual;
      r2 += wx * residual;
      r3 += weight * gy * residual;
    }
  }
  const normal = Float64Array.of(n00, n01, n02, n03, n01, n11, n12, n13, n02, n12, n22, n23, n03, n13, n23, n33);
  const right = Float64Array.of(r0, r1, r2, r3);
  const step = solvePositive(normal, right);
  const a = at.a + step[0]!;
  const b = at.b + step[1]!;
  // The middle of the picture moves by the step's shift alone.
  return {
    a,
    b,
    tx: at.tx + step[2]! - step[0]! * cx + step[1]! * cy,
    ty: at.ty + step[3]! - step[1]! * cx - step[0]! * cy,
  };
}
