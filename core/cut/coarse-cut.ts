import { makeBytes, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { averagedTo, enlargedPlane, resizedMask } from '../pixels/resample.ts';
import { ColourRatio, logLikelihood, modelOfPixels } from './colour-model.ts';
import { fadedPrior, modelColours, withStrokeInfluence } from './evidence.ts';
import { contrastScale, DROP, FREE, KEEP, solveGraphCut } from './graph-cut.ts';
import { dropWholeParts } from './strays.ts';
import { withTexture } from './texture.ts';
import { dropSpecks } from './thin-parts.ts';

/** What speaks for and against the subject before any stroke, at the coarsest level. */
export interface Evidence {
  /** Log odds a pixel. */
  prior: Plane;
  /** Log odds, 0 or more, by colours the ground does not have. */
  novelty: Plane;
  /** Share of the prior that is left when the colours have been learned, 0..1. */
  lasting: number;
}

/** The coarsest level of a picture, with what a cut of it needs. */
export interface CoarsePicture {
  picture: Rgba;
  beta: number;
  evidence: Evidence;
  /** Which texture there is at each place; null where that does not count. */
  textures: Bytes | null;
}

export interface CoarseCut {
  mask: Bytes;
  colours: ColourRatio;
}

export const smoothness = 14;

/** How many times what textures say counts, beside colours: before any stroke, and after one. */
const [textureInFirst, textureInStroke] = [3, 4];

/** The indices of so many pixels. */
export function allOf(count: number): Int32Array {
  const all = new Int32Array(count);
  for (let i = 0; i < count; i++) all[i] = i;
  return all;
}

/** Rounds of cut and colours are solved at no more than this size; the level itself is then cut once. */
const roundsEdge = 220;

/** The cut before any stroke, inside a box where there is one (as DROP seeds around it). */
export function firstCut(coarse: CoarsePicture, seeds: Bytes): CoarseCut {
  const { picture, beta, evidence, textures } = coarse;
  const { width, height } = picture;
  const count = width * height;
  const prior = withStrokeInfluence(evidence.prior, picture, seeds);
  const mask = makeBytes(width, height);
  for (let i = 0; i < count; i++)
    mask.data[i] = seeds.data[i] === FREE && prior.data[i]! + evidence.novelty.data[i]! > 0 ? 1 : 0;
  const scale = Math.min(1, roundsEdge / Math.max(width, height));
  const small =
    scale < 1 ? smallerCut({ prior, mask, seeds, picture, textures, lasting: evidence.lasting }, scale) : null;
  if (small) mask.data.set(small.data);
  const active = allOf(count);
  for (let round = small ? 3 : 0; round < 4; round++) {
    const colours = modelColours(picture, mask, seeds, prior);
    const share = shareInRound(round, evidence.lasting);
    const all = withTexture(fadedPrior(prior, share), textures, { mask, seeds, prior }, textureInFirst);
    solveGraphCut({ picture, seeds, mask, active, colours, prior: all, smoothness, beta });
  }
  dropSpecks(mask, seeds, Math.round(count * 0.0004), active);
  return { mask, colours: modelColours(picture, mask, seeds, prior) };
}

/** Evidence starts the cut; the colours it leads to then speak louder than it. */
const shareInRound = (round: number, lasting: number): number => Math.max(lasting, 1 - 0.3 * round);

interface Beginning {
  picture: Rgba;
  prior: Plane;
  mask: Bytes;
  seeds: Bytes;
  lasting: number;
  textures: Bytes | null;
}

/** The first three rounds on a smaller copy, as a mask of the size it came from. */
function smallerCut({ picture, prior, mask, seeds, lasting, textures }: Beginning, scale: number): Bytes {
  const { width, height } = picture;
  const [w, h] = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))];
  const small = averagedTo(picture, w, h);
  const smallPrior = enlargedPlane(prior, w, h);
  const smallMask = resizedMask(mask, w, h);
  const smallSeeds = resizedMask(seeds, w, h);
  const smallTextures = textures && resizedMask(textures, w, h);
  const from = { mask: smallMask, seeds: smallSeeds, prior: smallPrior };
  const active = allOf(w * h);
  const beta = contrastScale(small);
  for (let round = 0; round < 3; round++) {
    const colours = modelColours(small, smallMask, smallSeeds, smallPrior);
    const faded = fadedPrior(smallPrior, shareInRound(round, lasting));
    solveGraphCut({
      picture: small,
      seeds: smallSeeds,
      mask: smallMask,
      active,
      colours,
      prior: withTexture(faded, smallTextures, from, textureInFirst),
      smoothness,
      beta,
    });
  }
  return resizedMask(smallMask, width, height);
}

/** One stroke more: what it says, and the pixels it says it of. */
export interface StrokeSeeds {
  /** All decisions up to and with this stroke: FREE, KEEP or DROP. */
  seeds: Bytes;
  /** 1 where this stroke was drawn. */
  drawn: Bytes;
  keeps: boolean;
}

/**
 * The cut after one stroke more. A Keep stroke only adds and a Drop stroke only takes away, and only what hangs together with
 * the stroke itself: what was right elsewhere stays as it was.
 */
