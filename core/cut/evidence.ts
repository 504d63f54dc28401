import { boxCounts } from '../pixels/filters.ts';
import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { Gathered } from './colour-clusters.ts';
import { ColourRatio, fitColourModel, logLikelihood } from './colour-model.ts';
import { geodesicDistance } from './geodesic.ts';
import { DROP, FREE, KEEP } from './graph-cut.ts';

const priorWeight = 1.6;

/** Log odds with zero at the threshold that splits the values best (Otsu 1979). */
export function centredLogOdds(saliency: Plane): Plane {
  const histogram = new Float64Array(256);
  for (const v of saliency.data) histogram[Math.min(255, Math.floor(v * 255.99))]! += 1;
  const total = saliency.data.length;
  let sum = 0;
  for (let k = 0; k < 256; k++) sum += k * histogram[k]!;
  let below = 0;
  let sumBelow = 0;
  let best = -1;
  let threshold = 0.5;
  let first = 0;
  for (let k = 0; k < 255; k++) {
    below += histogram[k]!;
    sumBelow += k * histogram[k]!;
    if (below === 0 || below === total) continue;
    const gap = sumBelow / below - (sum - sumBelow) / (total - below);
    const variance = below * (total - below) * gap * gap;
    // With two clear heaps every threshold between them is as good; the middle one is meant.
    if (variance > best * (1 + 1e-9)) {
      best = variance;
      first = k;
      threshold = (k + 1) / 256;
    } else if (variance > best * (1 - 1e-9)) threshold = ((first + k) / 2 + 1) / 256;
  }
  const zero = Math.log(threshold / (1 - threshold));
  const out = makePlane(saliency.width, saliency.height);
  for (let i = 0; i < out.data.length; i++) {
    const p = Math.max(0.02, Math.min(0.98, saliency.data[i]!));
    out.data[i] = priorWeight * (Math.log(p / (1 - p)) - zero);
  }
  return out;
}

const colourAt = (colours: Float32Array, k: number) =>
  [colours[k * 3]!, colours[k * 3 + 1]!, colours[k * 3 + 2]!] as const;

/**
 * Log odds, 0 or more, for colours near the salient part that the likely background does not have: the plain half of a
 * striped float is not salient, but nothing behind it looks like it either.
 */
export function noveltyOf(picture: Rgba, prior: Plane): Plane {
  const { width, height, data } = picture;
  const count = width * height;
  const samples = new Gathered(Math.ceil(count / 3));
  // The surer half of the background: what is only just background may be a plain part of the subject.
  const sureBelow = Math.min(-0.5, prior.data.slice().sort()[count >> 1]!);
  for (let i = 0; i < count; i += 3) {
    if (prior.data[i]! > sureBelow) continue;
    samples.add(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!, 1);
  }
  const out = makePlane(width, height);
  const { colours, weights } = samples;
  if (weights.length < 50) return out;
  const behind = fitColourModel(samples);
  const surprise = makePlane(width, height);
  for (let i = 0; i < count; i++)
    surprise.data[i] = -logLikelihood(behind, data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  const usual = Float64Array.from(weights, (_, k) => -logLikelihood(behind, ...colourAt(colours, k))).sort();
  const high = usual[Math.floor(usual.length * 0.97)]!;
  const spread = Math.max(1, high - usual[Math.floor(usual.length * 0.5)]!);
  const salient = makeBytes(width, height);
  for (let i = 0; i < count; i++) salient.data[i] = prior.data[i]! > 0 ? 1 : 0;
  const reach = Math.round(Math.max(width, height) * 0.05);
  const near = boxCounts(salient, reach);
  for (let i = 0; i < count; i++) {
    const z = (surprise.data[i]! - high) / spread;
    out.data[i] = z > 0 && near[i]! > 0.02 * (2 * reach + 1) ** 2 ? Math.min(6, 3 * z) : 0;
  }
  return out;
}

export const fadedPrior = (prior: Plane, share: number): Plane => ({
  ...prior,
  data: prior.data.map((v) => v * share),
});

/** Colours that differ no more than this from pixel to pixel are texture, noise or a slow change: a stroke speaks for all of it. */
const texture = 16;

/** Strokes speak for their surroundings too, fading with the colour distance from them. */
export function withStrokeInfluence(prior: Plane, picture: Rgba, seeds: Bytes): Plane {
  const out = { ...prior, data: prior.data.slice() };
  if (!seeds.data.includes(KEEP) && !seeds.data.includes(DROP)) return out;
  const keep = geodesicDistance(picture, seeds, KEEP, 1, texture);
  const drop = geodesicDistance(picture, seeds, DROP, 1, texture);
  const reach = 90;
  for (let i = 0; i < out.data.length; i++) {
    out.data[i] = out.data[i]! + 7 * Math.exp(-keep.data[i]! / reach) - 7 * Math.exp(-drop.data[i]! / reach);
  }
  return out;
}

/** How much a pixel says of its side: decisions of the user most, then what is sure anyhow. */
export const sampleWeight = (seed: number, prior: number): number =>
  seed !== FREE ? 4 : 0.3 + Math.min(1, Math.abs(prior) / 3);

/** About so many pixels are looked at to learn the colours of both sides; those with a stroke on them all are. */
const looked = 6000;

/** What tells the colours inside a mask from those outside. */
export function modelColours(picture: Rgba, mask: Bytes, seeds: Bytes, prior: Plane): ColourRatio {
  const { data } = picture;
  const count = mask.data.length;
  const stride = Math.max(1, Math.floor(count / looked));
  let most = Math.ceil(count / stride);
  for (const seed of seeds.data) if (seed !== FREE) most++;
  const sides = [new Gathered(most), new Gathered(most)] as const;
  for (let i = 0; i < count; i++) {
    const seeded = seeds.data[i] !== FREE;
    if (i % stride !== 0 && !(seeded && prior.data[i]! > -4)) continue;
    const weight = sampleWeight(seeds.data[i]!, prior.data[i]!);
    sides[mask.data[i]! as 0 | 1].add(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!, weight);
  }
  // An empty side would leave its model undefined; a far-off grey stands for "unknown".
  for (const side of sides) if (side.isEmpty) side.add(128, 128, 128, 1);
  const [background, foreground] = sides;
  return new ColourRatio(fitColourModel(foreground), fitColourModel(background));
}
