import type { Bytes, Rgba } from '../pixels/raster.ts';
import type { Rgb } from './screen.ts';

export interface ChromaSettings {
  /** Samples of the screen; found along the borders when empty. */
  colours: readonly Rgb[];
  /** Distance to the screen up to which a pixel is all screen; counted on a well lit one, see `strengthOf`. */
  core: number;
  /** Distance from which on it is all subject. */
  edge: number;
  /** How much of the screen's light on the subject is taken away, 0..1. */
  spill: number;
}

export const defaultChroma: ChromaSettings = { colours: [], core: 10, edge: 34, spill: 1 };

/** A keyed picture: straight colours of the subject, and its alpha. */
export interface Keyed {
  colours: Rgba;
  alpha: Bytes;
}
