import { logLikelihood, modelOfPixels, type ColourModel } from '../cut/colour-model.ts';
import { partsOf } from '../cut/parts.ts';
import { dilate, squaredDistance } from '../pixels/distance.ts';
import { checkpoint, type Progress } from '../pixels/progress.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  pasteBytes,
  type Bytes,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { halve, resizedMask } from '../pixels/resample.ts';

/** A picture is looked at no larger than this. */
const judgedEdge = 800;
/** How far from a hole remains are looked for at most: a share of the picture's longer side, and of the hole's width. */
const [reachShare, holeShare] = [0.04, 0.3];
/** The ground they are compared with lies between one and this many times as far. */
const groundReach = 2;
/** And no farther than so many times as far from the place itself. */
const seenBeside = 1.5;
/** From so many of its pixels on a ground is known; more than the second number are not needed. */
const [leastGround, mostGround] = [60, 1500];
/** Share of a ground that may be something else. */
const rareShare = 0.03;
/** Share of the ground's own pixels that are less odd than its limit, and how far beyond that limit a remain is, in its spreads. */
const [usualShare, beyondUsual] = [0.98, 1];
/** No colour is odd that is nearly as likely as the ground's, as a difference of logarithms. */
const leastOdd = 60;
/** Remains are taken with so much of what is around them, in pixels of the copy. */
const taken = 2;

/**
 * What a cut has left of a thing beside the hole behind it: a pale throat before a pale sky, a tip of a tail, a strap. It would stand in
 * the plate for itself and spread into it. Pixels are odd that are not like the ground a little further out, there where they are; what
 * is odd, hangs together with the hole and ends before that ground is a remain. What goes on is another thing, or a shadow, and stays.
 * @param hole 1 where the plate is made anew  @param stays 1 where nothing is taken, size of the picture
 * @returns 1 at remains and a little around them, size of the picture; null for none  @throws Cancelled
 */
export async function remainsBeside(
  picture: Rgba,
  hole: Bytes,
  stays: Bytes | null = null,
  progress?: Progress,
): Promise<Bytes | null> {
  const bounds = boundsOf(hole);
  if (!bounds) return null;
  const halvings = Math.max(0, Math.ceil(Math.log2(Math.max(picture.width, picture.height) / judgedEdge)));
  const scale = 2 ** halvings;
  const far = groundReach * (reachShare * Math.max(picture.width, picture.height) + scale);
  const area = growRect(bounds, Math.ceil(far), picture.width, picture.height);
  const small = smallerPart(picture, hole, area, halvings);
  const away = squaredDistance(small.hole);
  const reach = reachOf(small.hole, (reachShare * Math.max(picture.width, picture.height)) / scale);
  const odd = await oddBeside(small.picture, away, reach, progress);
  const found = hangingOn(odd, away, reach);
  if (!found) return null;
  const grown = dilate(found, taken);
  const remains = makeBytes(picture.width, picture.height);
  pasteBytes(remains, resizedMask(grown, area.width, area.height), area.x, area.y);
  for (let i = 0; i < remains.data.length; i++) if (stays?.data[i]) remains.data[i] = 0;
  return remains;
}

/** A part of a picture and its hole, halved so often; what is partly a hole is one. */
function smallerPart(picture: Rgba, hole: Bytes, area: Rect, halvings: number): { picture: Rgba; hole: Bytes } {
  let [small, smallHole] = [cropRgba(picture, area), cropBytes(hole, area)];
  for (let k = 0; k < halvings; k++) {
    small = halve(small);
    const next = makeBytes(small.width, small.height);
    for (let i = 0; i < smallHole.data.length; i++) {
      if (!smallHole.data[i]) continue;
      next.data[(Math.floor(i / smallHole.width) >> 1) * next.width + ((i % smallHole.width) >> 1)] = 1;
    }
    smallHole = next;
  }
  return { picture: small, hole: smallHole };
}

