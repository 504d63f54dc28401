import { isDraft } from 'immer';
import { valueAt } from '../motion/property.ts';
import { flattened, type Path } from '../path/path.ts';
import { valuesAt } from '../settings/setting.ts';
import { shapeKind } from '../shapes/shape-kinds.ts';
import type { Layer, LayerSource } from './layer.ts';

export type ShapeSource = Extract<LayerSource, { kind: 'shape' }>;

/** Numbers for each point of a shape: x, y, and the offsets of its handles in x, y and out x, y. */
export const numbersOfPath = ({ points }: Path): number[] =>
  points.flatMap(({ at, in: arrive, out: leave }) => [...at, ...(arrive ?? [0, 0]), ...(leave ?? [0, 0])]);

/** Paths of numbers that were made before, closed and open: those of a shape that stands still serve all its frames. */
const madePaths = { closed: new WeakMap<readonly number[], Path>(), open: new WeakMap<readonly number[], Path>() };

/** The path that six numbers a point stand for. */
export function pathOfNumbers(numbers: readonly number[], closed: boolean): Path {
  // What an edit is still writing into may be another path in a moment.
  if (isDraft(numbers)) return newPathOf(numbers, closed);
  const made = madePaths[closed ? 'closed' : 'open'];
  const path = made.get(numbers) ?? newPathOf(numbers, closed);
  made.set(numbers, path);
  return path;
}

function newPathOf(numbers: readonly number[], closed: boolean): Path {
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

/**
 * The outlines of a shape layer at a frame, in its own pixels, the first one first: those made from its numbers, or that of
 * its points.
 * @param points its points at that frame, where they follow another layer; else what their keys say
 */
export function outlinesOfShape(layer: Layer, source: ShapeSource, frame: number, points?: readonly number[]): Path[] {
  const { made, closed } = source;
  if (!made) return [pathOfNumbers(points ?? (layer.points ? valueAt(layer.points, frame) : []), closed)];
  const kind = shapeKind(made.shape);
  // A shape this version does not know shows nothing.
  return kind?.outlines(valuesAt(kind.settings, made.settings, frame), made) ?? [];
}

const boxes = new WeakMap<Path, readonly [left: number, top: number, right: number, bottom: number]>();

function boxOfPath(path: Path): readonly [left: number, top: number, right: number, bottom: number] {
  const known = boxes.get(path);
  if (known) return known;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of flattened(path, 0.25)) {
    [left, right] = [Math.min(left, x), Math.max(right, x)];
    [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
  }
  const box = [left, top, right, bottom] as const;
  boxes.set(path, box);
  return box;
}

/** The box around outlines with their stroke. */
export function boundsOfOutlines(
  outlines: readonly Path[],
  stroke: { width: number } | null,
): { x: number; y: number; width: number; height: number } {
  const room = (stroke?.width ?? 0) / 2;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const path of outlines) {
    const box = boxOfPath(path);
    [left, right] = [Math.min(left, box[0]), Math.max(right, box[2])];
    [top, bottom] = [Math.min(top, box[1]), Math.max(bottom, box[3])];
  }
  if (left > right) return { x: 0, y: 0, width: 1, height: 1 };
  return {
    x: left - room,
    y: top - room,
    width: Math.max(1, right - left + 2 * room),
    height: Math.max(1, bottom - top + 2 * room),
  };
}

/** The box a shape layer takes in its own pixels: that of its outlines, or as large as it is made. */
export function boxOfShape(layer: Layer, source: ShapeSource, frame: number): ReturnType<typeof boundsOfOutlines> {
  return boundsOfOutlines(outlinesOfShape(layer, source, frame), source.stroke);
}
