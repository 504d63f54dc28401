import type { ReliefRays } from '../depth/relief.ts';
import type { Rgba } from '../pixels/raster.ts';

/** Pixels of the picture beside a step that are mixed of what stands before and what is behind it. */
const mixed = 3;

export const isTorn = (front: Uint8Array): boolean => front.some((share) => share < 255);

/**
 * Lays pixels under others where those are torn open.
 * @param front share (0..255) of each pixel of `out` that is still to be seen  @param behind as large as `out`
 * @param rays by which `out` was made  @param pace pixels of the picture for each of `out`
 */
export function layBehindTorn(out: Rgba, front: Uint8Array, behind: Rgba, rays: ReliefRays, pace: number): void {
  const shares = softened(withMixed(front, out, rays, Math.max(1, Math.round(mixed / pace))), out);
  for (let i = 0; i < shares.length; i++) {
    if (shares[i] === 255) continue;
    const own = (out.data[i * 4 + 3]! * shares[i]!) / 255;
    const under = behind.data[i * 4 + 3]! * (1 - own / 255);
    const alpha = own + under;
    if (alpha === 0) {
      out.data[i * 4 + 3] = 0;
      continue;
    }
    for (let c = 0; c < 3; c++)
      out.data[i * 4 + c] = (out.data[i * 4 + c]! * own + behind.data[i * 4 + c]! * under) / alpha;
    out.data[i * 4 + 3] = alpha;
  }
}

/** What is torn with what lies beyond it, away from what stands before: its pixels there still hold some of that. */
function withMixed(
  front: Uint8Array,
  size: { width: number; height: number },
  rays: ReliefRays,
  steps: number,
): Uint8Array {
  const { width, height } = size;
  const { start, along, down, camera } = rays;
  const out = front.slice();
  for (let i = 0; i < front.length; i++) {
    if (front[i] === 255) continue;
    const [x, y] = [i % width, Math.floor(i / width)];
    // What is near goes against the lens, so what comes to light lies on the side the lens went to.
    const wx = camera[0] - camera[2] * (start[0] + along[0] * x + down[0] * y);
    const wy = camera[1] - camera[2] * (start[1] + along[1] * x + down[1] * y);
    const [sx, sy] = [wx * along[0] + wy * along[1], wx * down[0] + wy * down[1]];
    const length = Math.hypot(sx, sy) || 1;
    for (let k = 1; k <= steps; k++) {
      const [nx, ny] = [Math.round(x + (sx / length) * k), Math.round(y + (sy / length) * k)];
      if (nx < 0 || ny < 0 || nx >= width || ny >= height) break;
      out[ny * width + nx] = Math.min(out[ny * width + nx]!, front[i]!);
    }
  }
  return out;
}

/** Where it is torn is known pixel by pixel: its border is as soft as one that was drawn (binomial, three by three). */
function softened(front: Uint8Array, { width, height }: { width: number; height: number }): Uint8Array {
  const out = front.slice();
  const meanAt = (x: number, y: number): number => {
    let sum = 0;
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const nx = Math.max(0, Math.min(width - 1, x + dx));
        const ny = Math.max(0, Math.min(height - 1, y + dy));
        sum += front[ny * width + nx]! * (2 - Math.abs(dx)) * (2 - Math.abs(dy));
      }
    return Math.round(sum / 16);
  };
  for (let i = 0; i < front.length; i++) {
    if (front[i] === 255) continue;
    const [cx, cy] = [i % width, Math.floor(i / width)];
    for (let y = Math.max(0, cy - 1); y <= Math.min(height - 1, cy + 1); y++)
      for (let x = Math.max(0, cx - 1); x <= Math.min(width - 1, cx + 1); x++) out[y * width + x] = meanAt(x, y);
  }
  return out;
}
