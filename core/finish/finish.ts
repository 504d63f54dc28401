import type { Settings, Values } from '../settings/setting.ts';

/** Families under which finishes are offered, in the order of the work. */
export const families = ['colour', 'match', 'edge', 'light', 'blur', 'texture'] as const;
export type Family = (typeof families)[number];

/** Straight (not premultiplied) sRGB, 8 bits a channel; `data` may be written into. */
export interface FinishPixels {
  data: Uint8ClampedArray;
  width: number;
  height: number;
}

/** How far something reaches beyond a box, on each side. */
export interface Sides {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** When and how large a finish is computed. */
export interface FinishMoment {
  /** Frame of the shot, and how many it has. */
  frame: number;
  length: number;
  /** Pixels per frame pixel: what is set in frame pixels is multiplied by it. */
  scale: number;
  /** The layer's box in these pixels; around it is room for what reaches beyond. */
  box: { x: number; y: number; width: number; height: number };
  /** What lies behind, in the same pixels; only for finishes that ask for it. */
  behind: FinishPixels | null;
}

/**
 * A change of a layer's look, never of its place: a pure function of pixels, settings and moment.
 * A finish is one file that exports one of these, and one line in `finishes.ts`.
 */
export interface FinishKind<S extends Settings = Settings> {
  /** Never changed once released: documents hold it. */
  id: string;
  name: string;
  family: Family;
  /** One sentence of what it is for. */
  purpose: string;
  settings: S;
  /** Said to be heavy, and left out while working with heavy effects off. */
  heavy?: boolean;
  /** Whether it needs what lies behind. */
  behind?: boolean;
  /** How far it draws beyond a box, in frame pixels as its size is: on all sides, or on each. */
  reach?(values: Values<S>, box: { width: number; height: number }): number | Sides;
  /** Whether it changes from frame to frame although nothing is keyed. */
  moves?(values: Values<S>): boolean;
  /** Changes the pixels in place. */
  apply(pixels: FinishPixels, values: Values<S>, moment: FinishMoment): void;
}

/** Keeps the types of a finish's settings for its functions. */
export const defineFinish = <const S extends Settings>(kind: FinishKind<S>): FinishKind<S> => kind;

const percent = (name: string, start: number, most = 1, least = 0) =>
  ({ kind: 'number', name, unit: '%', least, most, start }) as const;
const pixels = (name: string, start: number, most: number, least = 0) =>
  ({ kind: 'number', name, unit: 'px', least, most, start }) as const;
const angle = (name: string, start: number) => ({ kind: 'angle', name, start }) as const;
const colour = (name: string, red: number, green: number, blue: number, alpha = 1) =>
  ({ kind: 'colour', name, start: [red, green, blue, alpha] }) as const;
const seed = { kind: 'seed', name: 'Seed', start: 1 } as const;

/** Short forms of the settings most finishes have. */
export const set = {
  percent,
  pixels,
  angle,
  colour: colour as (...args: Parameters<typeof colour>) => {
    kind: 'colour';
    name: string;
    start: [number, number, number, number];
  },
  seed,
};