/** How far remains of a hole may reach, in its pixels: less beside a small one, where other things are soon met. */
function reachOf(hole: Bytes, most: number): number {
  const { sizes } = partsOf(hole);
  const mean = sizes.reduce((sum, size) => sum + size, 0) / sizes.length;
  return Math.max(3, Math.min(most, holeShare * Math.sqrt(mean)));
}

/** The pixels near a hole that are unlike the ground further out: block by block, each compared with what lies around it. */
async function oddBeside(picture: Rgba, away: Float32Array, reach: number, progress?: Progress): Promise<Bytes> {
  const { width, height } = picture;
  const odd = makeBytes(width, height);
  const side = Math.max(6, Math.round(reach));
  for (let y = 0; y < height; y += side) {
    await checkpoint(progress);
    for (let x = 0; x < width; x += side) {
      const block = { x, y, width: Math.min(side, width - x), height: Math.min(side, height - y) };
      const near = pixelsIn(block, width, (i) => away[i]! > 0 && away[i]! <= reach ** 2);
      if (near.length === 0) continue;
      const around = growRect(block, Math.ceil(seenBeside * reach), width, height);
      const ground = groundOf(
        picture,
        pixelsIn(around, width, (i) => away[i]! > reach ** 2 && away[i]! <= (groundReach * reach) ** 2),
      );
      if (ground) for (const i of near) if (surprise(ground.model, picture, i) > ground.limit) odd.data[i] = 1;
    }
  }
  return odd;
}

function pixelsIn(rect: Rect, width: number, wanted: (i: number) => boolean): number[] {
  const found: number[] = [];
  for (let y = rect.y; y < rect.y + rect.height; y++)
    for (let x = rect.x; x < rect.x + rect.width; x++) if (wanted(y * width + x)) found.push(y * width + x);
  return found;
}

const surprise = (model: ColourModel, { data }: Rgba, i: number): number =>
  -logLikelihood(model, data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);

/** The colours of a ground, and how surprising what is none of it has to be; null where too little of it is seen. */
function groundOf(picture: Rgba, pixels: readonly number[]): { model: ColourModel; limit: number } | null {
  if (pixels.length < leastGround) return null;
  const step = Math.max(1, pixels.length / mostGround);
  const looked = Array.from({ length: Math.floor(pixels.length / step) }, (_, k) => pixels[Math.floor(k * step)]!);
  // What is rare in it, as the end of something else, is no ground.
  const first = surprises(modelOfPixels(picture, looked), picture, looked);
  const most = first.slice().sort()[Math.ceil((1 - rareShare) * first.length) - 1]!;
  const common = looked.filter((_, k) => first[k]! <= most);
  const model = modelOfPixels(picture, common);
  const own = surprises(model, picture, common).sort();
  const [middle, usual] = [0.5, usualShare].map((share) => own[Math.floor(share * own.length)]!) as [number, number];
  return { model, limit: usual + Math.max(leastOdd, beyondUsual * (usual - middle)) };
}

/** How surprising each pixel is to a model. */
const surprises = (model: ColourModel, picture: Rgba, pixels: readonly number[]): Float64Array =>
  Float64Array.from(pixels, (pixel) => surprise(model, picture, pixel));

/** Of what is odd the parts that touch the hole and end before the ground; null for none. */
function hangingOn(odd: Bytes, away: Float32Array, reach: number): Bytes | null {
  const { label, sizes } = partsOf(odd);
  const [touches, goesOn] = [sizes.map(() => false), sizes.map(() => false)];
  for (let i = 0; i < label.length; i++) {
    if (!label[i]) continue;
    // A neighbour over side or corner lies in the hole.
    if (away[i]! <= 2) touches[label[i]! - 1] = true;
    if (away[i]! > (reach - 1) ** 2) goesOn[label[i]! - 1] = true;
  }
  const found = makeBytes(odd.width, odd.height);
  for (let i = 0; i < label.length; i++)
    if (label[i] && touches[label[i]! - 1] && !goesOn[label[i]! - 1]) found.data[i] = 1;
  return boundsOf(found) && found;
}
