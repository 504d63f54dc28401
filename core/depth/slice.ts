import { dilate } from '../pixels/distance.ts';
import type { Progress } from '../pixels/progress.ts';
import { makeBytes, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { bandsOf, nearerThan } from './depth-map.ts';
import { enlargedPlane } from '../pixels/resample.ts';

/** One layer of a sliced picture: everything from a closeness on towards the lens, as it is without what hung before it. */
export interface Slice {
  colours: Rgba;
  alpha: Bytes;
  /** Mean closeness of what only this slice shows. */
  closeness: number;
}

export interface SlicedPicture {
  /** Nearest first. */
  slices: Slice[];
  /** The picture without any of them, and how near it is. */
  background: Rgba;
  backgroundCloseness: number;
}

/** Continues the surroundings of a hole into it. */
export type FillHole = (picture: Rgba, hole: Bytes) => Promise<Rgba>;

/**
 * Slices a picture by its depth map into at most `count` layers, the last of them the background. From near to far each
 * slice is taken off and what was behind it is rebuilt, so that every layer is whole behind those before it.
 * @throws Cancelled, NothingToContinue
 */
export async function slicedByDepth(
  picture: Rgba,
  map: Plane,
  count: number,
  fill: FillHole,
  progress?: Progress,
): Promise<SlicedPicture> {
  const whole = enlargedPlane(map, picture.width, picture.height);
  const bounds = bandsOf(map, count);
  const slices: Slice[] = [];
  let plate = picture;
  for (const [k, bound] of bounds.entries()) {
    progress?.report?.(`Slice ${k + 1} of ${bounds.length}`, k / bounds.length);
    const alpha = nearerThan(whole, bound);
    slices.push({ colours: withAlpha(plate, alpha), alpha, closeness: meanBetween(map, bound, bounds[k - 1] ?? 2) });
    plate = await fill(plate, dilate(solid(alpha), 4));
  }
  return { slices, background: plate, backgroundCloseness: meanBetween(map, -1, bounds.at(-1) ?? 2) };
}

function solid({ width, height, data }: Bytes): Bytes {
  const out = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) out.data[i] = data[i]! > 8 ? 1 : 0;
  return out;
}

function withAlpha(picture: Rgba, alpha: Bytes): Rgba {
  const data = new Uint8ClampedArray(picture.data);
  for (let i = 0; i < alpha.data.length; i++) data[i * 4 + 3] = alpha.data[i]!;
  return { ...picture, data };
}

/** Mean closeness of a map's values in [from, below); the middle where there are none. */
function meanBetween({ data }: Plane, from: number, below: number): number {
  let [n, sum] = [0, 0];
  for (const v of data) {
    if (v < from || v >= below) continue;
    n++;
    sum += v;
  }
  return n === 0 ? 0.5 : sum / n;
}
