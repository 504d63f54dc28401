import { boxBlur, planeOfBytes } from '../pixels/filters.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  intersectRect,
  makeBytes,
  makePlane,
  pasteBytes,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { noiseLevel } from '../pixels/noise-level.ts';
import { denoised } from '../pixels/non-local-means.ts';
import { halve, halveMask, resizedMask } from '../pixels/resample.ts';
import { doneAtOnce, type Steps } from '../pixels/steps.ts';
import { boundaryBand } from './band.ts';
import { enlargedAlpha } from './enlarged-alpha.ts';
import { matteInSteps, solveMatte, type MatteInput } from './closed-form-matte.ts';
import { softEdgeOf } from './soft-edge.ts';

/** Half width in pixels of the band in which alpha is estimated, for a picture of this size. */
export function bandRadius(width: number, height: number): number {
  return Math.max(3, Math.round(Math.max(width, height) / 340));
}

/**
 * Alpha (0..255) from a picture and a hard mask (0/1): closed-form matting inside a band around the mask's boundary,
 * guided by local colour estimates on both sides; the band is widened where the colours say that the edge is soft.
 * @param rect only this part is estimated; outside it alpha is the mask's
 * @param previous alpha to keep outside `rect`
 */
export const estimateAlpha = (picture: Rgba, mask: Bytes, rect?: Rect, previous?: Bytes): Bytes =>
  doneAtOnce(alphaInSteps(picture, mask, rect, previous));

/** The same in steps of a moment. @param said what was said of the mask; null for nothing */
export function* alphaInSteps(
  picture: Rgba,
  mask: Bytes,
  rect?: Rect,
  previous?: Bytes,
  said: Said | null = null,
): Steps<Bytes> {
  const { width, height } = picture;
  const radius = bandRadius(width, height);
  const wanted = rect ?? { x: 0, y: 0, width, height };
  if (width * height <= solvedUpTo) return yield* estimated({ picture, mask, said }, wanted, previous, radius);
  const alpha = previous ? { ...previous, data: previous.data.slice() } : makeBytes(width, height);
  // What bears on the wanted part, with even sides, so that its half has whole pixels.
  const near = growRect(wanted, radius * 15, width, height);
  const [x, y] = [near.x & ~1, near.y & ~1];
  const area = { x, y, width: near.x + near.width - x, height: near.y + near.height - y };
  const inner = { ...wanted, x: wanted.x - x, y: wanted.y - y };
  yield;
  const around: Masked = {
    picture: cropRgba(picture, area),
    mask: cropBytes(mask, area),
    said: said && ((rect) => said({ ...rect, x: rect.x + x, y: rect.y + y })),
  };
  const part = yield* viaHalf(around, inner, radius);
  pasteBytes(alpha, cropBytes(part, inner), wanted.x, wanted.y);
  return alpha;
}

/** Pixels up to which alpha is solved at a picture's own size; no lens draws an edge finer than two pixels of a larger one. */
const solvedUpTo = 3e6;

/** Alpha of a large picture from that of its half, which may be large itself. */
function* viaHalf({ picture, mask, said }: Masked, wanted: Rect, radius: number): Steps<Bytes> {
  const half: Masked = { picture: halve(picture), mask: halveMask(mask), said: said && halved(said, mask) };
  yield;
  const around = growRect(wanted, 8, picture.width, picture.height);
  const [x, y] = [around.x >> 1, around.y >> 1];
  const [right, bottom] = [around.x + around.width, around.y + around.height];
  const inHalf = {
    x,
    y,
    width: Math.min(half.mask.width, (right + 1) >> 1) - x,
    height: Math.min(half.mask.height, (bottom + 1) >> 1) - y,
  };
  const smaller = Math.max(3, Math.round(radius / 2));
  const alpha =
    half.mask.data.length > solvedUpTo
      ? yield* viaHalf(half, inHalf, smaller)
      : yield* estimated(half, inHalf, undefined, smaller);
  return yield* enlargedAlpha(picture, half.picture, alpha);
}

/**
 * In an area of a mask 1 where somebody said what it is, so that no edge is sought but a lens's own along its border; 2 where there is none
 * of that either.
 */
export type Said = (area: Rect) => Bytes;

