import { z } from 'zod';

const pair = z.tuple([z.number(), z.number()]);

/**
 * A point a path runs through, in picture pixels. Handles are offsets from it; without one the path leaves or arrives
 * straight. The handles of a smooth point lie on one line.
 */
export const pathPointSchema = z.object({
  at: pair,
  in: pair.nullable(),
  out: pair.nullable(),
  smooth: z.boolean(),
});

/** Cubic Bezier segments from point to point; a closed path returns to its first. */
export const pathSchema = z.object({ points: z.array(pathPointSchema).min(1).max(5000), closed: z.boolean() });

export type Point = [number, number];
export type PathPoint = z.infer<typeof pathPointSchema>;
export type Path = z.infer<typeof pathSchema>;

/** Start, two control points and end of a cubic Bezier curve. */
export type Segment = [Point, Point, Point, Point];

export const corner = (at: Point): PathPoint => ({ at, in: null, out: null, smooth: false });

const plus = (a: Point, b: Point | null): Point => (b ? [a[0] + b[0], a[1] + b[1]] : a);
const mix = (a: Point, b: Point, t: number): Point => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];

/** The curves of a path, in order; a closed path has as many as points. */
export function segmentsOf({ points, closed }: Path): Segment[] {
  const count = closed ? points.length : points.length - 1;
  return Array.from({ length: points.length < 2 ? 0 : count }, (_, k) => {
    const [from, to] = [points[k]!, points[(k + 1) % points.length]!];
    return [from.at, plus(from.at, from.out), plus(to.at, to.in), to.at];
  });
}

/** A point of a curve at t in 0..1. */
export function pointAt([a, b, c, d]: Segment, t: number): Point {
  const s = 1 - t;
  const [wa, wb, wc, wd] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [wa * a[0] + wb * b[0] + wc * c[0] + wd * d[0], wa * a[1] + wb * b[1] + wc * c[1] + wd * d[1]];
}

/**
 * The path as a polyline that stays within `tolerance` pixels of it. The number of pieces follows the bound on the second
 * derivative of a cubic (Wang 1984): the distance of a chord is at most h^2 / 8 of it. A straight side is one.
 */
export function flattened(path: Path, tolerance = 0.01): Point[] {
  const line: Point[] = path.points.length > 0 ? [path.points[0]!.at] : [];
  for (const segment of segmentsOf(path)) {
    const [a, b, c, d] = segment;
    const bend = Math.max(
      Math.hypot(a[0] - 2 * b[0] + c[0], a[1] - 2 * b[1] + c[1]),
      Math.hypot(b[0] - 2 * c[0] + d[0], b[1] - 2 * c[1] + d[1]),
    );
    const straight = a[0] === b[0] && a[1] === b[1] && c[0] === d[0] && c[1] === d[1];
    const pieces = straight ? 1 : Math.max(1, Math.min(500, Math.ceil(Math.sqrt((0.75 * bend) / tolerance))));
    for (let k = 1; k <= pieces; k++) line.push(pointAt(segment, k / pieces));
  }
  return line;
}

/** Where on a path is nearest to a place. */
export interface PlaceOnPath {
  segment: number;
  t: number;
  at: Point;
  distance: number;
}

/** The nearest place on a path: on every curve the best of even samples, then halving steps around it. */
export function nearestOn(path: Path, [x, y]: Point): PlaceOnPath | null {
  const places = segmentsOf(path).map((curve, segment): PlaceOnPath => {
    const placeAt = (t: number): PlaceOnPath => {
      const at = pointAt(curve, t);
      return { segment, t, at, distance: Math.hypot(at[0] - x, at[1] - y) };
    };
    const better = (a: PlaceOnPath, b: PlaceOnPath): PlaceOnPath => (b.distance < a.distance ? b : a);
    let best = Array.from({ length: 25 }, (_, k) => placeAt(k / 24)).reduce(better);
    for (let step = 1 / 48; step > 1e-5; step /= 2) {
      const { t } = best;
      best = better(better(best, placeAt(Math.max(0, t - step))), placeAt(Math.min(1, t + step)));
    }
    return best;
  });
  return places.length === 0 ? null : places.reduce((a, b) => (b.distance < a.distance ? b : a));
}

/** A further point at `t` of a segment; the path keeps its form (de Casteljau). */
export function withPointAt(path: Path, segment: number, t: number): Path {
  const points = path.points.map((point) => ({ ...point }));
  const next = (segment + 1) % points.length;
  const [from, to] = [points[segment]!, points[next]!];
  const straight = !from.out && !to.in;
  const [a, b, c, d] = segmentsOf(path)[segment]!;
  const [ab, bc, cd] = [mix(a, b, t), mix(b, c, t), mix(c, d, t)];
  const [abc, bcd] = [mix(ab, bc, t), mix(bc, cd, t)];
  const at = mix(abc, bcd, t);
  const offset = (p: Point, q: Point): Point => [p[0] - q[0], p[1] - q[1]];
  if (from.out) from.out = offset(ab, a);
  if (to.in) to.in = offset(cd, d);
  const made = straight ? corner(at) : { at, in: offset(abc, at), out: offset(bcd, at), smooth: true };
  points.splice(segment + 1, 0, made);
  return { ...path, points };
}
