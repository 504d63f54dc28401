import type { Settings, Values } from '../settings/setting.ts';
import type { Point } from '../path/path.ts';

/** What of a unit is seen while it arrives. */
export type Reveal =
  /** Only what lies within the line it stands in, where it will rest. */
  | { form: 'line' }
  /** What a straight edge has passed, that goes over it towards an angle (degrees, 0 to the right, 90 down). */
  | { form: 'sweep'; angle: number; share: number }
  /** What a pen has written of it. */
  | { form: 'written'; share: number };

/** How a unit stands at one moment, against where it rests. */
export interface UnitState {
  /** Pixels of the layer's source. */
  move: Point;
  /** Degrees, clockwise. */
  turn: number;
  grow: Point;
  opacity: number;
  /** The point of its box that turning and growing keep in place, as shares. */
  about: Point;
  reveal: Reveal | null;
}

/** Where everything ends up. */
export const atRest: UnitState = { move: [0, 0], turn: 0, grow: [1, 1], opacity: 1, about: [0.5, 0.5], reveal: null };

/** What arrives as one: a letter, a word, a line, or the whole layer. */
export interface Unit {
  /** In pixels of the layer's source. */
  width: number;
  height: number;
  /** Where the tail of a bubble ends, as shares of the box; of what has none, nothing. */
  tail?: Point;
  /** Pixels of the source a frame pixel has. */
  scale: number;
  /** Seeded numbers of its own in 0..1, by their index. */
  random(index: number): number;
}

/**
 * A way to come; leaving is the same way back. A pure function of share, settings and unit.
 * An arrival is one file that exports one of these, and one line in `arrivals.ts`.
 */
export interface ArrivalKind<S extends Settings = Settings> {
  /** Never changed once released: documents hold it. */
  id: string;
  name: string;
  /** One sentence of what it looks like. */
  purpose: string;
  settings: S;
  /** It has the time course of its own kind: no easing is chosen for it. */
  ownCourse?: boolean;
  /** It goes through all letters by itself, in the order of writing. */
  writes?: boolean;
  /** @param share of its time that has passed, eased; 0 is not there, 1 at rest */
  at(share: number, values: Values<S>, unit: Unit): UnitState;
}

/** Keeps the types of an arrival's settings for its function. */
export const defineArrival = <const S extends Settings>(kind: ArrivalKind<S>): ArrivalKind<S> => kind;

/** A way into which a direction points, as long as `length`. @param angle degrees, 0 to the right, 90 down */
export const towards = (angle: number, length: number): Point => [
  Math.cos((angle * Math.PI) / 180) * length,
  Math.sin((angle * Math.PI) / 180) * length,
];

/** Opacity that is full after a part of the way. */
export const fadeIn = (share: number, by = 0.6): number => Math.max(0, Math.min(1, share / by));
