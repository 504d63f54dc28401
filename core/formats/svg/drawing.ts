import { flattened, type Path } from '../../path/path.ts';
import { apply, type Affine } from './affine.ts';

/** Red, green, blue 0..255 and alpha 0..1. */
export type Rgba = [number, number, number, number];

export interface Stop {
  at: number;
  colour: Rgba;
}

/** What a figure is filled or stroked with. Places of a gradient are brought to the figure's own pixels by its matrix. */
export type Paint =
  | { kind: 'colour'; colour: Rgba }
  | { kind: 'linear'; from: [number, number]; to: [number, number]; stops: Stop[]; matrix: Affine }
  | {
      kind: 'radial';
      focus: [number, number];
      centre: [number, number];
      radius: number;
      stops: Stop[];
      matrix: Affine;
    };

export interface Stroke {
  width: number;
  paint: Paint;
  cap: 'butt' | 'round' | 'square';
  join: 'miter' | 'round' | 'bevel';
  miter: number;
  dash: number[];
  offset: number;
}

export interface Clip {
  paths: Path[];
  rule: 'nonzero' | 'evenodd';
}

interface Node {
  /** What the file calls it; empty for nothing. */
  name: string;
  opacity: number;
  /** Outlines within which it is seen, in the pixels it is in. */
  clip: Clip | null;
}

/** Several nodes as one. */
export interface DrawingGroup extends Node {
  kind: 'group';
  children: DrawingNode[];
}

/** Paths with a fill and a stroke, in pixels of their own that `matrix` brings to the drawing's. */
export interface Figure extends Node {
  kind: 'figure';
  paths: Path[];
  rule: 'nonzero' | 'evenodd';
  matrix: Affine;
  fill: Paint | null;
  stroke: Stroke | null;
}

export type DrawingNode = DrawingGroup | Figure;

/** A drawing made of paths, in its own pixels. */
export interface Drawing {
  width: number;
  height: number;
  root: DrawingGroup;
  /** What the file has that is not shown, in words. */
  left: string[];
}

/** A part of a drawing: which child of which child, from the top. */
export type PartPath = readonly number[];

/** The node a part path names; null where there is none. */
export function partAt(drawing: Drawing, part: PartPath): DrawingNode | null {
  let node: DrawingNode = drawing.root;
  for (const index of part) {
    const next: DrawingNode | undefined = node.kind === 'group' ? node.children[index] : undefined;
    if (!next) return null;
    node = next;
  }
  return node;
}

/** Every figure of a node. */
export function* figuresOf(node: DrawingNode): Generator<Figure> {
  if (node.kind === 'figure') yield node;
  else for (const child of node.children) yield* figuresOf(child);
}

/** The parts a part comes apart into: the children of the first group in it that has several; none where there is none. */
export function partsOf(drawing: Drawing, part: PartPath): PartPath[] {
  let node = partAt(drawing, part);
  let at = part;
  while (node?.kind === 'group' && node.children.length === 1) {
    at = [...at, 0];
    node = node.children[0]!;
  }
  return node?.kind === 'group' ? node.children.map((_, k) => [...at, k]) : [];
}

/** The box around what a node paints, in pixels of the drawing; null for nothing. */
export function boundsOfNode(node: DrawingNode): { x: number; y: number; width: number; height: number } | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { paths, matrix, stroke } of figuresOf(node)) {
    const room = stroke
      ? (stroke.width / 2) * Math.max(Math.hypot(matrix[0], matrix[1]), Math.hypot(matrix[2], matrix[3]))
      : 0;
    for (const path of paths)
      for (const point of flattened(path, 0.2)) {
        const [x, y] = apply(matrix, point);
        [left, right] = [Math.min(left, x - room), Math.max(right, x + room)];
        [top, bottom] = [Math.min(top, y - room), Math.max(bottom, y + room)];
      }
  }
  return left > right ? null : { x: left, y: top, width: Math.max(1, right - left), height: Math.max(1, bottom - top) };
}

/** The colours of a node, those that are used most first; of gradients those of their stops. */
export function coloursOf(node: DrawingNode): Rgba[] {
  const found = new Map<string, { colour: Rgba; times: number }>();
  for (const figure of figuresOf(node))
    for (const paint of [figure.fill, figure.stroke?.paint])
      for (const colour of paint ? coloursOfPaint(paint) : []) {
        const key = colour.slice(0, 3).join();
        const one = found.get(key) ?? { colour: [colour[0], colour[1], colour[2], 1] as Rgba, times: 0 };
        found.set(key, { ...one, times: one.times + 1 });
      }
  return [...found.values()].sort((a, b) => b.times - a.times).map(({ colour }) => colour);
}

const coloursOfPaint = (paint: Paint): Rgba[] =>
  paint.kind === 'colour' ? [paint.colour] : paint.stops.map(({ colour }) => colour);

/** One colour of a drawing that becomes another; its opacity is multiplied by the new one's. */
export interface Recolour {
  from: readonly number[];
  to: readonly number[];
}

/** A node in other colours. */
export function recoloured<N extends DrawingNode>(node: N, changes: readonly Recolour[]): N {
  if (changes.length === 0) return node;
  const change = (colour: Rgba): Rgba => {
    const found = changes.find(({ from }) => from[0] === colour[0] && from[1] === colour[1] && from[2] === colour[2]);
    if (!found) return colour;
    const [r, g, b, a = 1] = found.to as Rgba;
    return [r, g, b, a * colour[3]];
  };
  const changed = (paint: Paint): Paint =>
    paint.kind === 'colour'
      ? { ...paint, colour: change(paint.colour) }
      : { ...paint, stops: paint.stops.map((stop) => ({ ...stop, colour: change(stop.colour) })) };
  const walk = (one: DrawingNode): DrawingNode =>
    one.kind === 'group'
      ? { ...one, children: one.children.map(walk) }
      : {
          ...one,
          fill: one.fill && changed(one.fill),
          stroke: one.stroke && { ...one.stroke, paint: changed(one.stroke.paint) },
        };
  return walk(node) as N;
}

/** The drawing with nothing but one part of it, and what that part is inside of. */
export function onlyPart(drawing: Drawing, part: PartPath): DrawingGroup {
  const keep = (node: DrawingNode, rest: PartPath): DrawingNode => {
    const [index, ...further] = rest;
    if (index === undefined || node.kind === 'figure') return node;
    const child = node.children[index];
    return { ...node, children: child ? [keep(child, further)] : [] };
  };
  return keep(drawing.root, part) as DrawingGroup;
}