const halved =
  (said: Said, { width, height }: Bytes): Said =>
  (area) => {
    const [x, y] = [2 * area.x, 2 * area.y];
    const whole = { x, y, width: Math.min(2 * area.width, width - x), height: Math.min(2 * area.height, height - y) };
    return resizedMask(said(whole), area.width, area.height);
  };

/** A picture with the mask of what is taken of it. */
interface Masked {
  picture: Rgba;
  mask: Bytes;
  said: Said | null;
}

function* estimated(
  { picture, mask, said }: Masked,
  wanted: Rect,
  previous: Bytes | undefined,
  radius: number,
): Steps<Bytes> {
  const { width, height } = picture;
  const alpha = previous ? { ...previous, data: previous.data.slice() } : makeBytes(width, height);
  for (let y = wanted.y; y < wanted.y + wanted.height; y++) {
    for (let i = y * width + wanted.x; i < y * width + wanted.x + wanted.width; i++)
      alpha.data[i] = mask.data[i] ? 255 : 0;
  }
  const bounds = boundsOf(mask);
  if (!bounds) return alpha;
  const edge = intersectRect(growRect(bounds, radius * 9, width, height), growRect(wanted, radius * 6, width, height));
  const target = edge && intersectRect(edge, wanted);
  if (!edge || !target) return alpha;

  const partMask = cropBytes(mask, edge);
  const part = withoutNoise(cropRgba(picture, edge), noiseLevel(picture), () => boundaryBand(partMask, radius + 1));
  yield;
  const guess = guessAlpha(part, partMask, radius);
  yield;
  const partSaid = said && said(edge);
  const unknown = unknownRegion(partMask, partSaid, guess, radius);
  yield;
  widenSoftEdges(part, partMask, partSaid, radius, guess, unknown);
  const fallback = softened(partMask);
  const input: MatteInput = {
    picture: part,
    mask: partMask,
    unknown,
    guess: guess.alpha,
    certainty: guess.certainty,
    fallback,
  };
  const solved = yield* matteInSteps(input);
  pasteBytes(alpha, cropBytes(solved, { ...target, x: target.x - edge.x, y: target.y - edge.y }), target.x, target.y);
  return alpha;
}

/**
 * Alpha found anew wherever `unknown` is set, from the sure pixels around it: for hair and fringe, where no boundary can be
 * told. Closed-form matting as in estimateAlpha, without leaning on the mask inside.
 * @param alpha 0..255, size of the picture; what is not unknown stays  @param unknown 0/1
 */
export function refineAlpha(picture: Rgba, alpha: Bytes, unknown: Bytes): Bytes {
  const { width, height } = picture;
  const mask = makeBytes(width, height);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = alpha.data[i]! >= 128 ? 1 : 0;
  const bounds = boundsOf(unknown);
  if (!bounds) return alpha;
  const radius = Math.max(4, Math.round(Math.min(bounds.width, bounds.height) / 3));
  const guide = withoutNoise(picture, noiseLevel(picture), () => setPixels(unknown));
  const guess = guessAlpha(guide, mask, radius, unknown);
  const solved = solveMatte({
    picture: guide,
    mask,
    unknown,
    guess: guess.alpha,
    certainty: guess.certainty,
    fallback: null,
  });
  const out = { ...alpha, data: alpha.data.slice() };
  for (const i of setPixels(unknown)) out.data[i] = solved.data[i]!;
  return out;
}

/** Noise that closed-form matting takes for itself, as its windows are regularised; above it alpha would follow the grain. */
const toleratedNoise = 1.5;

function withoutNoise(picture: Rgba, level: number, where: () => Iterable<number>): Rgba {
  return level > toleratedNoise ? denoised(picture, level, where()) : picture;
}

function setPixels({ data }: Bytes): number[] {
  const found: number[] = [];
  for (let i = 0; i < data.length; i++) if (data[i]) found.push(i);
  return found;
}

/** The mask with the softness of a sharp lens: what alpha is where the colours cannot tell. */
function softened(mask: Bytes): Plane {
  const soft = boxBlur(planeOfBytes(mask), 1);
  for (let i = 0; i < soft.data.length; i++) soft.data[i] = 0.4 * soft.data[i]! + 0.6 * mask.data[i]!;
  return soft;
}

