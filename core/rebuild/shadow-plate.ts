import type { Progress } from '../pixels/progress.ts';
import { planeOfBytes } from '../pixels/filters.ts';
import { boundsOf, type Bytes, type Rgba } from '../pixels/raster.ts';
import { enlargedPlane } from '../pixels/resample.ts';
import { rebuild, type RebuildRequest } from './fill.ts';
import { detailFades } from './shadow-layer.ts';
import { shadowAlpha, withinReach } from './shadow.ts';
import { anyOf, smallerCopy, withEnlarged } from './smaller-copy.ts';

/** Longer side of the copy on which it is judged how dark a shadow is: it is smooth, and so is what is read of the ground. */
const longest = 800;

export interface JudgedShadow {
  /** The picture without shadow and piece; as coarse as that copy where nothing but its colours is needed. */
  clean: Rgba;
  /** As by `shadowAlpha`. */
  alpha: Bytes;
}

/**
 * How dark a shadow is, judged by a rebuilt plate. A plate at full size is only made of what lies under its deepest part,
 * where the ground will be the plate's.
 * @param region 1 where the shadow is, generously  @param under 1 where a piece hides the ground
 * @throws NothingToContinue, Cancelled
 */
export async function judgedShadow(
  picture: Rgba,
  region: Bytes,
  under: Bytes,
  guides: Pick<RebuildRequest, 'barred' | 'lines'>,
  progress?: Progress,
): Promise<JudgedShadow> {
  const hole = { ...region, data: region.data.map((v, i) => v | under.data[i]!) };
  const small = smallerCopy(picture, longest);
  if (small === picture) {
    const clean = await rebuild({ picture, hole, seed: 1, ...guides }, progress);
    return { clean, alpha: await shadowAlpha(picture, clean, region, under, progress) };
  }
  const [smallHole, smallRegion, smallUnder] = [hole, region, under].map((m) => anyOf(m, small.width, small.height));
  const request = { picture: small, hole: smallHole!, seed: 1, ...shrunk(guides, small, picture) };
  const cleanSmall = await rebuild(request, progress);
  const rough = await shadowAlpha(small, cleanSmall, smallRegion!, smallUnder!, progress);
  const enlarged = enlargedPlane(planeOfBytes(rough), picture.width, picture.height);
  const smooth = { ...region, data: Uint8Array.from(enlarged.data, Math.round) };
  const alpha = withinReach(smooth, picture, region, under);
  const deep = { ...alpha, data: alpha.data.map((a, i) => (!under.data[i] && a >= detailFades[0] * 255 ? 1 : 0)) };
  const clean = boundsOf(deep)
    ? await rebuild({ picture, hole, seed: 1, ...guides, seen: deep }, progress)
    : withEnlarged(picture, hole, cleanSmall);
  return { clean, alpha };
}

/** What guides say, for a smaller copy. */
function shrunk(
  { barred, lines }: Pick<RebuildRequest, 'barred' | 'lines'>,
  to: Rgba,
  from: Rgba,
): Pick<RebuildRequest, 'barred' | 'lines'> {
  const [across, down] = [to.width / from.width, to.height / from.height];
  const at = ([x, y]: readonly [number, number]): [number, number] => [x * across, y * down];
  return {
    barred: barred ? anyOf(barred, to.width, to.height) : null,
    lines: (lines ?? []).map((line) => ({ from: at(line.from), to: at(line.to) })),
  };
}
