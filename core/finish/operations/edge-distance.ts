import { squaredDistance } from '../../pixels/distance.ts';
import { makeBytes, type Plane } from '../../pixels/raster.ts';
import type { FinishPixels } from '../finish.ts';
import { floatsLike, kernelOf, laid } from './memory.ts';

/**
 * Distance in pixels from the edge of what is there: positive outside, negative inside, exact (Felzenszwalb &
 * Huttenlocher 2012), and to parts of a pixel by the alpha of the nearest edge.
 * @param limit how far it is asked for: beyond, it may be said to be anything that is further
 */
export function edgeDistance(pixels: FinishPixels, limit: number): Plane {
  const { data, width, height } = pixels;
  const plane = floatsLike(pixels);
  const kernel = kernelOf(data, plane.data);
  const most = Math.min(16000, Math.ceil(limit) + 2);
  const byKernel = (work: number): void =>
    kernel!.edgeDistance(data.byteOffset, width, height, most, work, plane.data.byteOffset);
  if (kernel && laid([(width + 8) * height * 4 + (width + 4) * 24 + 64], byKernel)) return plane;
  const [inside, outside] = [makeBytes(width, height), makeBytes(width, height)];
  for (let k = 0; k < inside.data.length; k++) {
    const there = data[k * 4 + 3]! >= 128 ? 1 : 0;
    inside.data[k] = there;
    outside.data[k] = 1 - there;
  }
  const [out, within] = [squaredDistance(inside), squaredDistance(outside)];
  for (let k = 0; k < plane.data.length; k++) {
    const alpha = data[k * 4 + 3]! / 255;
    // A pixel on the edge says itself how far the edge is from its middle; a faint one elsewhere is no edge.
    if (alpha > 0 && alpha < 1 && out[k]! <= 2 && within[k]! <= 2) plane.data[k] = 0.5 - alpha;
    else plane.data[k] = inside.data[k] ? 0.5 - Math.sqrt(within[k]!) : Math.sqrt(out[k]!) - 0.5;
  }
  return plane;
}
