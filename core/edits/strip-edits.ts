import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { corner, type Path, type Point } from '../path/path.ts';
import { finishKind } from '../finish/finishes.ts';
import { mostFinishes } from '../document/finish-list.ts';
import { plainShape } from '../path/shapes.ts';
import { storedFrom } from '../settings/setting.ts';
import { seededRandom } from '../pixels/random.ts';
import { restMatrix } from '../scene/place.ts';
import { boxOf, type SourceBox } from '../scene/source-pixels.ts';
import { defineEdit } from './edit.ts';
import { freeFinishId } from './finish-edits.ts';
import { freeId, layerIn, shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';

/** How a picture is cut into strips. */
export interface Strips {
  count: number;
  /** Degrees in which the cuts run: 90 upright, 0 level. */
  angle: number;
  /** How unlike their widths are, 0..1. */
  uneven: number;
  seed: number;
}

/**
 * Pixels a part reaches under its neighbour, or between two soft edges what is behind would be seen: in those of the source
 * and of the frame as it is shown, and as a share of the frame, which may be looked at in a small view.
 */
const [overlap, ofFrame] = [1.5, 1 / 480];

/** The same in source pixels of a layer. */
function overlapOf(document: Document, shotId: string, layerId: string): number {
  const [a, b, c, d] = restMatrix(document, shotIn(document, shotId), layerIn(document, shotId, layerId), 0);
  const { width, height } = document.frame;
  const seen = Math.sqrt(Math.abs(a * d - b * c));
  return Math.max(overlap, Math.max(overlap, Math.max(width, height) * ofFrame) / Math.max(seen, 1e-3));
}

/** A grid a picture is cut by. */
export interface Tiles {
  columns: number;
  rows: number;
  /** How unlike their widths and heights are, 0..1. */
  uneven: number;
  seed: number;
}

/** A straight cut through a picture, in its source's pixels; it goes on beyond both points. */
export type CutLine = readonly [Point, Point];

/**
 * Cuts a layer into strips that lie exactly where it lay, each a layer of its own. They are numbered from the outside in,
 * and what the layer was fastened by, keyed and finished with, each of them keeps.
 * @param shadow whether each throws a shadow on what lies behind
 */
export const cutIntoStrips = defineEdit(
  'Cut into strips',
  (draft: Document, shotId: string, layerId: string, strips: Strips, shadow?: boolean) => {
    const box = boxOf(draft, layerIn(draft, shotId, layerId));
    if (!box) return;
    const paths = stripPaths(box, strips, overlapOf(draft, shotId, layerId));
    cutInto(draft, shotId, layerId, { paths, order: outsideIn(paths.length), word: 'strip', shadow: !!shadow });
  },
);

/** The same by a grid: tiles that lie together without a seam, the ones furthest out first. */
export const cutIntoTiles = defineEdit(
  'Cut into tiles',
  (draft: Document, shotId: string, layerId: string, tiles: Tiles, shadow?: boolean) => {
    const box = boxOf(draft, layerIn(draft, shotId, layerId));
    if (!box) return;
    const paths = tilePaths(box, tiles, overlapOf(draft, shotId, layerId));
    cutInto(draft, shotId, layerId, { paths, order: furthestFirst(paths, box), word: 'tile', shadow: !!shadow });
  },
);

/** The same along straight lines that were drawn. */
export const cutAlongLines = defineEdit(
  'Cut along lines',
  (draft: Document, shotId: string, layerId: string, lines: readonly CutLine[], shadow?: boolean) => {
    const box = boxOf(draft, layerIn(draft, shotId, layerId));
    if (!box || lines.length === 0) return;
    const paths = pathsBetween(box, lines, overlapOf(draft, shotId, layerId));
    cutInto(draft, shotId, layerId, { paths, order: furthestFirst(paths, box), word: 'part', shadow: !!shadow });
  },
);

interface Cut {
  paths: readonly Path[];
  /** Which path comes first, and so on. */
  order: readonly number[];
  /** What a part is called. */
  word: string;
  shadow: boolean;
}

function cutInto(draft: Document, shotId: string, layerId: string, { paths, order, word, shadow }: Cut): void {
  const shot = shotIn(draft, shotId);
  const layer = layerIn(draft, shotId, layerId);
  const at = shot.layers.indexOf(layer);
  const parts = order.map((k, n): Layer => {
    const part = JSON.parse(JSON.stringify(layer)) as Layer;
    const how = part.masks.length === 0 ? ('add' as const) : ('within' as const);
    part.masks.push({ ...plainShape, id: `${word}-${k}-${part.masks.length}`, how, path: paths[k]! });
    part.id = n === 0 ? layer.id : freeId(draft, layerId, `${word[0]}${n}`);
    part.sways = part.sways.map((sway) => (n === 0 ? sway : { ...sway, id: freeId(draft, sway.id, `${word[0]}${n}`) }));
    if (shadow && part.finishes.length < mostFinishes) part.finishes.push(shadowOf(part));
    return part;
  });
  shot.layers.splice(at, 1);
  parts.forEach((part, n) =>
    shot.layers.splice(at + n, 0, { ...part, name: freeName(draft, `${layer.name} ${word} ${n + 1}`) }),
  );
}

/** A shadow on what lies behind. */
const shadowOf = (layer: Layer): Layer['finishes'][number] => ({
  id: freeFinishId(layer, 'shadow'),
  kind: 'drop-shadow',
  muted: false,
  settings: storedFrom(finishKind('drop-shadow')!.settings),
});

/** First the two outermost, then those within, until the middle. */
export function outsideIn(count: number): number[] {
  return Array.from({ length: count }, (_, n) => (n % 2 === 0 ? n / 2 : count - 1 - (n - 1) / 2));
}

/** The outlines of strips over a box, in order across it. */
export function stripPaths(box: SourceBox, { count, angle, uneven, seed }: Strips, under = overlap): Path[] {
  const radians = (angle * Math.PI) / 180;
  // The cuts run along u, the strips follow one another along v.
  const [ux, uy] = [Math.cos(radians), Math.sin(radians)];
  // From left to right, or from above.
  const side = uy > 1e-9 || (Math.abs(uy) <= 1e-9 && ux < 0) ? 1 : -1;
  const [vx, vy] = [side * uy, -side * ux];
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const half = (Math.abs(vx) * box.width + Math.abs(vy) * box.height) / 2;
  const long = box.width + box.height;
  const random = seededRandom(seed);
  const widths = Array.from({ length: count }, () => 1 + uneven * 0.9 * (2 * random() - 1));
  const total = widths.reduce((sum, w) => sum + w, 0);
  let passed = 0;
  return widths.map((width, k) => {
    const from = -half + (2 * half * passed) / total;
    passed += width;
    const to = -half + (2 * half * passed) / total;
    const [a, b] = [k === 0 ? from - long : from, k === count - 1 ? to + long : to + under];
    const point = (u: number, v: number): Point => [cx + ux * u + vx * v, cy + uy * u + vy * v];
    return { closed: true, points: [point(-long, a), point(long, a), point(long, b), point(-long, b)].map(corner) };
  });
}

/** The rectangles of a grid over a box, row by row. */
export function tilePaths(box: SourceBox, { columns, rows, uneven, seed }: Tiles, under = overlap): Path[] {
  const random = seededRandom(seed);
  const across = bounds(box.x, box.width, columns, uneven, random);
  const down = bounds(box.y, box.height, rows, uneven, random);
  const beyond = box.width + box.height;
  const side = (all: number[], k: number): [number, number] => [
    k === 0 ? all[0]! - beyond : all[k]! - under / 2,
    k === all.length - 2 ? all[k + 1]! + beyond : all[k + 1]! + under / 2,
  ];
  return Array.from({ length: columns * rows }, (_, k): Path => {
    const [left, right] = side(across, k % columns);
    const [top, bottom] = side(down, Math.floor(k / columns));
    const points: Point[] = [
      [left, top],
      [right, top],
      [right, bottom],
      [left, bottom],
    ];
    return { closed: true, points: points.map(corner) };
  });
}

function bounds(from: number, size: number, count: number, uneven: number, random: () => number): number[] {
  const parts = Array.from({ length: count }, () => 1 + uneven * 0.9 * (2 * random() - 1));
  const total = parts.reduce((sum, part) => sum + part, 0);
  const all = [from];
  for (const part of parts) all.push(all.at(-1)! + (size * part) / total);
  return all;
}

/** The parts of a box between straight lines: each line parts whatever it crosses (Sutherland & Hodgman 1974). */
export function pathsBetween(box: SourceBox, lines: readonly CutLine[], under = overlap): Path[] {
  const beyond = box.width + box.height;
  const [left, top] = [box.x - beyond, box.y - beyond];
  const [right, bottom] = [box.x + box.width + beyond, box.y + box.height + beyond];
  let parts: Point[][] = [
    [
      [left, top],
      [right, top],
      [right, bottom],
      [left, bottom],
    ],
  ];
  for (const line of lines)
    parts = parts.flatMap((part) => {
      const sides = [clipped(part, line, 1, under), clipped(part, line, -1, under)];
      // A line that misses what is seen of it parts nothing.
      return sides.every((side) => isWithin(side, box, under)) ? sides : [part];
    });
  return parts.map((points) => ({ closed: true, points: points.map(corner) }));
}

/** What of a convex outline lies on one side of a line, and some pixels beyond it. */
function clipped(points: readonly Point[], [a, b]: CutLine, side: 1 | -1, under: number): Point[] {
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const off = ([x, y]: Point): number =>
    (side * ((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]))) / long + under / 2;
  return points.flatMap((point, k): Point[] => {
    const next = points[(k + 1) % points.length]!;
    const [here, there] = [off(point), off(next)];
    const t = here / (here - there);
    const cross: Point = [point[0] + (next[0] - point[0]) * t, point[1] + (next[1] - point[1]) * t];
    return [...(here >= 0 ? [point] : []), ...(here >= 0 !== there >= 0 ? [cross] : [])];
  });
}

