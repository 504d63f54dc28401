import type { Path, Point } from '../path/path.ts';
import type { Settings, Values } from '../settings/setting.ts';
import type { ShapeSize } from './outline-tools.ts';

/** Families under which shapes are offered. */
export const shapeFamilies = ['plain', 'ornaments'] as const;
export type ShapeFamily = (typeof shapeFamilies)[number];

/** A point in the view by which a number of a shape is led: where it lies, and which value it has when it is moved. */
export interface ShapeHandle<V> {
  at(values: V, size: ShapeSize): Point;
  value(point: Point, values: V, size: ShapeSize): number;
}

/**
 * A shape that is made from a few numbers: outlines as a pure function of settings and size, filled by the nonzero rule.
 * A shape is one file that exports one of these, and one line in `shape-kinds.ts`.
 */
export interface ShapeKind<S extends Settings = Settings> {
  /** Never changed once released: documents hold it. */
  id: string;
  name: string;
  family: ShapeFamily;
  /** One sentence of what it is for. */
  purpose: string;
  /** Height of a new one as a share of its width. */
  proportion: number;
  settings: S;
  outlines(values: Values<S>, size: ShapeSize): Path[];
  /** What is led by a handle in the view. */
  handles: { [K in keyof S]?: ShapeHandle<Values<S>> };
}

/** Keeps the types of a shape's settings for its functions. */
export const defineShape = <const S extends Settings>(kind: ShapeKind<S>): ShapeKind<S> => kind;

const percent = (name: string, start: number, most = 1, least = 0) =>
  ({ kind: 'number', name, unit: '%', least, most, start }) as const;
const count = (name: string, start: number, most: number, least = 1) =>
  ({ kind: 'number', name, unit: '', least, most, start }) as const;
const pixels = (name: string, start: number, most: number) =>
  ({ kind: 'number', name, unit: 'px', least: 0, most, start }) as const;
const seed = { kind: 'seed', name: 'Seed', start: 1 } as const;

/** Short forms of the settings most shapes have. */
export const set = { percent, count, pixels, seed };

/** The second of so many points around the middle, counted from the top: leading it round makes them more or fewer. */
export const countHandle = <V extends Record<string, unknown>>(
  key: keyof V & string,
  least: number,
  most: number,
): ShapeHandle<V> => ({
  at: (values, { width, height }) => {
    const angle = (2 * Math.PI) / Math.round(values[key] as number) - Math.PI / 2;
    return [(width / 2) * (1 + Math.cos(angle)), (height / 2) * (1 + Math.sin(angle))];
  },
  value: ([x, y], _, { width, height }) => {
    const angle = Math.atan2((2 * y) / height - 1, (2 * x) / width - 1) + Math.PI / 2;
    const turn = (angle + 2 * Math.PI) % (2 * Math.PI);
    return Math.max(least, Math.min(most, Math.round((2 * Math.PI) / Math.max(turn, 1e-3))));
  },
});

const between = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value));

/** A handle on a line of the box that runs through two points, given as shares of the size: at its end the value is 1. */
export const shareHandle = <V extends Record<string, unknown>>(
  key: keyof V & string,
  from: Point,
  to: Point,
  [least, most]: [number, number] = [0, 1],
): ShapeHandle<V> => ({
  at: (values, { width, height }) => {
    const share = values[key] as number;
    return [(from[0] + (to[0] - from[0]) * share) * width, (from[1] + (to[1] - from[1]) * share) * height];
  },
  value: ([x, y], _, { width, height }) => {
    const [dx, dy] = [(to[0] - from[0]) * width, (to[1] - from[1]) * height];
    const share = ((x - from[0] * width) * dx + (y - from[1] * height) * dy) / (dx * dx + dy * dy);
    return between(share, least, most);
  },
});
