import type { Homography } from '../depth/homography.ts';
import type { ReliefView } from '../depth/relief.ts';
import type { Plane, Rgba } from '../pixels/raster.ts';

/** Pixels that lie at (x, y) of a larger whole. */
export interface PlacedPixels extends Rgba {
  x: number;
  y: number;
}

/** Push (x, y in pixels of the picture) and light at every `step`-th pixel of what is made, as triples, row by row. */
export interface Lattice {
  nodes: Float32Array;
  columns: number;
  step: number;
  /** Pixels by which what is made is larger than the picture on every side. */
  room: number;
}

export interface ReliefMore {
  /** Filled with the share (0..255) of each pixel that is not torn open there, see `shareInFront`. */
  front?: Uint8Array;
  /** 1 for each block of `raysBlock` pixels that is wanted, row by row; the others are left clear. */
  only?: Uint8Array;
}

/** Ways to take every pixel of a picture from another place. `out` is filled; what shows nothing of the picture is clear. */
export interface Warps {
  sway(picture: Rgba, lattice: Lattice, out: Rgba): void;
  /** @param map from pixels of `out` to pixels of the picture */
  project(picture: Rgba, map: Homography, out: Rgba): void;
  /**
   * @param picture reaches beyond what the map is of by as much on every side as it lies before its corner
   * @param map closeness 0..1 with the picture's proportions  @param view of a surface as large as `out`
   */
  relieve(picture: PlacedPixels, map: Plane, view: ReliefView, out: Rgba, more?: ReliefMore): void;
}

/** The size of what a depth map lies under: the picture without what was pushed over its borders. */
export const mappedSize = ({ x, y, width, height }: PlacedPixels): { width: number; height: number } => ({
  width: width + 2 * x,
  height: height + 2 * y,
});
