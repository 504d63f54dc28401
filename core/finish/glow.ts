import type { Plane } from '../pixels/raster.ts';
import { defineFinish, set, type FinishPixels } from './finish.ts';
import { lightOf } from './operations/colour.ts';
import { softColours, type Colours, type SoftColours } from './operations/gaussian.ts';
import { floatsLike, kernelOf, laid, laidSurely } from './operations/memory.ts';
import { ditherAt } from './operations/noise.ts';
import { enlargingBytes } from './operations/premultiplied.ts';

export const glow = defineFinish({
  id: 'glow',
  name: 'Glow',
  family: 'light',
  purpose: 'Makes what is bright shine into its surroundings.',
  heavy: true,
  settings: {
    threshold: set.percent('From brightness', 0.65),
    size: set.pixels('Size', 36, 400),
    strength: set.percent('Strength', 0.8, 4),
    tint: set.colour('Tint', 255, 244, 224),
  },
  reach: ({ size }) => 1.5 * size,
  apply(pixels, { threshold, size, strength, tint }, { scale }) {
    const light = softColours(pixels, (size * scale) / 2, brightParts(threshold));
    shine(pixels, light, [...tint.slice(0, 3).map((v) => (strength * v) / 255), strength]);
  },
});

/** What is brighter than a threshold, premultiplied (0..255), by how much brighter it is. */
const brightParts = (threshold: number): Colours => ({
  whole: (pixels) => {
    const light = floatsLike(pixels, 4);
    brighter(pixels, threshold, light);
    return light;
  },
  halved: (kernel, { data, width, height }, to) =>
    kernel.halveBrightParts(data.byteOffset, width, height, threshold, to),
});

function brighter({ data }: FinishPixels, threshold: number, { data: out }: Plane): void {
  const kernel = kernelOf(data, out);
  if (kernel) return kernel.brightParts(data.byteOffset, data.length / 4, threshold, out.byteOffset);
  for (let i = 0; i < data.length; i += 4) {
    const light = lightOf(data[i]!, data[i + 1]!, data[i + 2]!) / 255;
    const part = Math.max(0, (light - threshold) / Math.max(0.02, 1 - threshold)) * data[i + 3]!;
    for (let c = 0; c < 3; c++) out[i + c] = (data[i + c]! * part) / 255;
    out[i + 3] = part;
  }
}

/** Screens light over what is there, premultiplied: light adds and never clips hard. */
function shine({ data, width, height }: FinishPixels, soft: SoftColours, factors: readonly number[]): void {
  const light = soft.plane.data;
  const kernel = kernelOf(data, light);
  const byKernel = (at: number, line: number): void =>
    kernel!.shine(data.byteOffset, width, height, light.byteOffset, at, line);
  const tint = Float32Array.from(factors);
  if (soft.halved) return laidSurely([tint, enlargingBytes(width)], byKernel);
  if (kernel && laid([tint], (at) => byKernel(at, 0))) return;
  const own = [0, 0, 0, 0];
  for (let i = 0, k = 0; i < data.length; i += 4, k++) {
    const added = factors.map((factor, c) => Math.min(255, light[i + c]! * factor));
    if (!added.some((v) => v > 0.01)) continue;
    for (let c = 0; c < 4; c++) {
      own[c] = c < 3 ? (data[i + c]! * data[i + 3]!) / 255 : data[i + 3]!;
      own[c] = own[c]! + added[c]! * (1 - own[c]! / 255);
    }
    const noise = ditherAt(k % width, Math.floor(k / width));
    for (let c = 0; c < 3; c++) data[i + c] = (own[c]! / own[3]!) * 255 + noise;
    data[i + 3] = own[3]! + (own[3]! < 255 ? noise : 0);
  }
}
