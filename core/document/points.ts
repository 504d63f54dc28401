import { valueAt, type Property } from '../motion/property.ts';
import { flattened, type Path } from '../path/path.ts';

/** Numbers for each point of a shape: x, y, and the offsets of its handles in x, y and out x, y. */
export const numbersOfPath = ({ points }: Path): number[] =>
  points.flatMap(({ at, in: arrive, out: leave }) => [...at, ...(arrive ?? [0, 0]), ...(leave ?? [0, 0])]);

/** The path that six numbers a point stand for. */
export function pathOfNumbers(numbers: readonly number[], closed: boolean): Path {
  const points = [];
  for (let k = 0; k + 5 < numbers.length; k += 6) {
    const [x, y, inX, inY, outX, outY] = numbers.slice(k, k + 6) as [number, number, number, number, number, number];
    points.push({
      at: [x, y] as [number, number],
      in: inX === 0 && inY === 0 ? null : ([inX, inY] as [number, number]),
      out: outX === 0 && outY === 0 ? null : ([outX, outY] as [number, number]),
      smooth: false,
    });
  }
  return { points, closed };
}

/** The box around a shape with its stroke, at a frame. */
export function boundsOfPoints(
  points: Property<number[]>,
  source: { closed: boolean; stroke: { width: number } | null },
  frame: number,
): { x: number; y: number; width: number; height: number } {
  const line = flattened(pathOfNumbers(valueAt(points, frame), source.closed), 0.25);
  const room = (source.stroke?.width ?? 0) / 2;
  const xs = line.map((p) => p[0]);
  const ys = line.map((p) => p[1]);
  const [x, y] = [Math.min(...xs) - room, Math.min(...ys) - room];
  return { x, y, width: Math.max(1, Math.max(...xs) + room - x), height: Math.max(1, Math.max(...ys) + room - y) };
}
