import type { Path, PathPoint, Point } from './path.ts';

/** Changes to the points of a path; each returns a new path. `chosen` are indices of points. */

const changed = (
  path: Path,
  chosen: ReadonlySet<number>,
  change: (point: PathPoint, k: number) => PathPoint,
): Path => ({
  ...path,
  points: path.points.map((point, k) => (chosen.has(k) ? change(point, k) : point)),
});

export function movedPoints(path: Path, chosen: ReadonlySet<number>, dx: number, dy: number): Path {
  return changed(path, chosen, (point) => ({ ...point, at: [point.at[0] + dx, point.at[1] + dy] }));
}

export function movedPath(path: Path, dx: number, dy: number): Path {
  return movedPoints(path, new Set(path.points.keys()), dx, dy);
}

/** The path without the chosen points; null where fewer than two would be left. */
export function withoutPoints(path: Path, chosen: ReadonlySet<number>): Path | null {
  const points = path.points.filter((_, k) => !chosen.has(k));
  return points.length < 2 ? null : { ...path, points };
}

/** Corner points: the path arrives and leaves straight. */
export function cornered(path: Path, chosen: ReadonlySet<number>): Path {
  return changed(path, chosen, (point) => ({ at: point.at, in: null, out: null, smooth: false }));
}

/**
 * A curve through the chosen points: the direction at each is that from the point before to the point after it, with
 * handles a third of the way to them (centripetal length: handles never outrun a short neighbour). Ends of an open path
 * point to their only neighbour. All points chosen gives the curve through the whole path.
 */
export function smoothed(path: Path, chosen: ReadonlySet<number>): Path {
  const count = path.points.length;
  const at = (k: number): Point | null =>
    path.closed ? path.points[(k + count) % count]!.at : (path.points[k]?.at ?? null);
  return changed(path, chosen, (point, k) => {
    const [before, after] = [at(k - 1) ?? point.at, at(k + 1) ?? point.at];
    const [dx, dy] = [after[0] - before[0], after[1] - before[1]];
    const length = Math.hypot(dx, dy);
    if (length === 0 || count < 3) return point;
    const reach = (other: Point): number => Math.hypot(other[0] - point.at[0], other[1] - point.at[1]) / 3;
    const handle = (distance: number): Point => [(dx / length) * distance, (dy / length) * distance];
    const [back, ahead] = [handle(-reach(before)), handle(reach(after))];
    const first = !path.closed && k === 0;
    const last = !path.closed && k === count - 1;
    return { at: point.at, in: first ? null : back, out: last ? null : ahead, smooth: true };
  });
}

/**
 * One handle of a point moved to an offset. The other handle of a smooth point keeps its length and stays on the line;
 * `broken` lets go of it and makes the point a corner with handles.
 */
export function withHandle(path: Path, index: number, side: 'in' | 'out', offset: Point, broken: boolean): Path {
  const other = side === 'in' ? 'out' : 'in';
  return changed(path, new Set([index]), (point) => {
    const moved = { ...point, [side]: offset };
    if (broken) return { ...moved, smooth: false };
    if (!point.smooth) return moved;
    const [length, reach] = [Math.hypot(...offset), Math.hypot(...(point[other] ?? [0, 0]))];
    if (length === 0 || !point[other]) return moved;
    return { ...moved, [other]: [(-offset[0] / length) * reach, (-offset[1] / length) * reach] };
  });
}
