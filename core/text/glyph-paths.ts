import type { Path, PathPoint, Point } from '../path/path.ts';

/** A drawing command as the shaping engine gives them: M, L, Q, C with their points, Z. */
export interface GlyphCommand {
  type: string;
  values: number[];
}

/**
 * The contours that drawing commands make; quadratic curves become cubic ones.
 * @param unit factor on every length; y is turned downwards
 */
export function pathsOf(commands: readonly GlyphCommand[], unit: number): Path[] {
  const paths: Path[] = [];
  let points: PathPoint[] = [];
  const finish = (): void => {
    if (points.length > 1) paths.push(closedOf(points));
    points = [];
  };
  const curve = (b: Point, c: Point, at: Point): void => {
    const from = points.at(-1)!;
    from.out = [b[0] - from.at[0], b[1] - from.at[1]];
    points.push({ at, in: [c[0] - at[0], c[1] - at[1]], out: null, smooth: false });
  };
  for (const { type, values } of commands) {
    const [first, second, third] = [0, 2, 4].map((k): Point => [(values[k] ?? 0) * unit, -(values[k + 1] ?? 0) * unit]);
    if (type === 'Z') finish();
    else if (type === 'M') {
      finish();
      points = [{ at: first!, in: null, out: null, smooth: false }];
    } else if (type === 'L') points.push({ at: first!, in: null, out: null, smooth: false });
    else if (type === 'C') curve(first!, second!, third!);
    else {
      const before = points.at(-1)!.at;
      const towards = (end: Point): Point => [
        end[0] + (2 / 3) * (first![0] - end[0]),
        end[1] + (2 / 3) * (first![1] - end[1]),
      ];
      curve(towards(before), towards(second!), second!);
    }
  }
  finish();
  return paths;
}

/** Fonts end contours where they began; that last point is the first one. */
function closedOf(points: PathPoint[]): Path {
  const [first, last] = [points[0]!, points.at(-1)!];
  const same = points.length > 2 && Math.hypot(first.at[0] - last.at[0], first.at[1] - last.at[1]) < 1e-6;
  if (!same) return { points, closed: true };
  return { points: [{ ...first, in: last.in }, ...points.slice(1, -1)], closed: true };
}

/** A path turned by an angle, enlarged and moved. @param turn radians */
export function placedPath({ points, closed }: Path, [x, y]: Point, size: number, turn: number): Path {
  const [cos, sin] = [Math.cos(turn) * size, Math.sin(turn) * size];
  const vector = (v: Point | null): Point | null => v && [v[0] * cos - v[1] * sin, v[0] * sin + v[1] * cos];
  return {
    closed,
    points: points.map((p) => {
      const at = vector(p.at)!;
      return { ...p, at: [at[0] + x, at[1] + y], in: vector(p.in), out: vector(p.out) };
    }),
  };
}
