import { lumaOf } from '../pixels/color.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';

/** A rectangle cut out of a frame, as brightness 0..255; (x, y) is where its upper left corner lies in the frame. */
export interface Cutting {
  x: number;
  y: number;
  plane: Plane;
}

/** The brightness of a rectangle of a frame. */
export function cuttingOf({ width, height, data }: Rgba, x: number, y: number): Cutting {
  const plane = makePlane(width, height);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  return { x, y, plane };
}

/** Sizes of a cutting, each half of the one before, smoothed by the binomial of five before every second pixel is taken. */
export function pyramidOf(cutting: Cutting, levels: number): Plane[] {
  const out = [cutting.plane];
  for (let k = 1; k < levels; k++) {
    const finer = out[k - 1]!;
    if (Math.min(finer.width, finer.height) < 24) break;
    out.push(halved(finer));
  }
  return out;
}

const binomial = [1 / 16, 4 / 16, 6 / 16, 4 / 16, 1 / 16];

function halved({ width, height, data }: Plane): Plane {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const across = makePlane(w, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < w; x++) {
      let sum = 0;
      for (let k = -2; k <= 2; k++)
        sum += binomial[k + 2]! * data[y * width + Math.max(0, Math.min(width - 1, 2 * x + k))]!;
      across.data[y * w + x] = sum;
    }
  const out = makePlane(w, h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let sum = 0;
      for (let k = -2; k <= 2; k++)
        sum += binomial[k + 2]! * across.data[Math.max(0, Math.min(height - 1, 2 * y + k)) * w + x]!;
      out.data[y * w + x] = sum;
    }
  return out;
}

/** The plane at a place between pixels, whose middles are at whole numbers; its border goes on outside. */
export function sampled({ width, height, data }: Plane, x: number, y: number): number {
  const u = Math.max(0, Math.min(width - 1.0001, x));
  const v = Math.max(0, Math.min(height - 1.0001, y));
  const [left, top] = [Math.floor(u), Math.floor(v)];
  const [fx, fy] = [u - left, v - top];
  const o = top * width + left;
  const [a, b] = [data[o]!, data[o + 1] ?? data[o]!];
  const [c, d] = [data[o + width] ?? a, data[o + width + 1] ?? b];
  return (a * (1 - fx) + b * fx) * (1 - fy) + (c * (1 - fx) + d * fx) * fy;
}
