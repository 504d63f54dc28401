import { lumaOf } from '../pixels/color.ts';
import type { Rgba } from '../pixels/raster.ts';
import { type Blocks, cellBlocks, cellOf, rgbOf } from './blocks.ts';
import { addToCell, continued, emptyCells, settle, smoothed, type Cells } from './cells.ts';

/** A colour in bytes. */
export type Rgb = readonly [number, number, number];

/** Weight of brightness against colour in the distance to the screen: screens are uneven in light, not in hue. */
const lightWeight = 0.35;

/** Luma and two colour differences (BT.709), in bytes; cheap, and closer to the eye than red, green and blue are. */
export function opponent(r: number, g: number, b: number, out: Float64Array): void {
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  out[0] = y * lightWeight;
  out[1] = (b - y) / 1.8556;
  out[2] = (r - y) / 1.5748;
}

/** Square of the distance a key sees between two colours, from their differences in luma, blue less luma, red less luma. */
export function squaredOpponentDistance(luma: number, blue: number, red: number): number {
  const light = luma * lightWeight;
  const b = blue / 1.8556;
  const r = red / 1.5748;
  return light * light + b * b + r * r;
}

/** The same from differences in red, green and blue: the steps between are linear, so that the difference alone decides. */
export function squaredScreenDistance(r: number, g: number, b: number): number {
  const luma = lumaOf(r, g, b);
  return squaredOpponentDistance(luma, b - luma, r - luma);
}

