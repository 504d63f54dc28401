import { solvePositive } from '../pixels/solve.ts';
import type { FlowField } from './flow-field.ts';

/** Where a place of one frame is in another as the lens turned and came nearer: (a x - b y + tx, b x + a y + ty). */
export interface Motion {
  a: number;
  b: number;
  tx: number;
  ty: number;
}

export const still: Motion = { a: 1, b: 0, tx: 0, ty: 0 };

/** First `inner`, then `outer`. */
export function joinedMotion(outer: Motion, inner: Motion): Motion {
  return {
    a: outer.a * inner.a - outer.b * inner.b,
    b: outer.b * inner.a + outer.a * inner.b,
    tx: outer.a * inner.tx - outer.b * inner.ty + outer.tx,
    ty: outer.b * inner.tx + outer.a * inner.ty + outer.ty,
  };
}

export function inverseMotion({ a, b, tx, ty }: Motion): Motion {
  const square = a * a + b * b;
  const [c, s] = [a / square, -b / square];
  return { a: c, b: s, tx: -(c * tx - s * ty), ty: -(s * tx + c * ty) };
}

/** Where something is in one frame, and where in the other. */
type Place = [number, number, number, number];

/** Pixels from which a vector is taken to be of something that moves by itself, or hangs at another distance. */
const strange = 0.4;
const rounds = 6;
/** Pixels within which a vector agrees with a motion. */
const alike = 0.25;

/**
 * The motion of the lens between two frames: the similarity most vectors of a field agree on, by least squares weighted
 * again and again by how far each is from it (Holland & Welsch 1977).
 */
export function cameraMotion(field: FlowField): Motion {
  const { columns, rows, cell, dx, dy, seen } = field;
  const places: Place[] = [];
  for (let k = 0; k < columns * rows; k++)
    if (seen[k]) {
      const [x, y] = [((k % columns) + 0.5) * cell, (Math.floor(k / columns) + 0.5) * cell];
      places.push([x, y, x + dx[k]!, y + dy[k]!]);
    }
  if (places.length < 8) return still;
  let motion = commonShift(places);
  for (let round = 0; round < rounds; round++) {
    const normal = new Float64Array(16);
    const right = new Float64Array(4);
    for (const [x, y, u, v] of places) {
      const [ex, ey] = [u - (motion.a * x - motion.b * y + motion.tx), v - (motion.b * x + motion.a * y + motion.ty)];
      const weight = 1 / (1 + ((ex * ex + ey * ey) / strange ** 2) ** 2);
      for (const [row, e] of [
        [[x, -y, 1, 0], ex],
        [[y, x, 0, 1], ey],
      ] as const)
        for (let i = 0; i < 4; i++) {
          right[i]! += weight * row[i]! * e;
          for (let j = 0; j < 4; j++) normal[i * 4 + j]! += weight * row[i]! * row[j]!;
        }
    }
    const [a, b, tx, ty] = solvePositive(normal, right) as unknown as [number, number, number, number];
    motion = { a: motion.a + a, b: motion.b + b, tx: motion.tx + tx, ty: motion.ty + ty };
  }
  // Water that drifts looks like a lens that turns: where much of the picture stays, the lens does.
  return agreeingWith(places, still) > 0.5 * agreeingWith(places, motion) ? still : motion;
}

/** Vectors that are tried as the shift of all. */
const tried = 80;

/** The shift most places agree on: of two planes that move differently the one that shows more, and never something in between. */
function commonShift(places: readonly Place[]): Motion {
  const step = Math.max(1, Math.floor(places.length / tried));
  let [best, most] = [still, -1];
  for (let k = 0; k < places.length; k += step) {
    const [x, y, u, v] = places[k]!;
    const shift = { ...still, tx: u - x, ty: v - y };
    const agreeing = agreeingWith(places, shift);
    if (agreeing > most) [best, most] = [shift, agreeing];
  }
  return best;
}

function agreeingWith(places: readonly Place[], { a, b, tx, ty }: Motion): number {
  let n = 0;
  for (const [x, y, u, v] of places) if (Math.hypot(u - a * x + b * y - tx, v - b * x - a * y - ty) < alike) n++;
  return n;
}
