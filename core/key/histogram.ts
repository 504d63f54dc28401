import { lumaOf } from '../pixels/color.ts';
import type { Rgba } from '../pixels/raster.ts';
import { halvedTo } from '../pixels/resample.ts';
import { blocksOf, cellOf, rgbOf } from './blocks.ts';
import { findScreenColour, measureScreen, meanColour, squaredScreenDistance, strengthOf, type Rgb } from './screen.ts';

/** Shares of the picture's pixels in even steps of what a key looks at, from 0 to `most`. */
export interface KeyHistogram {
  most: number;
  shares: number[];
}

const steps = 64;

const shrunk = (picture: Rgba): Rgba => halvedTo(picture, 500).picture;

function counted(values: ArrayLike<number>, most: number): KeyHistogram {
  const shares = new Array<number>(steps).fill(0);
  for (let i = 0; i < values.length; i++)
    shares[Math.min(steps - 1, Math.floor((values[i]! / most) * steps))]! += 1 / values.length;
  return { most, shares };
}

/** Distances to the measured screen as the thresholds of a key count them, and the screen's colour. */
export function distanceHistogram(picture: Rgba, colours: readonly Rgb[]): KeyHistogram & { screen: Rgb } {
  const small = shrunk(picture);
  const samples = colours.length > 0 ? colours : [findScreenColour(small)];
  return { ...counted(distances(small, samples), 128), screen: samples[0]! };
}

function distances(picture: Rgba, samples: readonly Rgb[]): Float32Array {
  const { width, height, data } = picture;
  const blocks = blocksOf(picture, 'full');
  const screen = measureScreen(blocks, samples, 34);
  const { values } = screen;
  const strength = strengthOf(meanColour(screen));
  return Float32Array.from({ length: width * height }, (_, i) => {
    const o = 4 * cellOf(blocks, (Math.floor(i / width) >> 1) * blocks.width + ((i % width) >> 1));
    const [r, g, b] = rgbOf(values[o]!, values[o + 1]!, values[o + 2]!);
    return Math.sqrt(squaredScreenDistance(data[i * 4]! - r, data[i * 4 + 1]! - g, data[i * 4 + 2]! - b)) / strength;
  });
}

export function lumaHistogram(picture: Rgba): KeyHistogram {
  const { data } = shrunk(picture);
  return counted(
    Float32Array.from({ length: data.length / 4 }, (_, i) => lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!)),
    256,
  );
}
