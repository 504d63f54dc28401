import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { outlinesOfShape } from '../document/points.ts';
import type { Shot } from '../document/shot.ts';
import { flattened, type Point } from '../path/path.ts';
import { compose, invert, transform } from './matrix.ts';
import { restMatrix } from './place.ts';
import { heldFrame, layerValue } from './values.ts';

/** A line copies stand along, in pixels of their layer's source around its pivot. */
export interface RepeatLine {
  points: Point[];
  closed: boolean;
}

/** The line a repeated layer's copies stand along at a frame; null where they stand along none. */
export function lineOfRepeat(document: Document, shot: Shot, layer: Layer, frame: number): RepeatLine | null {
  const { repeat } = layer;
  const other = repeat?.form === 'path' ? shot.layers.find((l) => l.id === repeat.path) : undefined;
  if (other?.source.kind !== 'shape') return null;
  const points = other.points ? layerValue(shot, other, 'points', frame) : undefined;
  const [path] = outlinesOfShape(other, other.source, heldFrame(other, frame), points);
  if (!path) return null;
  const pivot = layerValue(shot, layer, 'pivot', frame);
  const own = compose(restMatrix(document, shot, layer, frame), [1, 0, 0, 1, ...pivot]);
  const toOwn = compose(invert(own), restMatrix(document, shot, other, frame));
  return { points: flattened(path, 0.2).map(([x, y]): Point => transform(toOwn, x, y)), closed: path.closed };
}

/**
 * Places at even steps along a line, with the direction it has there in radians. A closed line has one less step than
 * places would need to meet.
 */
export function placesAlong({ points, closed }: RepeatLine, count: number): { at: Point; angle: number }[] {
  const line = closed ? [...points, points[0]!] : points;
  const ways = [0];
  for (let k = 1; k < line.length; k++)
    ways.push(ways[k - 1]! + Math.hypot(line[k]![0] - line[k - 1]![0], line[k]![1] - line[k - 1]![1]));
  const whole = ways.at(-1)!;
  const steps = closed ? count : Math.max(1, count - 1);
  let k = 1;
  return Array.from({ length: count }, (_, n) => {
    const way = (whole * n) / steps;
    while (k < line.length - 1 && ways[k]! < way) k++;
    const [a, b] = [line[k - 1] ?? line[0]!, line[k] ?? line[0]!];
    const length = ways[k]! - ways[k - 1]!;
    const t = length > 0 ? (way - ways[k - 1]!) / length : 0;
    return {
      at: [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t] as Point,
      angle: Math.atan2(b[1] - a[1], b[0] - a[0]),
    };
  });
}
