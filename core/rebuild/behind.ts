import { bandRadius } from '../cut/alpha.ts';
import { drawStroke, type Stroke } from '../cut/strokes.ts';
import type { Progress } from '../pixels/progress.ts';
import { emptyLike, notEmpty } from '../pixels/emptiness.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { rebuild, type Preview } from './fill.ts';
import { barredBy, noGuides, type Guides } from './guides.ts';
import { holeBehind, withoutCrumbs } from './hole.ts';
import { fillFromPhoto } from './other-photo.ts';
import { remainsBeside } from './remains.ts';
import { partedShadow, type ShadowLayer } from './shadow-layer.ts';
import { judgedShadow } from './shadow-plate.ts';
import { shadowAlpha } from './shadow.ts';

/** Alpha of a lifted piece, 0..255, with its top left corner at (x, y) of the picture. */
export interface LiftedAlpha {
  alpha: Bytes;
  x: number;
  y: number;
}

export interface BehindRequest {
  picture: Rgba;
  pieces: readonly LiftedAlpha[];
  /** The region of each shadow to lift, painted generously. */
  shadows: readonly (readonly Stroke[])[];
  seed: number;
  guides?: Guides;
  /** What `holeUnder` found of them, where that is known. */
  hole?: Bytes;
  /** 1 where the shot will show what is behind; null to rebuild all of it. */
  seen?: Bytes | null;
  /** Another photo of the same place, to take what is behind from. */
  photo?: Rgba | null;
}

export interface Behind {
  /** The picture with all pieces rebuilt away and all shadows lightened away; what it leaves empty stays empty. */
  plate: Rgba;
  /** 1 where the plate was made anew. */
  hole: Bytes;
  /** The shadows as layers, in the order asked for; null where none was found. */
  shadows: (ShadowLayer | null)[];
}

/**
 * What lies behind lifted pieces. A shadow's ground is not invented: it is the picture made lighter by what the shadow
 * took, so its grain is the true one; only how dark the shadow is, is judged by a rebuilt plate. With another photo of the
 * place both are taken from that.
 * @throws NothingToContinue, Cancelled
 */
export async function rebuildBehind(request: BehindRequest, progress?: Progress, preview?: Preview): Promise<Behind> {
  const { picture, shadows, seed, guides = noGuides, seen = null, photo = null } = request;
  const { width, height } = picture;
  const hole = request.hole ?? (await holeUnder(request, progress));
  const regions = shadows.map((strokes) => regionOf(strokes, picture));
  const barred = barredBy(guides, width, height);
  if (photo) {
    const made = await behindByPhoto({ picture, hole, regions, photo, seed }, progress, preview);
    return { ...made, plate: emptyLike(made.plate, picture) };
  }
  const made: Behind['shadows'] = [];
  let ground = picture;
  for (const region of regions) {
    const { clean, alpha } = await judgedShadow(ground, region, hole, { barred, lines: guides.lines }, progress);
    const parted = partedShadow(ground, clean, alpha, hole);
    ground = parted.ground;
    made.push(parted.shadow);
  }
  const plate = await rebuild({ picture: ground, hole, seed, barred, lines: guides.lines, seen }, progress, preview);
  return { plate: emptyLike(plate, picture), hole, shadows: made };
}

interface ByPhoto {
  picture: Rgba;
  hole: Bytes;
  /** 1 where each shadow lies. */
  regions: readonly Bytes[];
  photo: Rgba;
  seed: number;
}

/** Another photo shows the ground without piece and shadow: it is the plate for both, and tells how dark each shadow is. */
async function behindByPhoto(
  { picture, hole, regions, photo, seed }: ByPhoto,
  progress?: Progress,
  preview?: Preview,
): Promise<Behind> {
  const all = regions.reduce(united, hole);
  const plate = await fillFromPhoto({ picture, hole: all, other: photo, seed }, progress, preview);
  const shadows: Behind['shadows'] = [];
  let ground = picture;
  for (const region of regions) {
    const alpha = await shadowAlpha(ground, plate, region, hole, progress);
    // What two shadows share is told of the first.
    const parted = partedShadow(ground, plate, alpha, hole);
    ground = parted.ground;
    shadows.push(parted.shadow);
  }
  return { plate, hole: all, shadows };
}

/**
 * The region to make anew behind lifted pieces, with what was left of them beside it; a shadow that is lifted by itself is none of that.
 * @returns 1 there, size of the picture  @throws Cancelled
 */
export async function holeUnder(
  { picture, pieces, shadows }: Pick<BehindRequest, 'picture' | 'pieces' | 'shadows'>,
  progress?: Progress,
): Promise<Bytes> {
  const { width, height } = picture;
  const rim = bandRadius(width, height);
  const hole = holeBehind(unitedAlpha(pieces, width, height), rim);
  const remains = await remainsBeside(picture, hole, regionOf(shadows.flat(), picture), progress);
  return withoutCrumbs(remains ? united(hole, remains) : hole, (2 * rim) ** 2);
}

/** Where a shadow may lie: on what the picture shows. */
function regionOf(strokes: readonly Stroke[], picture: Rgba): Bytes {
  const region = makeBytes(picture.width, picture.height);
  for (const stroke of strokes) drawStroke(region, stroke, 1);
  return notEmpty(region, picture);
}

const united = (a: Bytes, b: Bytes): Bytes => ({ ...a, data: a.data.map((v, i) => v | b.data[i]!) });

/** The strongest alpha of all pieces at each pixel of the picture. */
export function unitedAlpha(pieces: readonly LiftedAlpha[], width: number, height: number): Bytes {
  const all = makeBytes(width, height);
  for (const { alpha, x: left, y: top } of pieces) {
    for (let y = Math.max(0, -top); y < Math.min(alpha.height, height - top); y++) {
      for (let x = Math.max(0, -left); x < Math.min(alpha.width, width - left); x++) {
        const i = (top + y) * width + left + x;
        all.data[i] = Math.max(all.data[i]!, alpha.data[y * alpha.width + x]!);
      }
    }
  }
  return all;
}
