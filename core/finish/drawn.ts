import { makePlane, type Plane } from '../pixels/raster.ts';
import { defineFinish, set, type FinishPixels } from './finish.ts';
import { gaussian, lightOf } from './pixels.ts';

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
    const light = makePlane(pixels.width, pixels.height);
    for (let k = 0, i = 0; k < light.data.length; k++, i += 4)
      light.data[k] =
        (lightOf(pixels.data[i]!, pixels.data[i + 1]!, pixels.data[i + 2]!) / 255) * (pixels.data[i + 3]! / 255);
    const lines = inkLines(light, Math.max(0.4, line * scale));
    flatten(pixels, Math.round(flats * scale));
    const { data } = pixels;
    for (let k = 0, i = 0; k < light.data.length; k++, i += 4) {
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
      const part = lines.data[k]! * ink * colour[3]!;
      for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! + (colour[c]! - data[i + c]!) * part;
    }
  },
});

function inkLines(light: Plane, sigma: number): Plane {
  const [fine, coarse] = [gaussian(light, sigma), gaussian(light, sigma * 1.6)];
  const out = makePlane(light.width, light.height);
  const sharpness = 18;
  for (let k = 0; k < out.data.length; k++) {
    const difference = (1 + sharpness) * fine.data[k]! - sharpness * coarse.data[k]!;
    out.data[k] = difference >= 0.42 ? 0 : Math.min(1, -Math.tanh(5 * (difference - 0.42)));
  }
  return out;
}

/** Each pixel takes the mean of that quarter of its surroundings that varies least. */
function flatten({ data, width, height }: FinishPixels, radius: number): void {
  if (radius < 1) return;
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
