import type { Point } from '../path/path.ts';
import type { LayerGift, Settings, Values } from '../settings/setting.ts';

/** Families under which props are offered. */
export const propFamilies = ['weather', 'light', 'particles', 'patterns'] as const;
export type PropFamily = (typeof propFamilies)[number];

/** When and how large a prop is made. Lengths are pixels of its own box: frame pixels at size 1. */
export interface PropMoment {
  /** Frames since its shot began; may lie between two. */
  frame: number;
  /** Frames after which it is to be as it was, or null where it goes on for ever. */
  loop: number | null;
  width: number;
  height: number;
  /** Raster pixels a box pixel is worth making. */
  raster: number;
  /** What other layers that are named in its settings give, by the setting; nothing for those that are not there. */
  related?: Record<string, Related>;
  /** Share of the place it shines from that nearer layers cover. */
  covered?: number;
}

/** What another layer gives to a prop, in pixels of the prop's box. */
export interface Related {
  path?: readonly Point[];
  place?: Point;
  /** Places along the edge it is seen with. */
  edge?: readonly Point[];
}

/** Many small things, drawn as one picture of a disc or a piece of paper each. */
export interface Specks {
  kind: 'specks';
  /** A disc from hard (0) to a bell (1), a thin ring of light round a faint disc, or a piece of paper. */
  form: 'disc' | 'bokeh' | 'paper';
  soft: number;
  colour: readonly number[];
  /** For each: x, y, half its length, half its width, its turn in radians, its opacity, and how deep it lies, 0 near to 1 far. */
  values: Float32Array;
}

/** Numbers a speck has in `values`. */
export const speckSize = 7;

/** A picture over the whole box: straight sRGB, stretched to it. */
export interface Field {
  kind: 'field';
  data: Uint8ClampedArray;
  width: number;
  height: number;
}

export type PropPart = Specks | Field;

/**
 * Something the photo does not have: a pure function of settings, moment and seed.
 * A prop is one file that exports one of these, and one line in `props.ts`.
 */
export interface PropKind<S extends Settings = Settings> {
  /** Never changed once released: documents hold it. */
  id: string;
  name: string;
  family: PropFamily;
  /** One sentence of what it is for. */
  purpose: string;
  settings: S;
  /** How a new one is laid over what is behind it. */
  blend: 'normal' | 'screen' | 'plus-lighter' | 'multiply';
  /** The place it shines from, as shares of its box, where nearer layers may cover it; null where they do not matter. */
  shinesFrom?(values: Values<S>): Point | null;
  /** Whether it lies between two distances, so that a camera goes through it. */
  slab?: boolean;
  /** Whether it changes from frame to frame although nothing is keyed. */
  moves(values: Values<S>): boolean;
  make(values: Values<S>, moment: PropMoment): PropPart[];
}

/** Keeps the types of a prop's settings for its functions. */
export const defineProp = <const S extends Settings>(kind: PropKind<S>): PropKind<S> => kind;

const percent = (name: string, start: number, most = 1, least = 0) =>
  ({ kind: 'number', name, unit: '%', least, most, start }) as const;
const pixels = (name: string, start: number, most: number, least = 0) =>
  ({ kind: 'number', name, unit: 'px', least, most, start }) as const;
const count = (name: string, start: number, most: number, least = 0) =>
  ({ kind: 'number', name, unit: '', least, most, start }) as const;
const angle = (name: string, start: number) => ({ kind: 'angle', name, start }) as const;
const place = (name: string, x: number, y: number): { kind: 'place'; name: string; start: [number, number] } => ({
  kind: 'place',
  name,
  start: [x, y],
});
const colour = (
  name: string,
  red: number,
  green: number,
  blue: number,
  alpha = 1,
): { kind: 'colour'; name: string; start: [number, number, number, number] } => ({
  kind: 'colour',
  name,
  start: [red, green, blue, alpha],
});
const layer = (name: string, gives: LayerGift) => ({ kind: 'layer', name, gives, start: '' }) as const;
const seed = { kind: 'seed', name: 'Seed', start: 1 } as const;

/** Short forms of the settings most props have. */
export const set = { percent, pixels, count, angle, place, colour, layer, seed };
