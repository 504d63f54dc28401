import type { Path, PathPoint, Point, Segment } from './path.ts';
import { pointAt } from './path.ts';

/**
 * The fewest cubic Bezier curves that stay within `tolerance` of a drawn line (Schneider 1990, "An Algorithm for
 * Automatically Fitting Digitized Curves"). Corners sharper than `sharp` degrees stay corners.
 * @param line at least two points in picture pixels
 */
export function fitPath(line: readonly Point[], tolerance: number, closed: boolean, sharp = 50): Path {
  const points = withoutRepeats(line, closed);
  if (points.length < 3) return { closed, points: points.map((at) => ({ at, in: null, out: null, smooth: false })) };
  const breaks = cornersOf(points, closed, sharp, Math.max(3, tolerance * 2));
  // A closed line without any corner begins anywhere; its ends share one direction.
  const round = closed && breaks.length === 0;
  const starts = round ? [0] : closed ? breaks : [0, ...breaks, points.length - 1];
  const segments: Segment[] = [];
  const runs = closed ? starts.length : starts.length - 1;
  for (let k = 0; k < runs; k++) {
    const from = starts[k]!;
    const to = closed && k === runs - 1 ? starts[0]! + points.length : starts[k + 1]!;
    const run = Array.from({ length: to - from + 1 }, (_, i) => points[(from + i) % points.length]!);
    const [first, last] = round ? ringDirections(points) : [null, null];
    fitRun(run, first ?? direction(run, false), last ?? direction(run, true), tolerance, segments);
  }
  return pathOf(segments, closed);
}

const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];
const dot = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1];
const unit = (a: Point): Point => {
  const length = Math.hypot(...a);
  return length > 0 ? [a[0] / length, a[1] / length] : [0, 0];
};

function withoutRepeats(line: readonly Point[], closed: boolean): Point[] {
  const kept = line.filter((p, k) => k === 0 || Math.hypot(p[0] - line[k - 1]![0], p[1] - line[k - 1]![1]) > 1e-6);
  const [first, last] = [kept[0]!, kept.at(-1)!];
  if (closed && kept.length > 2 && Math.hypot(...minus(first, last)) < 1e-6) kept.pop();
  return kept;
}

/** Indices at which the line turns sharply, looking `reach` pixels to both sides; the sharpest of every cluster. */
function cornersOf(points: readonly Point[], closed: boolean, sharp: number, reach: number): number[] {
  const n = points.length;
  const look = (k: number, step: 1 | -1): Point | null => {
    for (let j = 1; j < n; j++) {
      const other = closed ? points[(k + step * j + n * j) % n]! : points[k + step * j];
      if (!other) return null;
      if (Math.hypot(...minus(other, points[k]!)) >= reach) return other;
    }
    return null;
  };
  const turn = points.map((at, k) => {
    const [before, after] = [look(k, -1), look(k, 1)];
    if (!before || !after) return 0;
    const cosine = dot(unit(minus(at, before)), unit(minus(after, at)));
    return (Math.acos(Math.max(-1, Math.min(1, cosine))) * 180) / Math.PI;
  });
  return [...points.keys()].filter((k) => {
    if (turn[k]! < sharp) return false;
    return points.every((other, j) => {
      if (j === k || Math.hypot(...minus(other, points[k]!)) > reach) return true;
      return turn[j]! < turn[k]! || (turn[j] === turn[k] && j > k);
    });
  });
}

/** Direction in which a run leaves its first point, or its last point backwards: over a few points, against jitter. */
function direction(run: readonly Point[], fromEnd: boolean): Point {
  const at = fromEnd ? run.at(-1)! : run[0]!;
  const reach = Math.min(run.length - 1, 4);
  return unit(minus(fromEnd ? run[run.length - 1 - reach]! : run[reach]!, at));
}

function ringDirections(points: readonly Point[]): [Point, Point] {
  const tangent = unit(minus(points[1]!, points.at(-1)!));
  return [tangent, [-tangent[0], -tangent[1]]];
}

function fitRun(run: readonly Point[], leaving: Point, arriving: Point, tolerance: number, out: Segment[]): void {
  if (run.length === 2) {
    const third = Math.hypot(...minus(run[1]!, run[0]!)) / 3;
    out.push(bezier(run, leaving, arriving, third, third));
    return;
  }
  let parameters = chordParameters(run);
  for (let round = 0; round < 5; round++) {
    const curve = leastSquares(run, parameters, leaving, arriving);
    const { error, index } = worst(run, curve, parameters);
    if (error <= tolerance) {
      out.push(curve);
      return;
    }
    if (error > tolerance * 6 || round === 4) {
      const tangent = unit(minus(run[Math.max(0, index - 2)]!, run[Math.min(run.length - 1, index + 2)]!));
      fitRun(run.slice(0, index + 1), leaving, tangent, tolerance, out);
      fitRun(run.slice(index), [-tangent[0], -tangent[1]], arriving, tolerance, out);
      return;
    }
    parameters = parameters.map((t, k) => newtonStep(curve, run[k]!, t));
  }
}

