import type { Look } from '../learned/subject-networks.ts';
import { averagedTo, enlargedPlane } from '../pixels/resample.ts';
import {
  boundsOf,
  cropRgba,
  growRect,
  makeBytes,
  makePlane,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { above, colourGap, overlap } from './agreement.ts';
import { allOf, smoothness } from './coarse-cut.ts';
import { fadedPrior, modelColours } from './evidence.ts';
import { contrastScale, solveGraphCut } from './graph-cut.ts';
import { scaledRect } from './refine.ts';

/** Something that says where the subject is, as log odds a pixel, and how far it can be trusted. */
interface Candidate {
  prior: Plane;
  /** Log odds, 0 or more, that only help a cut to begin. */
  novelty: Plane | null;
  learned: boolean;
}

/** Candidates are judged at this size: enough to see whether a guess and the picture's edges agree. */
const judgedEdge = 128;
/** No candidate is so sure of a pixel that strokes and colours could not turn it. */
export const surest = 4;
/** How much more a better candidate counts than a worse one. */
const preference = 6;

/** What all candidates say together, and how much of it comes from saliency (0..1). */
export interface Blend {
  prior: Plane;
  salientShare: number;
}

/**
 * Joins saliency with what networks see, each as far as the picture bears it out: a guess is trusted when a cut that starts
 * from it ends where it began, when its colours differ from what is left out, and when other looks say the same.
 * @param picture the coarsest level of a picture  @param saliency log odds, and what helps it to begin, size of the picture
 * @param seenAt the same picture, larger where it is, for networks to look at
 * @param again whether what they find small is looked at again from nearer
 */
export function blendedPrior(
  picture: Rgba,
  saliency: { prior: Plane; novelty: Plane },
  seenAt: Rgba,
  look: Look,
  again: boolean,
): Blend {
  const { width, height } = picture;
  const first = look(seenAt).map((map) => logOdds(enlargedPlane(map, width, height)));
  const seen = first.length > 0 ? [...first, ...(again ? closerLook(picture, first, seenAt, look) : [])] : [];
  if (seen.length === 0) return { prior: saliency.prior, salientShare: 1 };
  const candidates: Candidate[] = [
    { ...saliency, learned: false },
    ...seen.map((prior) => ({ prior, novelty: null, learned: true })),
  ];
  const weights = weightsOf(trustIn(picture, candidates));
  const prior = makePlane(width, height);
  candidates.forEach(({ prior: { data } }, k) => {
    const weight = weights[k]!;
    for (let i = 0; i < data.length; i++) prior.data[i]! += weight * Math.max(-surest, Math.min(surest, data[i]!));
  });
  return { prior, salientShare: weights[0]! };
}

function logOdds(map: Plane): Plane {
  const data = map.data.map((value) => {
    const p = Math.max(0.02, Math.min(0.98, value));
    return Math.log(p / (1 - p));
  });
  return { ...map, data };
}

/** Networks see few pixels: what they found small is looked at again from nearer. Outside of that look nothing is the subject. */
function closerLook(picture: Rgba, first: readonly Plane[], seenAt: Rgba, look: Look): Plane[] {
  const { width, height } = picture;
  const found = makeBytes(width, height);
  for (const { data } of first) for (let i = 0; i < data.length; i++) if (data[i]! > 0) found.data[i] = 1;
  const bounds = boundsOf(found);
  const share = bounds ? (bounds.width * bounds.height) / found.data.length : 0;
  if (!bounds || share > 0.5 || share < 0.004) return [];
  const area = growRect(bounds, Math.round(0.2 * Math.max(bounds.width, bounds.height)), width, height);
  const part = cropRgba(seenAt, scaledRect(area, seenAt.width / width, seenAt));
  return look(part).map((map) => outsideOf(logOdds(enlargedPlane(map, area.width, area.height)), area, picture));
}

function outsideOf(part: Plane, area: Rect, { width, height }: Rgba): Plane {
  const out = makePlane(width, height, -surest);
  for (let y = 0; y < area.height; y++)
    out.data.set(part.data.subarray(y * area.width, (y + 1) * area.width), (area.y + y) * width + area.x);
  return out;
}

/** A number for every candidate, higher for those the picture bears out; 0 for one that takes nothing or everything. */
function trustIn(picture: Rgba, candidates: readonly Candidate[]): number[] {
  const scale = Math.min(1, judgedEdge / Math.max(picture.width, picture.height));
  const [width, height] = [Math.round(picture.width * scale), Math.round(picture.height * scale)];
  const small = averagedTo(picture, width, height);
  const beta = contrastScale(small);
  const guesses = candidates.map(({ prior }) => enlargedPlane(prior, width, height));
  const cuts = guesses.map((prior, k) => {
    const { novelty } = candidates[k]!;
    return cutFrom(small, prior, novelty && enlargedPlane(novelty, width, height), beta);
  });
  return cuts.map((cut, k) => {
    const share = cut.data.reduce((sum, v) => sum + v, 0) / cut.data.length;
    if (share < 0.004 || share > 0.97) return 0;
    const start = above(guesses[k]!, 0);
    const others = cuts.filter((_, j) => j !== k && candidates[j]!.learned && candidates[k]!.learned);
    const agreeing = others.reduce((sum, other) => sum + overlap(cut, other), 0) / Math.max(1, others.length);
    return overlap(cut, start) + 0.6 * colourGap(small, cut) + 0.25 * agreeing;
  });
}

/** Saliency against all looks together, so that many looks of one kind do not outvote it; then look against look. */
function weightsOf([salient = 0, ...learned]: readonly number[]): number[] {
  const best = Math.max(0, ...learned);
  // Nothing that can be trusted: saliency is what is left.
  if (best === 0) return [1, ...learned.map(() => 0)];
  const salientShare = salient === 0 ? 0 : 1 / (1 + Math.exp(preference * (best - salient)));
  const raw = learned.map((trust) => (trust > 0 ? Math.exp(preference * (trust - best)) : 0));
  const sum = raw.reduce((total, weight) => total + weight, 0);
  return [salientShare, ...raw.map((weight) => (weight / sum) * (1 - salientShare))];
}

/** A quick cut that starts from a guess and lets the colours it leads to speak. */
function cutFrom(picture: Rgba, prior: Plane, novelty: Plane | null, beta: number): Bytes {
  const mask = makeBytes(picture.width, picture.height);
  const seeds = makeBytes(picture.width, picture.height);
  for (let i = 0; i < mask.data.length; i++)
    mask.data[i] = prior.data[i]! + (novelty ? novelty.data[i]! : 0) > 0 ? 1 : 0;
  if (!boundsOf(mask)) return mask;
  const active = allOf(mask.data.length);
  for (const share of [1, 0.5]) {
    const colours = modelColours(picture, mask, seeds, prior);
    solveGraphCut({ picture, seeds, mask, active, colours, prior: fadedPrior(prior, share), smoothness, beta });
  }
  return mask;
}