/** Whether something of an outline lies in a box, more than the little that parts reach under one another. */
function isWithin(points: readonly Point[], box: SourceBox, under: number): boolean {
  const { x, y, width, height } = box;
  const sides: CutLine[] = [
    [
      [x, y],
      [x + width, y],
    ],
    [
      [x + width, y],
      [x + width, y + height],
    ],
    [
      [x + width, y + height],
      [x, y + height],
    ],
    [
      [x, y + height],
      [x, y],
    ],
  ];
  const inside = sides.reduce<Point[]>((left, side) => clipped(left, side, 1, under), [...points]);
  return Math.abs(area(inside)) > under * (width + height);
}

function area(points: readonly Point[]): number {
  return points.reduce((sum, [x, y], k) => {
    const [u, v] = points[(k + 1) % points.length]!;
    return sum + (x * v - u * y) / 2;
  }, 0);
}

/** The middle of what of an outline lies in a box. */
export function middleWithin({ points }: Path, { x, y, width, height }: SourceBox): Point {
  const inside = points.map(({ at: [u, v] }): Point => [
    Math.max(x, Math.min(x + width, u)),
    Math.max(y, Math.min(y + height, v)),
  ]);
  const of = (axis: 0 | 1): number => inside.reduce((sum, p) => sum + p[axis], 0) / inside.length;
  return [of(0), of(1)];
}

/** Paths by how far from the middle of a box they lie, the furthest first. */
function furthestFirst(paths: readonly Path[], box: SourceBox): number[] {
  const far = paths.map((path) => {
    const [x, y] = middleWithin(path, box);
    // What lies as far but for rounding keeps its order.
    return Math.round(1e4 * Math.hypot(x - box.x - box.width / 2, y - box.y - box.height / 2));
  });
  return paths.map((_, k) => k).sort((a, b) => far[b]! - far[a]! || a - b);
}
