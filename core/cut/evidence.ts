import { boxBlur } from '../pixels/filters.ts';
import { makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
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

/**
 * Log odds, 0 or more, for colours near the salient part that the likely background does not have: the plain half of a
 * striped float is not salient, but nothing behind it looks like it either.
 */
export function noveltyOf(picture: Rgba, prior: Plane): Plane {
  const { width, height, data } = picture;
  const samples: number[] = [];
  const weights: number[] = [];
  const count = width * height;
  // The surer half of the background: what is only just background may be a plain part of the subject.
  const sureBelow = Math.min(-0.5, prior.data.slice().sort()[count >> 1]!);
  for (let i = 0; i < count; i += 3) {
    if (prior.data[i]! > sureBelow) continue;
    samples.push(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
    weights.push(1);
  }
  const out = makePlane(width, height);
  if (weights.length < 50) return out;
  const behind = fitColourModel(Float32Array.from(samples), Float32Array.from(weights));
  const surprise = makePlane(width, height);
  for (let i = 0; i < count; i++)
    surprise.data[i] = -logLikelihood(behind, data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  const usual = weights
    .map((_, k) => -logLikelihood(behind, samples[k * 3]!, samples[k * 3 + 1]!, samples[k * 3 + 2]!))
    .sort((a, b) => a - b);
  const high = usual[Math.floor(usual.length * 0.97)]!;
  const spread = Math.max(1, high - usual[Math.floor(usual.length * 0.5)]!);
  const salient = makePlane(width, height);
  for (let i = 0; i < count; i++) salient.data[i] = prior.data[i]! > 0 ? 1 : 0;
  const near = boxBlur(salient, Math.round(Math.max(width, height) * 0.05));
  for (let i = 0; i < count; i++) {
    const z = (surprise.data[i]! - high) / spread;
    out.data[i] = z > 0 && near.data[i]! > 0.02 ? Math.min(6, 3 * z) : 0;
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
  const keep = geodesicDistance(picture, seeds, KEEP, 1, texture);
  const drop = geodesicDistance(picture, seeds, DROP, 1, texture);
  const reach = 90;
  const out = { ...prior, data: prior.data.slice() };
  for (let i = 0; i < out.data.length; i++) {
    out.data[i] = out.data[i]! + 7 * Math.exp(-keep.data[i]! / reach) - 7 * Math.exp(-drop.data[i]! / reach);
  }
  return out;
}

export function modelColours(picture: Rgba, mask: Bytes, seeds: Bytes, prior: Plane): ColourRatio {
  const count = mask.data.length;
  const stride = Math.max(1, Math.floor(count / 6000));
  const sides: { samples: number[]; weights: number[] }[] = [
    { samples: [], weights: [] },
    { samples: [], weights: [] },
  ];
  for (let i = 0; i < count; i += 1) {
    const seeded = seeds.data[i] !== FREE;
    if (i % stride !== 0 && !(seeded && prior.data[i]! > -4)) continue;
    const side = sides[mask.data[i]!]!;
    const sure = Math.abs(prior.data[i]!);
    side.samples.push(picture.data[i * 4]!, picture.data[i * 4 + 1]!, picture.data[i * 4 + 2]!);
    side.weights.push(seeded ? 4 : 0.3 + Math.min(1, sure / 3));
  }
  const [background, foreground] = sides as [(typeof sides)[0], (typeof sides)[0]];
  for (const side of sides) {
    // An empty side would leave its model undefined; a far-off grey stands for "unknown".
    if (side.weights.length === 0) {
      side.samples.push(128, 128, 128);
      side.weights.push(1);
    }
  }
  return new ColourRatio(
    fitColourModel(Float32Array.from(foreground.samples), Float32Array.from(foreground.weights)),
    fitColourModel(Float32Array.from(background.samples), Float32Array.from(background.weights)),
  );
}
