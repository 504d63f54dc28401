import { lumaOf } from '../pixels/color.ts';
import type { Rgba } from '../pixels/raster.ts';
import { halvedTo } from '../pixels/resample.ts';
import { plateDistance } from './chroma.ts';
import { findScreenColour, measureScreen, type Rgb } from './screen.ts';

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

/** Distances to the measured screen, and the screen's colour. */
export function distanceHistogram(picture: Rgba, colours: readonly Rgb[]): KeyHistogram & { screen: Rgb } {
  const small = shrunk(picture);
  const samples = colours.length > 0 ? colours : [findScreenColour(small)];
  const distance = plateDistance(small, measureScreen(small, samples, 34));
  return { ...counted(distance, 128), screen: samples[0]! };
}

export function lumaHistogram(picture: Rgba): KeyHistogram {
  const { data } = shrunk(picture);
  return counted(
    Float32Array.from({ length: data.length / 4 }, (_, i) => lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!)),
    256,
  );
}
