import { squaredDistance } from '../pixels/distance.ts';
import type { Progress } from '../pixels/progress.ts';
import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { averagedTo, enlargedPlane } from '../pixels/resample.ts';
import { rebuild } from './fill.ts';

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
  const shrink = Math.min(1, longest / Math.max(picture.width, picture.height));
  const [width, height] = [Math.round(picture.width * shrink), Math.round(picture.height * shrink)];
  const small = shrink < 1 ? averagedTo(picture, width, height) : picture;
  const smallHole = shrink < 1 ? anyOf(hole, width, height) : hole;
  const seen = nearRim(smallHole, lookedInto * Math.max(width, height));
  const filled = await rebuild({ picture: small, hole: smallHole, seed: 1, seen }, progress);
  if (shrink === 1) return filled;
  const out: Rgba = { ...picture, data: picture.data.slice() };
  for (let c = 0; c < 3; c++) {
    const channel = enlargedPlane(channelOf(filled, c), picture.width, picture.height);
    for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) out.data[i * 4 + c] = channel.data[i]!;
  }
  return out;
}

function channelOf({ width, height, data }: Rgba, c: number): Plane {
  const plane = makePlane(width, height);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = data[i * 4 + c]!;
  return plane;
}

/** A hole at a smaller size: every pixel that holds any of it. */
function anyOf({ width, height, data }: Bytes, w: number, h: number): Bytes {
  const out = makeBytes(w, h);
  for (let y = 0; y < height; y++) {
    const row = Math.min(h - 1, Math.floor((y * h) / height)) * w;
    for (let x = 0; x < width; x++)
      if (data[y * width + x]) out.data[row + Math.min(w - 1, Math.floor((x * w) / width))] = 1;
  }
  return out;
}

/** The part of a hole that lies within `reach` pixels of what is around it. */
function nearRim(hole: Bytes, reach: number): Bytes {
  const around = { ...hole, data: hole.data.map((v) => 1 - v) };
  const distance = squaredDistance(around);
  return { ...hole, data: hole.data.map((v, i) => (v && distance[i]! <= reach * reach ? 1 : 0)) };
}
