import { seededRandom } from '../pixels/random.ts';
import { corner, type Path, type PathPoint, type Point } from './path.ts';

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

const at = ({ x, y, width, height }: Box, [u, v]: Point): Point => [x + u * width, y + v * height];

/** Points of a unit square brought into a box. */
const straight = (box: Box, points: Point[]): Path => ({ closed: true, points: points.map((p) => corner(at(box, p))) });

/** A closed curve that runs smoothly through points (Catmull & Rom 1974). */
function smooth(box: Box, points: Point[]): Path {
  const own = points.map((p) => at(box, p));
  return {
    closed: true,
    points: own.map((p, k): PathPoint => {
      const [a, b] = [own[(k + own.length - 1) % own.length]!, own[(k + 1) % own.length]!];
      const out: Point = [(b[0] - a[0]) / 6, (b[1] - a[1]) / 6];
      return { at: p, in: [-out[0], -out[1]], out, smooth: true };
    }),
  };
}

/** Points by turns on two ellipses, the first on top. @param inner radius of the second as a share of the first */
function spikes(box: Box, count: number, inner: number): Path {
  return straight(
    box,
    Array.from({ length: 2 * count }, (_, k): Point => {
      const angle = (Math.PI * k) / count - Math.PI / 2;
      const r = k % 2 === 0 ? 0.5 : 0.5 * inner;
      return [0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle)];
    }),
  );
}

export const star = (box: Box, points = 5): Path => spikes(box, points, 0.42);
export const burst = (box: Box, points = 18): Path => spikes(box, points, 0.78);

/** Points to the right. */
export const arrow = (box: Box): Path =>
  straight(box, [
    [0, 0.32],
    [0.58, 0.32],
    [0.58, 0.08],
    [1, 0.5],
    [0.58, 0.92],
    [0.58, 0.68],
    [0, 0.68],
  ]);

/** A band with notched ends. */
export const ribbon = (box: Box): Path =>
  straight(box, [
    [0, 0.3],
    [1, 0.3],
    [0.92, 0.5],
    [1, 0.7],
    [0, 0.7],
    [0.08, 0.5],
  ]);

/** A band whose edges go up and down. */
export function wave(box: Box, waves = 3): Path {
  const steps = 4 * waves;
  const edge = (k: number, base: number): Point => [
    k / steps,
    base + 0.14 * Math.sin((2 * Math.PI * waves * k) / steps),
  ];
  const upper = Array.from({ length: steps + 1 }, (_, k) => edge(k, 0.36));
  const lower = Array.from({ length: steps + 1 }, (_, k) => edge(steps - k, 0.64));
  return smooth(box, [...upper, ...lower]);
}

/** A soft round thing of its own. */
export function blob(box: Box, seed = 11): Path {
  const random = seededRandom(seed);
  return smooth(
    box,
    Array.from({ length: 8 }, (_, k): Point => {
      const angle = (2 * Math.PI * k) / 8;
      const r = 0.36 + 0.14 * random();
      return [0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle)];
    }),
  );
}

/** A straight edge above, drops of unlike length below. */
export function dripEdge(box: Box, drops = 6, seed = 5): Path {
  const random = seededRandom(seed);
  const lower: Point[] = [];
  for (let k = drops - 1; k >= 0; k--) {
    const [left, right] = [k / drops, (k + 1) / drops];
    const low = 0.5 + 0.48 * random();
    const middle = (left + right) / 2;
    const half = (right - left) * 0.26;
    lower.push(
      [right, 0.3],
      [middle + half, 0.36],
      [middle + half * 0.9, low - 0.05],
      [middle, low],
      [middle - half * 0.9, low - 0.05],
      [middle - half, 0.36],
    );
  }
  const soft = smooth(box, [...lower, [0, 0.3]]).points;
  // The sides run straight down to the first and the last drop.
  const ends = [soft[0]!.at, soft.at(-1)!.at].map(corner);
  const top = [at(box, [0, 0]), at(box, [1, 0])].map(corner);
  return { closed: true, points: [...top, ends[0]!, ...soft.slice(1, -1), ends[1]!] };
}

/** A bubble for speech; its tail goes down to the left. */
export function speechBubble(box: Box): Path {
  const round = smooth(box, [
    [0.3, 0.72],
    [0.06, 0.58],
    [0, 0.36],
    [0.12, 0.1],
    [0.5, 0],
    [0.88, 0.1],
    [1, 0.36],
    [0.88, 0.62],
    [0.5, 0.74],
  ]);
  const tail = corner(at(box, [0.2, 1]));
  const [first, ...rest] = round.points;
  const last = rest.at(-1)!;
  return {
    closed: true,
    points: [{ ...first!, in: null, smooth: false }, ...rest.slice(0, -1), { ...last, out: null, smooth: false }, tail],
  };
}
