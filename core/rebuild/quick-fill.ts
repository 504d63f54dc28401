import { squaredDistance } from '../pixels/distance.ts';
import type { Progress } from '../pixels/progress.ts';
import type { Bytes, Rgba } from '../pixels/raster.ts';
import { rebuild } from './fill.ts';
import { anyOf, smallerCopy, withEnlarged } from './smaller-copy.ts';

/** Longer side of the copy that is continued. */
const longest = 1000;
/** How far into a hole a gentle move may look, as a share of the longer side. */
const lookedInto = 0.05;

/**
 * Continues a large hole quickly: on a smaller copy, with care only as far in from its rim as a gentle move uncovers. Pixels
 * outside the hole are returned unchanged.
 * @throws NothingToContinue, Cancelled
 */
export async function quickFill(picture: Rgba, hole: Bytes, progress?: Progress): Promise<Rgba> {
  const small = smallerCopy(picture, longest);
  const smallHole = small === picture ? hole : anyOf(hole, small.width, small.height);
  const seen = nearRim(smallHole, lookedInto * Math.max(small.width, small.height));
  const filled = await rebuild({ picture: small, hole: smallHole, seed: 1, seen }, progress);
  return small === picture ? filled : withEnlarged(picture, hole, filled);
}

/** The part of a hole that lies within `reach` pixels of what is around it. */
function nearRim(hole: Bytes, reach: number): Bytes {
  const around = { ...hole, data: hole.data.map((v) => 1 - v) };
  const distance = squaredDistance(around);
  return { ...hole, data: hole.data.map((v, i) => (v && distance[i]! <= reach * reach ? 1 : 0)) };
}
