import { boxBlur } from '../pixels/filters.ts';
import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { brightness } from '../pixels/slopes.ts';
import { sampleWeight } from './evidence.ts';

/** Steps of each of the two numbers that a texture is told by. */
const steps = 16;
/** Relative changes of brightness from one pixel to the next but one: the faintest that is told from none, and how many times more each step is. */
const [faintest, stepFactor] = [0.006, 1.35];
/** Added to brightness 0..255: in the dark noise is no texture. */
const dark = 10;
/** A channel counts as it is. */
const asItIs = Float32Array.from({ length: 256 }, (_, v) => v / 255);
/** Share of the picture's longer side around a place that is looked at. */
const reach = 0.006;

/**
 * Which texture there is at each place: how much brightness changes along rows, and how much down columns, around it, as one
 * of 256 cells (the diagonal of the structure tensor, in logarithms).
 * After Han and others 2009, "Image segmentation based on GrabCut framework integrating multiscale nonlinear structure tensor".
 * @param seen a picture fine enough to show its texture  @param size of what is returned, no larger than it
 */
export function texturesOf(seen: Rgba, size: { width: number; height: number }): Bytes {
  const { width, height } = size;
  const radius = Math.max(1, Math.round(reach * Math.max(width, height)));
  const light = brightness(seen, asItIs);
  const [across, down] = ([1, seen.width] as const).map((step) =>
    boxBlur(boxBlur(changesIn(light, step, size), radius), radius),
  ) as [Plane, Plane];
  const out = makeBytes(width, height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = stepOf(across.data[i]!) * steps + stepOf(down.data[i]!);
  return out;
}

/**
 * The mean of relative differences of what lies on both sides of the pixels that each pixel of a smaller size covers.
 * @param step from a pixel to the next one that way
 */
function changesIn({ width, height, data }: Plane, step: number, size: { width: number; height: number }): Plane {
  const out = makePlane(size.width, size.height);
  const counts = new Int32Array(out.data.length);
  const columns = Int32Array.from({ length: width }, (_, x) => Math.floor(((x + 0.5) * size.width) / width));
  // Of many rows that become one every other says enough.
  const stride = Math.max(1, Math.floor(height / size.height / 2));
  for (let y = 1; y < height - 1; y += stride) {
    const row = Math.floor(((y + 0.5) * size.height) / height) * size.width;
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
      const [before, after] = [data[i - step]!, data[i + step]!];
      const cell = row + columns[x]!;
      out.data[cell]! += (2 * Math.abs(after - before)) / (after + before + 2 * dark);
      counts[cell]!++;
    }
  }
  for (let k = 0; k < counts.length; k++) out.data[k]! /= Math.max(1, counts[k]!);
  return out;
}

const stepOf = (change: number): number =>
  Math.max(0, Math.min(steps - 1, Math.floor(Math.log(change / faintest + 1e-9) / Math.log(stepFactor))));

/** Log odds that a texture counts at most, one way or the other. */
const mostOdds = 3;

/** A mask that textures are learned from; all of one size. */
export interface LearnedFrom {
  /** 0/1. */
  mask: Bytes;
  /** Decisions of the user, which count more. */
  seeds: Bytes;
  /** Log odds; what is surer by them counts more. */
  prior: Plane;
}

/** Log odds of belonging to a mask for each texture, by how often it is met inside and outside; 0 where one side is empty. */
export function textureOdds(textures: Bytes, { mask, seeds, prior }: LearnedFrom): Float32Array {
  const counts = [new Float64Array(steps * steps), new Float64Array(steps * steps)] as const;
  for (let i = 0; i < mask.data.length; i++)
    counts[mask.data[i] as 0 | 1][textures.data[i]!]! += sampleWeight(seeds.data[i]!, prior.data[i]!);
  if (counts.some((side) => !side.some((v) => v > 0))) return new Float32Array(steps * steps);
  const [outside, inside] = counts.map(sharesOf) as [Float64Array, Float64Array];
  return Float32Array.from(inside, (v, k) => Math.max(-mostOdds, Math.min(mostOdds, Math.log(v / outside[k]!))));
}

/**
 * A prior with what textures say of each place, so many times, where they count. Against the evidence they speak for the mask only as far
 * as what is around a place lies on its side: in a gap between two legs the texture is that of their edges.
 */
export function withTexture(prior: Plane, textures: Bytes | null, from: LearnedFrom, times: number): Plane {
  if (!textures) return prior;
  const odds = textureOdds(textures, from);
  const pure = purityOf(from.prior);
  const said = (i: number): number => {
    const own = odds[textures.data[i]!]!;
    return own > 0 && from.prior.data[i]! < 0 ? own * pure.data[i]! : own;
  };
  return { ...prior, data: prior.data.map((v, i) => v + times * said(i)) };
}

/** How much of what is around each place lies on its own side by the prior, 0 for half of it .. 1 for all. */
function purityOf(prior: Plane): Plane {
  const { width, height, data } = prior;
  const radius = Math.max(1, Math.round(reach * Math.max(width, height)));
  const inside = makePlane(width, height);
  for (let i = 0; i < data.length; i++) inside.data[i] = data[i]! > 0 ? 1 : 0;
  const share = boxBlur(boxBlur(inside, radius), radius);
  for (let i = 0; i < data.length; i++) {
    const own = inside.data[i] ? share.data[i]! : 1 - share.data[i]!;
    share.data[i] = Math.max(0, 2 * own - 1);
  }
  return share;
}

/** What is never met is still not impossible: a share of all for each texture. */
const neverMet = 0.002;

/** The share of each texture, its neighbours counting for it too. */
function sharesOf(counts: Float64Array): Float64Array {
  const spread = smoothed(smoothed(counts, 1), steps);
  const total = spread.reduce((sum, v) => sum + v, 0);
  return spread.map((v) => (v / total + neverMet) / (1 + neverMet * steps * steps));
}

const weights = [1, 4, 6, 4, 1];

/** Binomial means along one of the two numbers. @param way from one cell to the next: 1 or `steps` */
function smoothed(counts: Float64Array, way: number): Float64Array {
  return counts.map((_, k) => {
    const place = way === 1 ? k % steps : Math.floor(k / steps);
    let sum = 0;
    for (let n = -2; n <= 2; n++)
      if (place + n >= 0 && place + n < steps) sum += (weights[n + 2]! / 16) * counts[k + n * way]!;
    return sum;
  });
}