export function cutAfterStroke(
  { picture, beta, evidence, textures }: CoarsePicture,
  before: Bytes,
  stroke: StrokeSeeds,
): CoarseCut {
  const { seeds, drawn, keeps } = stroke;
  const count = picture.width * picture.height;
  const prior = withStrokeInfluence(evidence.prior, picture, seeds);
  const mask = { ...before, data: before.data.slice() };
  const value = keeps ? 1 : 0;
  for (let i = 0; i < count; i++) if (drawn.data[i] && seeds.data[i] === (keeps ? KEEP : DROP)) mask.data[i] = value;
  const apart = keeps ? coloursOfAnother(picture, before, drawn) : null;
  const colours = apart ?? modelColours(picture, mask, seeds, prior);
  const faded = fadedPrior(prior, apart ? evidence.lasting * anotherPrior : evidence.lasting);
  // What is there already stays for a Keep stroke, and what is not for a Drop stroke: it need not be decided again.
  const open = allOf(count).filter((i) => before.data[i] !== value);
  solveGraphCut({
    picture,
    seeds,
    mask,
    active: open,
    colours,
    prior: withTexture(faded, textures, { mask, seeds, prior }, textureInStroke),
    smoothness,
    beta,
  });
  dropSpecks(mask, seeds, Math.round(count * 0.0004), open);
  if (!keeps) keepClear(mask, before, { picture, drawn, prior, evidence: evidence.prior });
  keepConnected(mask, before, drawn);
  if (!keeps) dropWholeParts(mask, before, seeds, drawn);
  return { mask, colours };
}

/** Share of the evidence that counts for a thing that was not seen as a subject at all. */
const anotherPrior = 0.3;
/** Of the ground every so many pixels are looked at. */
const groundStride = 7;
/** Share of a stroke's pixels that may be unlike the rest of them. */
const oddShare = 0.15;
/** Share of the picture that a stroke must cover to stand for a thing by its colours; a short one points at a part. */
const leastStroke = 0.008;
/** Where less of what was left out, as a share, is unlike the stroke, colours cannot tell a thing from its ground. */
const leastGround = 0.4;

/**
 * Colours of a thing of its own that a long Keep stroke points at, apart from all that was taken: those under the stroke, against those
 * of the rest that are unlike them. The thing's colours were learned as the ground's until now, and would hold it back. Null where the
 * stroke is short or touches what was taken, or where too little is unlike it.
 */
function coloursOfAnother(picture: Rgba, before: Bytes, drawn: Bytes): ColourRatio | null {
  const under: number[] = [];
  for (let i = 0; i < drawn.data.length; i++) {
    if (!drawn.data[i]) continue;
    if (before.data[i]) return null;
    under.push(i);
  }
  if (under.length < leastStroke * drawn.data.length) return null;
  const { own, likelihood, usual } = likenessTo(picture, under);
  const ground: number[] = [];
  let left = 0;
  for (let i = 0; i < before.data.length; i += groundStride) {
    if (before.data[i]) continue;
    left++;
    if (likelihood(i) < usual) ground.push(i);
  }
  if (ground.length < leastGround * left) return null;
  return new ColourRatio(own, modelOfPixels(picture, ground));
}

/** What speaks for a place at least so clearly, in log odds, outlasts colours that a Drop stroke beside it leads to. */
const clearly = 1;
/** So much less likely than nearly all under a stroke, in logarithms, is unlike it. */
const unlike = 2;

interface DropStroke {
  picture: Rgba;
  /** 1 where it was drawn. */
  drawn: Bytes;
  /** Log odds a pixel: what speaks for the piece, and the same with what strokes say. */
  evidence: Plane;
  prior: Plane;
}

/**
 * A Drop stroke does not take away what evidence and strokes together clearly speak for, nor what evidence alone does where that is
 * unlike what was drawn on: colours are learned anew after it, and a face can become what a wall is where there are no more than greys
 * to tell them by.
 */
function keepClear(mask: Bytes, before: Bytes, { picture, drawn, evidence, prior }: DropStroke): void {
  const under: number[] = [];
  for (let i = 0; i < drawn.data.length; i++) if (drawn.data[i]) under.push(i);
  if (under.length === 0) return;
  const { likelihood, usual } = likenessTo(picture, under);
  for (let i = 0; i < mask.data.length; i++) {
    if (!before.data[i] || mask.data[i] || drawn.data[i]) continue;
    const stays = prior.data[i]! > clearly || (evidence.data[i]! > clearly && likelihood(i) < usual - unlike);
    if (stays) mask.data[i] = 1;
  }
}

/** How likely a pixel's colour is among those of some pixels, in logarithms, and what nearly all of them reach. */
function likenessTo(picture: Rgba, under: readonly number[]) {
  const { data } = picture;
  const own = modelOfPixels(picture, under);
  const likelihood = (i: number): number => logLikelihood(own, data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  const usual = under.map(likelihood).sort((a, b) => a - b)[Math.floor(oddShare * under.length)]!;
  return { own, likelihood, usual };
}

/** Takes back every change that does not hang together with the stroke. */
function keepConnected(mask: Bytes, before: Bytes, drawn: Bytes): void {
  const { width, height, data } = mask;
  const reached = new Uint8Array(data.length);
  const queue: number[] = [];
  for (let i = 0; i < data.length; i++) {
    if (!drawn.data[i]) continue;
    reached[i] = 1;
    queue.push(i);
  }
  for (let k = 0; k < queue.length; k++) {
    const [x, y] = [queue[k]! % width, Math.floor(queue[k]! / width)];
    for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
      for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        const j = v * width + u;
        if (reached[j] || data[j] === before.data[j]) continue;
        reached[j] = 1;
        queue.push(j);
      }
    }
  }
  for (let i = 0; i < data.length; i++) if (!reached[i]) data[i] = before.data[i]!;
}
