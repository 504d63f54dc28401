import type { Plane } from '../pixels/raster.ts';
import { defineFinish, set, type FinishPixels } from './finish.ts';
import { lightOf } from './operations/colour.ts';
import { gaussian } from './operations/gaussian.ts';
import { floatsLike, kernelOf, laid } from './operations/memory.ts';

/**
 * Flats by a four-sector Kuwahara filter (Kuwahara 1976, means and deviations from summed areas), a few levels of light,
 * and ink by the extended difference of Gaussians (Winnemoeller 2011).
 */
export const drawn = defineFinish({
  id: 'drawn',
  name: 'Drawn',
  family: 'texture',
  purpose: 'Makes a photo look drawn: smooth flats and ink lines.',
  heavy: true,
  settings: {
    flats: set.pixels('Flats', 5, 30),
    levels: { kind: 'number', name: 'Levels', unit: '', least: 0, most: 16, start: 7 },
    ink: set.percent('Ink', 0.8),
    line: { kind: 'number', name: 'Line width', unit: 'px', least: 0.4, most: 10, start: 1.4 },
    colour: set.colour('Ink colour', 24, 28, 32),
  },
  apply(pixels, { flats, levels, ink, line, colour }, { scale }) {
    const sigma = Math.max(0.4, line * scale);
    const [fine, coarse] = [lightPlane(pixels), lightPlane(pixels)];
    gaussian(fine, sigma);
    gaussian(coarse, sigma * 1.6);
    flatten(pixels, Math.round(flats * scale));
    inkOver(pixels, [fine, coarse], levels, ink * colour[3]!, colour);
  },
});

/** Light 0..1 times alpha 0..1. */
function lightPlane(pixels: FinishPixels): Plane {
  const out = floatsLike(pixels);
  const { data } = pixels;
  const kernel = kernelOf(data, out.data);
  if (kernel) kernel.lightsOf(data.byteOffset, out.data.length, out.data.byteOffset);
  else
    for (let k = 0, i = 0; k < out.data.length; k++, i += 4)
      out.data[k] = (lightOf(data[i]!, data[i + 1]!, data[i + 2]!) * data[i + 3]!) / 65025;
  return out;
}

/** Levels of light, then ink where the extended difference of a fine and a coarse blur is dark. */
function inkOver(
  { data }: FinishPixels,
  [fine, coarse]: readonly [Plane, Plane],
  levels: number,
  strength: number,
  colour: readonly number[],
): void {
  const kernel = kernelOf(data, fine.data, coarse.data);
  if (kernel) {
    const [r, g, b] = colour;
    const planes = [fine.data.byteOffset, coarse.data.byteOffset];
    return kernel.inkOver(data.byteOffset, data.length / 4, ...planes, levels, strength, r!, g!, b!);
  }
  for (let k = 0, i = 0; i < data.length; k++, i += 4) {
    if (data[i + 3] === 0) continue;
    if (levels >= 1) {
      const now = lightOf(data[i]!, data[i + 1]!, data[i + 2]!);
      const step = 255 / levels;
      // A soft step: hard ones would draw edges of their own.
      const wanted =
        step * (Math.floor(now / step) + 0.5 + 0.5 * Math.tanh(6 * (now / step - Math.floor(now / step) - 0.5)));
      const gain = wanted / Math.max(8, now);
      for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! * (0.35 + 0.65 * gain);
    }
    const sharpness = 18;
    const dark = (1 + sharpness) * fine.data[k]! - sharpness * coarse.data[k]! - 0.42;
    if (dark >= 0) continue;
    const part = strength * Math.min(1, -Math.tanh(5 * dark));
    for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! + (colour[c]! - data[i + c]!) * part;
  }
}

/** Each pixel takes the mean of that quarter of its surroundings that varies least. */
function flatten({ data, width, height }: FinishPixels, radius: number): void {
  if (radius < 1) return;
  const kernel = kernelOf(data);
  const means = (radius + 1) * (width + radius) * 16;
  const byKernel = (source: number, sums: number, rows: number): void =>
    kernel!.flatten(data.byteOffset, width, height, radius, source, sums, rows);
  if (kernel && laid([data, width * 32, means], byKernel)) return;
  const sums = summedAreas({ data, width, height });
  const stride = width + 1;
  const area = (plane: Float64Array, x0: number, y0: number, x1: number, y1: number): number =>
    plane[y1 * stride + x1]! - plane[y0 * stride + x1]! - plane[y1 * stride + x0]! + plane[y0 * stride + x0]!;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4;
      if (data[i + 3] === 0) continue;
      let least = Infinity;
      for (let sector = 0; sector < 4; sector++) {
        const x0 = Math.max(0, sector & 1 ? x : x - radius);
        const x1 = Math.min(width, (sector & 1 ? x + radius : x) + 1);
        const y0 = Math.max(0, sector & 2 ? y : y - radius);
        const y1 = Math.min(height, (sector & 2 ? y + radius : y) + 1);
        const weight = area(sums[3]!, x0, y0, x1, y1);
        if (weight <= 0) continue;
        const mean = area(sums[4]!, x0, y0, x1, y1) / weight;
        const spread = area(sums[5]!, x0, y0, x1, y1) / weight - mean * mean;
        if (spread >= least) continue;
        least = spread;
        for (let c = 0; c < 3; c++) data[i + c] = area(sums[c]!, x0, y0, x1, y1) / weight;
      }
    }
  }
}

/** Summed areas of the premultiplied channels, alpha, light and its square. */
function summedAreas({ data, width, height }: FinishPixels): Float64Array[] {
  const stride = width + 1;
  const planes = Array.from({ length: 6 }, () => new Float64Array(stride * (height + 1)));
  for (let y = 0; y < height; y++) {
    const row = [0, 0, 0, 0, 0, 0];
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4;
      const alpha = data[i + 3]! / 255;
      const light = lightOf(data[i]!, data[i + 1]!, data[i + 2]!);
      const values = [
        data[i]! * alpha,
        data[i + 1]! * alpha,
        data[i + 2]! * alpha,
        alpha,
        light * alpha,
        light * light * alpha,
      ];
      for (let n = 0; n < 6; n++) {
        row[n]! += values[n]!;
        planes[n]![(y + 1) * stride + x + 1] = planes[n]![y * stride + x + 1]! + row[n]!;
      }
    }
  }
  return planes;
}