/** Distance of two colours as a key sees it; about 0..160. */
export function screenDistance(a: Rgb, b: Rgb): number {
  return Math.sqrt(squaredScreenDistance(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
}

/** Pixels from the border of a picture in which its screen is looked for. */
export const rimOf = (width: number, height: number): number => Math.max(2, Math.round(0.06 * Math.min(width, height)));

const bins = 32;

/**
 * The colour of the screen a picture was taken before: the most frequent colour along its borders, counted by colour
 * difference and coarse brightness, where strong colours count more; its mean is returned.
 */
export function findScreenColour(picture: Rgba): Rgb {
  const { width, height, data } = picture;
  const rim = rimOf(width, height);
  const count = new Float32Array(bins * bins * 4);
  const c = new Float64Array(3);
  const binOf = (i: number): number => {
    opponent(data[i]!, data[i + 1]!, data[i + 2]!, c);
    const u = Math.min(bins - 1, Math.max(0, Math.floor((c[1]! / 256 + 0.5) * bins)));
    const v = Math.min(bins - 1, Math.max(0, Math.floor((c[2]! / 256 + 0.5) * bins)));
    return (u * bins + v) * 4 + Math.min(3, Math.floor(c[0]! / lightWeight / 64));
  };
  const rimPixels: number[] = [];
  for (let y = 0; y < height; y += 2) {
    for (let x = 0; x < width; x += 2) {
      const inside = x >= rim && y >= rim && x < width - rim && y < height - rim;
      if (!inside) rimPixels.push((y * width + x) * 4);
    }
  }
  for (const i of rimPixels) {
    const bin = binOf(i);
    count[bin] = count[bin]! + 1 + Math.hypot(c[1]!, c[2]!) / 40;
  }
  let best = 0;
  for (let k = 1; k < count.length; k++) if (count[k]! > count[best]!) best = k;
  const sum = [0, 0, 0, 0];
  for (const i of rimPixels) {
    if (binOf(i) !== best) continue;
    for (let k = 0; k < 3; k++) sum[k]! += data[i + k]!;
    sum[3]! += 1;
  }
  return [sum[0]! / sum[3]!, sum[1]! / sum[3]!, sum[2]! / sum[3]!];
}

/**
 * The screen's colour in every cell, measured where it is seen and continued smoothly behind the subject: a screen is never
 * even. Measured coarsely first, from what is near the samples, then ever finer from what is near the measure before, so that
 * neither edges, which are mixed with the subject, nor a part of the subject that is somewhat like the screen count.
 * @param colours samples of the screen, at least one  @param within distance up to which a block may be screen
 */
export function measureScreen(blocks: Blocks, colours: readonly Rgb[], within: number): Cells {
  const samples = colours.map(([r, g, b]) => [lumaOf(r, g, b), b - lumaOf(r, g, b), r - lumaOf(r, g, b)] as const);
  const distanceTo = (i: number, luma: number, blue: number, red: number): number =>
    squaredOpponentDistance(blocks.luma[i]! - luma, blocks.blue[i]! - blue, blocks.red[i]! - red);
  let cells = continuedWhere(blocks, samples[0]!, screenPasses[0], (i) =>
    samples.some(([luma, blue, red]) => distanceTo(i, luma, blue, red) < within * within),
  );
  for (const pass of screenPasses.slice(1)) {
    const { values } = cells;
    const near = reachOf(pass.share, within) ** 2;
    cells = continuedWhere(blocks, samples[0]!, pass, (i) => {
      const o = cellOf(blocks, i) * 4;
      return distanceTo(i, values[o]!, values[o + 1]!, values[o + 2]!) < near;
    });
  }
  return smoothed(cells, screenSmoothings);
}

/** Distance within which a later pass takes blocks as screen. */
export const reachOf = (share: number, within: number): number => Math.max(4, share * within);

/** Least distance to a sample up to which a colour may be screen in worse light. */
export const leastReach = 24;
/** One measure of the screen. */
export interface ScreenPass {
  /** Of so many rows of blocks one is looked at. */
  every: number;
  /** Blocks that make a colour known. */
  enough: number;
  /** Share of the reach within which a block is screen. */
  share: number;
}

/** From coarse to fine. */
export const screenPasses: readonly ScreenPass[] = [
  { every: cellBlocks, enough: 32 * 32 * cellBlocks, share: 1 },
  { every: cellBlocks, enough: 8 * 8 * cellBlocks, share: 0.5 },
  { every: cellBlocks, enough: cellBlocks, share: 0.2 },
];

/** Light falls off over many cells; what differs from one to the next is noise. */
export const screenSmoothings = 2;
/** @param fallback luma, blue less luma, red less luma where no block counts */
function continuedWhere(
  blocks: Blocks,
  fallback: readonly [number, number, number],
  { every, enough }: ScreenPass,
  counts: (i: number) => boolean,
): Cells {
  const cells = emptyCells(Math.ceil(blocks.width / cellBlocks), Math.ceil(blocks.height / cellBlocks));
  for (let i = 0; i < blocks.luma.length; i++) {
    if (((i / blocks.width) | 0) % every !== 0 || !counts(i)) continue;
    addToCell(cells, cellOf(blocks, i), 1, blocks.luma[i]!, blocks.blue[i]!, blocks.red[i]!);
  }
  if (settle(cells, enough)) return continued(cells);
  for (let i = 0; i < cells.weight.length; i++) cells.values.set(fallback, i * 4);
  return cells;
}

/** Strength of colour from which on a screen is as well lit as thresholds count on; and the most they are lowered below it. */
const usualStrength = 54;
const mostLowering = 0.5;
/** Below this a screen is grey or white and has no strength of colour. */
const leastStrength = 12;

/**
 * What a key's thresholds are multiplied by: on a dim or pale screen all colours lie nearer to it than on a strong one.
 * @param screen its mean colour, bytes  @returns 0.5..1; 1 for a grey or white screen
 */
export function strengthOf([r, g, b]: Rgb): number {
  const luma = lumaOf(r, g, b);
  const strength = Math.sqrt(squaredOpponentDistance(0, b - luma, r - luma));
  if (strength < leastStrength) return 1;
  return Math.max(mostLowering, Math.min(1, strength / usualStrength));
}

/** A screen is uneven in light, hardly in hue: one colour tells which channels its light is in. */
export function meanColour({ values }: Cells): Rgb {
  const sums = [0, 0, 0];
  for (let o = 0; o < values.length; o += 4) for (let c = 0; c < 3; c++) sums[c]! += values[o + c]!;
  const count = values.length / 4;
  return rgbOf(sums[0]! / count, sums[1]! / count, sums[2]! / count);
}

/** Distance of every block to the screen behind it. */
export function distanceToScreen(blocks: Blocks, { values }: Cells): Float32Array {
  return Float32Array.from(blocks.luma, (luma, i) => {
    const o = cellOf(blocks, i) * 4;
    const [blue, red] = [blocks.blue[i]! - values[o + 1]!, blocks.red[i]! - values[o + 2]!];
    return Math.sqrt(squaredOpponentDistance(luma - values[o]!, blue, red));
  });
}
