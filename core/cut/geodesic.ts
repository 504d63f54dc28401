import { makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { distancesByKernel } from './cut-kernel.ts';

/** A second pair of scans is what reaches round obstacles; further ones change little. */
const rounds = 2;

/**
 * Approximate geodesic distance from the pixels of `seeds` equal to `value`: path length counts colour change (bytes,
 * summed over the channels, beyond `free` from a pixel to the next) plus `spatial` for each step. Raster scans (Toivanen
 * 1996), forward and backward. Infinity where there is no seed.
 * @param free a whole number
 */
export function geodesicDistance(picture: Rgba, seeds: Bytes, value: number, spatial: number, free = 0): Plane {
  const out = makePlane(picture.width, picture.height, Infinity);
  let any = false;
  for (let i = 0; i < out.data.length; i++) {
    if (seeds.data[i] !== value) continue;
    out.data[i] = 0;
    any = true;
  }
  if (any && !distancesByKernel(picture, out, { rounds, spatial, free })) scanPlainly(picture, out, spatial, free);
  return out;
}

/** The same without a kernel. */
function scanPlainly({ width, height, data }: Rgba, { data: d }: Plane, spatial: number, free: number): void {
  const relax = (i: number, j: number): void => {
    const p = i * 4;
    const q = j * 4;
    const difference =
      Math.abs(data[p]! - data[q]!) + Math.abs(data[p + 1]! - data[q + 1]!) + Math.abs(data[p + 2]! - data[q + 2]!);
    const step = d[j]! + spatial + Math.max(0, difference - free);
    if (step < d[i]!) d[i] = step;
  };
  for (let round = 0; round < rounds; round++) {
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        if (x > 0) relax(i, i - 1);
        if (y === 0) continue;
        relax(i, i - width);
        if (x > 0) relax(i, i - width - 1);
        if (x + 1 < width) relax(i, i - width + 1);
      }
    }
    for (let y = height - 1; y >= 0; y--) {
      for (let x = width - 1; x >= 0; x--) {
        const i = y * width + x;
        if (x + 1 < width) relax(i, i + 1);
        if (y + 1 === height) continue;
        relax(i, i + width);
        if (x > 0) relax(i, i + width - 1);
        if (x + 1 < width) relax(i, i + width + 1);
      }
    }
  }
}
