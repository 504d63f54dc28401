// What the steps need to know of a picture: its blocks before anything is measured, the scene before alpha is solved.

/** Blocks along a side of a cell: as many as there are floats in a vector. */
export const side = 4;

/** Blocks that are there, and blocks of a row in memory. */
export let blockWidth: i32 = 0;
export let blockHeight: i32 = 0;
export let stride: i32 = 0;
/** Planes of the blocks: luma, blue less luma, red less luma. */
export let lumaPlane: usize = 0;
export let bluePlane: usize = 0;
export let redPlane: usize = 0;
/** Colours of cells; the subject's are 0 where nothing of it is seen. */
export let screen: usize = 0;
export let subject: usize = 0;
/** A byte a cell: 1 where its colours may be mixed with the screen's. */
export let nearScreen: usize = 0;
/** A byte a cell, once covers are known: what it and the cells around it hold, 1 some of the subject, 2 some of the screen. */
export let mixture: usize = 0;
/** Distances up to which all is screen, from which on all is subject, and below which nothing can be told. */
export let core: f32 = 0;
export let edge: f32 = 0;
export let noise: f32 = 0;

export function describeBlocks(
  width: i32,
  height: i32,
  rowBlocks: i32,
  luma: usize,
  blue: usize,
  red: usize,
): void {
  blockWidth = width;
  blockHeight = height;
  stride = rowBlocks;
  lumaPlane = luma;
  bluePlane = blue;
  redPlane = red;
}

export function describeScene(
  screenCells: usize,
  subjectCells: usize,
  nearCells: usize,
  mixtureCells: usize,
  coreDistance: f32,
  edgeDistance: f32,
  noiseDistance: f32,
): void {
  screen = screenCells;
  subject = subjectCells;
  nearScreen = nearCells;
  mixture = mixtureCells;
  core = coreDistance;
  edge = edgeDistance;
  noise = noiseDistance;
}
