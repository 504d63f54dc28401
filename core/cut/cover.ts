import { squaredDistance } from '../pixels/distance.ts';
import type { Bytes } from '../pixels/raster.ts';
import type { Stroke } from './strokes.ts';

export interface CoverOptions {
  /** Dabs are made this much larger than the largest disc that fits, by factor and by pixels. */
  factor: number;
  more: number;
  /** Pixels of the picture per pixel of the mask. */
  scale: number;
}

const mostDabs = 60;

/** A mask (0/1) as round dabs, the largest first, until nearly all of it is covered; what a hand would paint over it. */
export function coverByDabs(mask: Bytes, { factor, more, scale }: CoverOptions): Stroke[] {
  const rest: Bytes = { ...mask, data: mask.data.slice() };
  const total = rest.data.reduce((sum, v) => sum + v, 0);
  const strokes: Stroke[] = [];
  for (let left = total; left > 0.04 * total && strokes.length < mostDabs;) {
    const outside = { ...rest, data: rest.data.map((v) => 1 - v) };
    const depth = squaredDistance(outside);
    let best = 0;
    for (let i = 1; i < depth.length; i++) if (depth[i]! > depth[best]!) best = i;
    const [x, y] = [best % mask.width, (best / mask.width) | 0];
    const radius = Math.min(Math.sqrt(depth[best]!), Math.max(mask.width, mask.height)) + 1;
    strokes.push({
      radius: Math.round((radius * factor + more) * scale * 10) / 10,
      points: [[(x + 0.5) * scale, (y + 0.5) * scale]],
    });
    left = 0;
    for (let i = 0; i < rest.data.length; i++) {
      if (Math.hypot((i % mask.width) - x, ((i / mask.width) | 0) - y) <= radius) rest.data[i] = 0;
      left += rest.data[i]!;
    }
  }
  return strokes;
}