export interface Guess {
  /** Alpha 0..1 by projecting the colour between the local means of both sides. */
  alpha: Plane;
  /** How far that can be trusted, 0..1. */
  certainty: Plane;
}

/** Local colour statistics of the sure part of one side, at half size. */
interface Side {
  mean: Plane[];
  variance: Plane;
  weight: Plane;
}

function sideStatistics(picture: Rgba, sure: Bytes, radius: number): Side {
  const { width, height } = picture;
  const weight = makePlane(width, height);
  for (let i = 0; i < weight.data.length; i++) weight.data[i] = sure.data[i]!;
  const blurredWeight = boxBlur(boxBlur(weight, radius), radius);
  const square = makePlane(width, height);
  const mean: Plane[] = [];
  for (let c = 0; c < 3; c++) {
    const plane = makePlane(width, height);
    for (let i = 0; i < plane.data.length; i++) {
      const v = (picture.data[i * 4 + c]! / 255) * weight.data[i]!;
      plane.data[i] = v;
      square.data[i] = square.data[i]! + v * v;
    }
    mean.push(boxBlur(boxBlur(plane, radius), radius));
  }
  const variance = boxBlur(boxBlur(square, radius), radius);
  for (let i = 0; i < weight.data.length; i++) {
    const w = blurredWeight.data[i]!;
    if (w < 1e-4) continue;
    let squares = 0;
    for (const plane of mean) {
      plane.data[i] = plane.data[i]! / w;
      squares += plane.data[i]! ** 2;
    }
    variance.data[i] = Math.max(0, variance.data[i]! / w - squares);
  }
  return { mean, variance, weight: blurredWeight };
}

function borrowWhereMissing(side: Side, other: () => Side): void {
  const missing: number[] = [];
  for (let i = 0; i < side.weight.data.length; i++) if (side.weight.data[i]! < faintest) missing.push(i);
  if (missing.length === 0) return;
  const { mean, variance, weight } = other();
  for (const i of missing) {
    side.weight.data[i] = weight.data[i]!;
    side.variance.data[i] = variance.data[i]!;
    side.mean.forEach((plane, c) => (plane.data[i] = mean[c]!.data[i]!));
  }
}

/** Share of sure pixels around below which a side's colours are unknown. */
const faintest = 0.004;

/** Square of a difference of colours that noise and texture make, colours 0..1. */
const likeness = 0.001;

/**
 * Alpha by where a colour lies between the mean colours of both sides nearby.
 * @param radius pixels along the boundary that are sure of neither side; colours are looked for up to three times as far beyond
 * @param unknown pixels that are sure of neither side; the band along the boundary where it is not given
 * @param mixturesOnly colours that lie beside the way from one side to the other, like a shadow's, are not sure
 */
