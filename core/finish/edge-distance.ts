import { squaredDistance } from '../pixels/distance.ts';
import { makeBytes, makePlane, type Plane } from '../pixels/raster.ts';
import type { FinishPixels } from './finish.ts';

/**
 * Distance in pixels from the edge of what is there: positive outside, negative inside, exact (Felzenszwalb &
 * Huttenlocher 2012), and to parts of a pixel by the alpha of the nearest edge.
 */
export function edgeDistance(pixels: FinishPixels): Plane {
  const { data, width, height } = pixels;
  const [inside, outside] = [makeBytes(width, height), makeBytes(width, height)];
  for (let k = 0; k < inside.data.length; k++) {
    const there = data[k * 4 + 3]! >= 128 ? 1 : 0;
    inside.data[k] = there;
    outside.data[k] = 1 - there;
  }
  const [out, within] = [squaredDistance(inside), squaredDistance(outside)];
  const plane = makePlane(width, height);
  for (let k = 0; k < plane.data.length; k++) {
    const alpha = data[k * 4 + 3]! / 255;
    // A pixel on the edge says itself how far the edge is from its middle; a faint one elsewhere is no edge.
    if (alpha > 0 && alpha < 1 && out[k]! <= 2 && within[k]! <= 2) plane.data[k] = 0.5 - alpha;
    else plane.data[k] = inside.data[k] ? 0.5 - Math.sqrt(within[k]!) : Math.sqrt(out[k]!) - 0.5;
  }
  return plane;
}

/** 1 between two distances from the edge, falling to 0 over `soft` pixels on both sides (at least one). */
export function band(distance: Plane, from: number, to: number, soft: number): Plane {
  const out = makePlane(distance.width, distance.height);
  const ramp = Math.max(1, soft);
  for (let k = 0; k < out.data.length; k++) {
    const d = distance.data[k]!;
    out.data[k] = Math.max(0, Math.min(1, (d - from) / ramp + 0.5)) * Math.max(0, Math.min(1, (to - d) / ramp + 0.5));
  }
  return out;
}