function bezier(run: readonly Point[], leaving: Point, arriving: Point, a: number, b: number): Segment {
  const [p, q] = [run[0]!, run.at(-1)!];
  return [p, [p[0] + leaving[0] * a, p[1] + leaving[1] * a], [q[0] + arriving[0] * b, q[1] + arriving[1] * b], q];
}

function chordParameters(run: readonly Point[]): number[] {
  const lengths = [0];
  for (let k = 1; k < run.length; k++) lengths.push(lengths[k - 1]! + Math.hypot(...minus(run[k]!, run[k - 1]!)));
  return lengths.map((l) => l / lengths.at(-1)!);
}

/** Handle lengths along fixed directions that bring the curve nearest to the run, by least squares. */
function leastSquares(run: readonly Point[], parameters: readonly number[], leaving: Point, arriving: Point): Segment {
  const [p, q] = [run[0]!, run.at(-1)!];
  let [c00, c01, c11, x0, x1] = [0, 0, 0, 0, 0];
  run.forEach((at, k) => {
    const t = parameters[k]!;
    const s = 1 - t;
    const [b1, b2] = [3 * s * s * t, 3 * s * t * t];
    const start = s * s * s + b1;
    const end = t * t * t + b2;
    const [u, v]: [Point, Point] = [
      [leaving[0] * b1, leaving[1] * b1],
      [arriving[0] * b2, arriving[1] * b2],
    ];
    const rest: Point = [at[0] - p[0] * start - q[0] * end, at[1] - p[1] * start - q[1] * end];
    c00 += dot(u, u);
    c01 += dot(u, v);
    c11 += dot(v, v);
    x0 += dot(u, rest);
    x1 += dot(v, rest);
  });
  const determinant = c00 * c11 - c01 * c01;
  const chord = Math.hypot(...minus(q, p));
  const a = Math.abs(determinant) > 1e-9 ? (x0 * c11 - x1 * c01) / determinant : 0;
  const b = Math.abs(determinant) > 1e-9 ? (c00 * x1 - c01 * x0) / determinant : 0;
  // Handles that point backwards or have no length make loops: the third of the chord stands in (Wu & Barsky).
  const least = chord * 1e-3;
  return a < least || b < least
    ? bezier(run, leaving, arriving, chord / 3, chord / 3)
    : bezier(run, leaving, arriving, a, b);
}

function worst(run: readonly Point[], curve: Segment, parameters: readonly number[]): { error: number; index: number } {
  let [error, index] = [0, run.length >> 1];
  for (let k = 1; k + 1 < run.length; k++) {
    const distance = Math.hypot(...minus(pointAt(curve, parameters[k]!), run[k]!));
    if (distance > error) [error, index] = [distance, k];
  }
  return { error, index };
}

/** Moves a parameter to where the curve is nearest to a point, by one step of Newton's method. */
function newtonStep([a, b, c, d]: Segment, at: Point, t: number): number {
  const s = 1 - t;
  const away = minus(pointAt([a, b, c, d], t), at);
  const first = [0, 1].map(
    (k) => 3 * (s * s * (b[k]! - a[k]!) + 2 * s * t * (c[k]! - b[k]!) + t * t * (d[k]! - c[k]!)),
  ) as Point;
  const second = [0, 1].map((k) => 6 * (s * (c[k]! - 2 * b[k]! + a[k]!) + t * (d[k]! - 2 * c[k]! + b[k]!))) as Point;
  const slope = dot(first, first) + dot(away, second);
  return Math.abs(slope) < 1e-12 ? t : Math.max(0, Math.min(1, t - dot(away, first) / slope));
}

/** Joins curves that follow one another; where their handles lie on one line the point between is smooth. */
function pathOf(segments: readonly Segment[], closed: boolean): Path {
  const n = segments.length;
  const points: PathPoint[] = [];
  for (let k = 0; k < (closed ? n : n + 1); k++) {
    const before = segments[closed ? (k - 1 + n) % n : k - 1];
    const after = segments[k];
    const at = after ? after[0] : before![3];
    const arrive = before ? minus(before[2], before[3]) : null;
    const leave = after ? minus(after[1], after[0]) : null;
    const smooth = !!arrive && !!leave && dot(unit(arrive), unit(leave)) < -0.996;
    points.push({ at, in: arrive, out: leave, smooth });
  }
  return { closed, points };
}
