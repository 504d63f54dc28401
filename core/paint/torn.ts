import type { ReliefRays } from '../depth/relief.ts';
import { raysBlock } from '../depth/relief-bounds.ts';
import type { Rgba } from '../pixels/raster.ts';

/** Pixels of the picture beside a step that are mixed of what stands before and what is behind it. */
const mixed = 3;

/** Visits each pixel that is not wholly in front, of which there are few: four are looked at in one. */
function eachTorn(shares: Uint8Array, visit: (i: number) => void): void {
  const fours = new Uint32Array(shares.buffer, shares.byteOffset, shares.length >> 2);
  for (let n = 0; n < fours.length; n++) {
    if (fours[n] === 0xffffffff) continue;
    for (let i = n * 4; i < n * 4 + 4; i++) if (shares[i]! < 255) visit(i);
  }
  for (let i = fours.length * 4; i < shares.length; i++) if (shares[i]! < 255) visit(i);
}

export function isTorn(front: Uint8Array): boolean {
  let torn = false;
  eachTorn(front, () => (torn = true));
  return torn;
}

/**
 * Share (0..255) of each pixel that is to be seen before what lies behind it, with soft borders.
 * @param front the same, pixel by pixel as it was found  @param rays by which it was  @param pace pixels of the picture for each
 */
export function sharesInFront(
  front: Uint8Array,
  size: { width: number; height: number },
  rays: ReliefRays,
  pace: number,
): Uint8Array {
  return softened(withMixed(front, size, rays, Math.max(1, Math.round(mixed / pace))), size);
}

/** 1 for each block of rays in which something is torn open. */
export function tornBlocks(shares: Uint8Array, { width, height }: { width: number; height: number }): Uint8Array {
  const columns = Math.ceil(width / raysBlock);
  const out = new Uint8Array(columns * Math.ceil(height / raysBlock));
  eachTorn(shares, (i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    out[Math.floor(y / raysBlock) * columns + Math.floor(x / raysBlock)] = 1;
  });
  return out;
}

/** Lays pixels under others where those are torn open. @param shares of `out` that stay seen  @param behind as large as `out` */
export function layUnder(out: Rgba, shares: Uint8Array, behind: Rgba): void {
  eachTorn(shares, (i) => {
    const own = (out.data[i * 4 + 3]! * shares[i]!) / 255;
    const under = behind.data[i * 4 + 3]! * (1 - own / 255);
    const alpha = own + under;
    if (alpha === 0) {
      out.data[i * 4 + 3] = 0;
      return;
    }
    for (let c = 0; c < 3; c++)
      out.data[i * 4 + c] = (out.data[i * 4 + c]! * own + behind.data[i * 4 + c]! * under) / alpha;
    out.data[i * 4 + 3] = alpha;
  });
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
  eachTorn(front, (i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    // What is near goes against the lens, so what comes to light lies on the side the lens went to.
    const wx = camera[0] - camera[2] * (start[0] + along[0] * x + down[0] * y);
    const wy = camera[1] - camera[2] * (start[1] + along[1] * x + down[1] * y);
    const [sx, sy] = [wx * along[0] + wy * along[1], wx * down[0] + wy * down[1]];
    const length = Math.hypot(sx, sy) || 1;
    for (let k = 1; k <= steps; k++) {
      const [nx, ny] = [Math.round(x + (sx / length) * k), Math.round(y + (sy / length) * k)];
      if (nx < 0 || ny < 0 || nx >= width || ny >= height) break;
      // The next one is torn as well, and goes on from there.
      if (k === 1 && front[ny * width + nx]! <= front[i]!) break;
      out[ny * width + nx] = Math.min(out[ny * width + nx]!, front[i]!);
    }
  });
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
  const made = new Uint8Array(front.length);
  eachTorn(front, (i) => {
    const [cx, cy] = [i % width, Math.floor(i / width)];
    for (let y = Math.max(0, cy - 1); y <= Math.min(height - 1, cy + 1); y++)
      for (let x = Math.max(0, cx - 1); x <= Math.min(width - 1, cx + 1); x++) {
        if (made[y * width + x]) continue;
        made[y * width + x] = 1;
        out[y * width + x] = meanAt(x, y);
      }
  });
  return out;
}
