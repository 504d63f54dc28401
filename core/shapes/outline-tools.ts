import { quarter } from '../path/forms.ts';
import { corner, type Path, type PathPoint, type Point } from '../path/path.ts';

/** How large a shape is made, in its own pixels; its outlines lie from 0 to these. */
export interface ShapeSize {
  width: number;
  height: number;
}

const scaled = ({ width, height }: ShapeSize, [u, v]: Point): Point => [u * width, v * height];

/** A closed outline through points given as shares of the size. */
export const straight = (size: ShapeSize, points: readonly Point[]): Path => ({
  closed: true,
  points: points.map((p) => corner(scaled(size, p))),
});

/** A closed curve that runs smoothly through points given as shares of the size (Catmull & Rom 1974). */
export function smooth(size: ShapeSize, points: readonly Point[]): Path {
  const own = points.map((p) => scaled(size, p));
  return {
    closed: true,
    points: own.map((p, k): PathPoint => {
      const [a, b] = [own[(k + own.length - 1) % own.length]!, own[(k + 1) % own.length]!];
      const out: Point = [(b[0] - a[0]) / 6, (b[1] - a[1]) / 6];
      return { at: p, in: [-out[0], -out[1]], out, smooth: true };
    }),
  };
}

/** The same outline with corners cut round. @param radius in pixels; no corner takes more than half a side */
export function rounded(path: Path, radius: number): Path {
  if (radius <= 0) return path;
  const { points } = path;
  const towards = (from: Point, to: Point, most: number): Point => {
    const long = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
    const way = Math.min(most, long / 2) / long;
    return [from[0] + (to[0] - from[0]) * way, from[1] + (to[1] - from[1]) * way];
  };
  return {
    closed: true,
    points: points.flatMap(({ at }, k): PathPoint[] => {
      const a = towards(at, points[(k + points.length - 1) % points.length]!.at, radius);
      const b = towards(at, points[(k + 1) % points.length]!.at, radius);
      const bent = (p: Point): Point => [(at[0] - p[0]) * quarter, (at[1] - p[1]) * quarter];
      return [
        { at: a, in: null, out: bent(a), smooth: false },
        { at: b, in: bent(b), out: null, smooth: false },
      ];
    }),
  };
}

/** The outline the other way round: filled together with one around it, it is a hole. */
export const reversed = ({ points, closed }: Path): Path => ({
  closed,
  points: [...points].reverse().map((p) => ({ ...p, in: p.out, out: p.in })),
});

/** Points by turns on two ellipses, the first on top. @param inner radius of the second as a share of the first */
export function spikes(count: number, inner: number, outer: (k: number) => number = () => 1): Point[] {
  return Array.from({ length: 2 * count }, (_, k): Point => {
    const angle = (Math.PI * k) / count - Math.PI / 2;
    const r = 0.5 * (k % 2 === 0 ? outer(k / 2) : inner);
    return [0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle)];
  });
}

/**
 * A band along a line, as shares of the size: its two sides one after the other.
 * @param half half its width at a share of its length
 */
export function band(line: readonly Point[], half: (share: number) => number): Point[] {
  const side = (k: number, sign: number): Point => {
    const [a, b] = [line[Math.max(0, k - 1)]!, line[Math.min(line.length - 1, k + 1)]!];
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    const off = (sign * half(k / (line.length - 1))) / long;
    return [line[k]![0] - (b[1] - a[1]) * off, line[k]![1] + (b[0] - a[0]) * off];
  };
  const steps = line.map((_, k) => k);
  return [...steps.map((k) => side(k, 1)), ...steps.reverse().map((k) => side(k, -1))];
}

/** Points at even steps of a line. */
export const along = (steps: number, at: (share: number) => Point): Point[] =>
  Array.from({ length: steps + 1 }, (_, k) => at(k / steps));

/** A circle as shares of the size. */
export const circle = ([x, y]: Point, radius: number, steps = 12): Point[] =>
  Array.from({ length: steps }, (_, k): Point => {
    const angle = (2 * Math.PI * k) / steps;
    return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
  });