export function guessAlpha(picture: Rgba, mask: Bytes, radius: number, unknown?: Bytes, mixturesOnly = false): Guess {
  const small = halve(picture);
  const smallMask = halveMask(mask);
  const half = Math.max(1, Math.round(radius / 2));
  const inside = makeBytes(small.width, small.height);
  const outside = makeBytes(small.width, small.height);
  for (let i = 0; i < inside.data.length; i++) {
    inside.data[i] = smallMask.data[i]!;
    outside.data[i] = 1 - smallMask.data[i]!;
  }
  const unsure = unknown ? setPixels(halveMask(unknown)) : boundaryBand(smallMask, half);
  for (const i of unsure) {
    inside.data[i] = 0;
    outside.data[i] = 0;
  }
  const front = sideStatistics(small, inside, half * 3);
  const back = sideStatistics(small, outside, half * 3);
  // A wire has no inside that is sure; there the mask itself has to do.
  borrowWhereMissing(front, () => sideStatistics(small, smallMask, half * 2));
  const alpha = makePlane(picture.width, picture.height);
  const certainty = makePlane(picture.width, picture.height);
  for (let y = 0; y < picture.height; y++) {
    for (let x = 0; x < picture.width; x++) {
      const i = y * picture.width + x;
      const s = (y >> 1) * small.width + (x >> 1);
      if (front.weight.data[s]! < faintest || back.weight.data[s]! < faintest) continue;
      let along = 0;
      let gap = 0;
      for (let c = 0; c < 3; c++) {
        const f = front.mean[c]!.data[s]!;
        const b = back.mean[c]!.data[s]!;
        along += (picture.data[i * 4 + c]! / 255 - b) * (f - b);
        gap += (f - b) ** 2;
      }
      const share = Math.max(0, Math.min(1, along / Math.max(1e-6, gap)));
      alpha.data[i] = share;
      const spread = front.variance.data[s]! + back.variance.data[s]!;
      certainty.data[i] = gap / (gap + 6 * spread + 0.004);
      if (!mixturesOnly) continue;
      let [beside, dimmed, bright] = [0, 0, 1e-6];
      for (let c = 0; c < 3; c++) {
        const b = back.mean[c]!.data[s]!;
        beside += (picture.data[i * 4 + c]! / 255 - b - share * (front.mean[c]!.data[s]! - b)) ** 2;
        dimmed += (picture.data[i * 4 + c]! / 255) * b;
        bright += b * b;
      }
      const light = Math.min(1, dimmed / bright);
      let shadow = 0;
      for (let c = 0; c < 3; c++) shadow += (picture.data[i * 4 + c]! / 255 - light * back.mean[c]!.data[s]!) ** 2;
      certainty.data[i] = certainty.data[i]! / (1 + (0.1 * beside) / (0.02 * gap + 0.001 + spread));
      // What the ground in shadow explains better than a mixture is the ground.
      certainty.data[i] = certainty.data[i]! * Math.min(1, (shadow + likeness) / (beside + likeness));
    }
  }
  return { alpha, certainty };
}

/** Widths of the band by which a sharp edge's colours may reach outwards, and a soft one's at most; see `softEdgeOf`. */
const [sharpReach, softReach] = [1, 14];

/** Makes soft edges unknown in all their width, with a guess from colours that lie beyond them. */
function widenSoftEdges(
  picture: Rgba,
  mask: Bytes,
  said: Bytes | null,
  radius: number,
  guess: Guess,
  unknown: Bytes,
): void {
  const small = halve(picture);
  const smallMask = halveMask(mask);
  const wide = guessAlpha(small, smallMask, Math.round(radius * (softReach / 4)), undefined, true);
  // What was dropped of a thing has its colours, and is no glow of it.
  const smallSaid = said && resizedMask(said, small.width, small.height);
  for (let i = 0; i < smallMask.data.length; i++) if (smallSaid?.data[i]) wide.certainty.data[i] = 0;
  const soft = softEdgeOf(smallMask, wide.alpha, wide.certainty, (radius * sharpReach) / 2, (radius * softReach) / 2);
  if (!soft) return;
  for (let y = 0, i = 0; y < mask.height; y++) {
    for (let x = 0; x < mask.width; x++, i++) {
      const s = (y >> 1) * small.width + (x >> 1);
      if (!soft.data[s] || said?.data[i]) continue;
      unknown.data[i] = 1;
      guess.alpha.data[i] = wide.alpha.data[s]!;
      guess.certainty.data[i] = wide.certainty.data[s]!;
    }
  }
}

/**
 * The band along the boundary, and what grows out of it through pixels that trustworthy colours place in between or on the
 * other side: glows, blur, strands. Growth must hang together, or every odd pebble nearby would have to be solved.
 */
function unknownRegion(mask: Bytes, said: Bytes | null, guess: Guess, radius: number): Bytes {
  const { width, height } = mask;
  const unknown = makeBytes(width, height);
  let ring = [...boundaryBand(mask, radius)].filter((i) => said?.data[i] !== 2);
  for (const i of ring) unknown.data[i] = 1;
  const doubtful = (i: number): boolean => {
    const sure = guess.certainty.data[i]!;
    return sure >= 0.6 && Math.abs(guess.alpha.data[i]! - mask.data[i]!) > (sure > 0.85 ? 0.12 : 0.45);
  };
  for (let step = 0; step < radius * 7 && ring.length > 0; step++) {
    const next: number[] = [];
    for (const i of ring) {
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i, i - width, i + width]) {
        if (j < 0 || j >= width * height || unknown.data[j] || said?.data[j] || !doubtful(j)) continue;
        unknown.data[j] = 1;
        next.push(j);
      }
    }
    ring = next;
  }
  return unknown;
}
