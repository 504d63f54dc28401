import type { Segment } from './segments.ts';

/** Where lines that are parallel in the world meet in the picture: (x, y) / w, far away where w is 0. Of unit length. */
export type Vanishing = readonly [x: number, y: number, w: number];

/** How far the direction of an edge may lie from that to where it should meet the others: 1.5 degrees. */
const sameWay = Math.sin((1.5 * Math.PI) / 180);
/** Lengths of edges to judge by, and how many are tried in pairs. */
const [leastLength, tried] = [30, 40];

type Point = readonly [number, number];

export const middleOf = ({ from, to }: Segment): Point => [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];

/** Unit direction from a point towards where the lines meet. */
export function towards([vx, vy, w]: Vanishing, [x, y]: Point): Point {
  const [dx, dy] = [vx - w * x, vy - w * y];
  const length = Math.hypot(dx, dy) || 1;
  return [dx / length, dy / length];
}

/** Whether an edge runs to where the lines meet. */
export function runsTo(vanishing: Vanishing, segment: Segment): boolean {
  const [dx, dy] = towards(vanishing, middleOf(segment));
  const { from, to, length } = segment;
  return Math.abs((dx * (to[1] - from[1]) - dy * (to[0] - from[0])) / length) < sameWay;
}

/**
 * Where most of the long edges meet: of all places that two of them give, the one that the greatest length runs to.
 * @returns null where fewer than `least` edges agree
 */
export function vanishingOf(segments: readonly Segment[], least: number): Vanishing | null {
  const long = segments.filter(({ length }) => length >= leastLength);
  const some = [...long].sort((a, b) => b.length - a.length).slice(0, tried);
  let best: { at: Vanishing; sum: number } | null = null;
  for (const [k, a] of some.entries()) {
    for (const b of some.slice(k + 1)) {
      const at = meeting(a, b);
      if (!at) continue;
      const those = long.filter((one) => runsTo(at, one));
      const sum = those.reduce((total, { length }) => total + length, 0);
      if (those.length >= least && (!best || sum > best.sum)) best = { at, sum };
    }
  }
  return best?.at ?? null;
}

/** Where the lines of two edges meet; null where they are the same line. */
function meeting(a: Segment, b: Segment): Vanishing | null {
  const [p, q] = [lineOf(a), lineOf(b)];
  const cross: [number, number, number] = [
    p[1] * q[2] - p[2] * q[1],
    p[2] * q[0] - p[0] * q[2],
    p[0] * q[1] - p[1] * q[0],
  ];
  const [x, y, w] = cross;
  // Two halves of one edge meet anywhere.
  const [mx, my] = middleOf(b);
  if (Math.abs(w) < 0.2 && Math.abs(p[0] * mx + p[1] * my + p[2]) < 4) return null;
  const size = Math.hypot(x, y, w);
  return size < 1e-9 ? null : [x / size, y / size, w / size];
}

/** The line as (a, b, c) with a x + b y + c = 0 and a^2 + b^2 = 1. */
function lineOf({ from, to, length }: Segment): [number, number, number] {
  const [a, b] = [(from[1] - to[1]) / length, (to[0] - from[0]) / length];
  return [a, b, -(a * from[0] + b * from[1])];
}
