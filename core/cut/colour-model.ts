import type { Rgba } from '../pixels/raster.ts';
import {
  componentLog,
  Gathered,
  numbersEach,
  PlainClusters,
  type ClusterWork,
  type Samples,
} from './colour-clusters.ts';
import { KernelClusters } from './cut-kernel.ts';

/**
 * A Gaussian mixture over RGB bytes with full covariances, fitted as GrabCut does (Rother, Kolmogorov & Blake 2004):
 * components split along the widest axis (Orchard & Bouman 1991), then hard assignments re-fitted a few times.
 */
export interface ColourModel {
  /** Per component: mean (3), inverse covariance upper triangle (6), log of weight over normalisation (1). */
  parameters: Float64Array;
  components: number;
}

interface Moments {
  weight: number;
  mean: [number, number, number];
  /** xx, xy, xz, yy, yz, zz */
  covariance: [number, number, number, number, number, number];
}

function momentsFrom(sums: Float64Array): Moments {
  const weight = sums[0]!;
  const [, x, y, z, xx, xy, xz, yy, yz, zz] = Array.from(sums, (sum) => sum / Math.max(weight, 1e-6)) as Ten;
  return {
    weight,
    mean: [x, y, z],
    covariance: [xx - x * x, xy - x * y, xz - x * z, yy - y * y, yz - y * z, zz - z * z],
  };
}

type Ten = [number, number, number, number, number, number, number, number, number, number];

/** Largest eigenvalue and its vector by power iteration; enough to choose where to split. */
function principalAxis(c: Moments['covariance']): { value: number; axis: [number, number, number] } {
  let axis: [number, number, number] = [0.577, 0.578, 0.576];
  let value = 0;
  for (let i = 0; i < 12; i++) {
    const x = c[0] * axis[0] + c[1] * axis[1] + c[2] * axis[2];
    const y = c[1] * axis[0] + c[3] * axis[1] + c[4] * axis[2];
    const z = c[2] * axis[0] + c[4] * axis[1] + c[5] * axis[2];
    value = Math.hypot(x, y, z);
    if (value < 1e-9) break;
    axis = [x / value, y / value, z / value];
  }
  return { value, axis };
}

/** Sensor noise and compression spread every colour at least this much (variance in squared bytes). */
const varianceFloor = 12;

function writeComponent(out: Float64Array, at: number, moments: Moments, total: number): void {
  const [a0, b, c, d0, e, f0] = moments.covariance;
  const a = a0 + varianceFloor;
  const d = d0 + varianceFloor;
  const f = f0 + varianceFloor;
  const determinant = a * (d * f - e * e) - b * (b * f - c * e) + c * (b * e - c * d);
  const inverse = 1 / determinant;
  out.set(moments.mean, at);
  out[at + 3] = (d * f - e * e) * inverse;
  out[at + 4] = (c * e - b * f) * inverse;
  out[at + 5] = (b * e - c * d) * inverse;
  out[at + 6] = (a * f - c * c) * inverse;
  out[at + 7] = (b * c - a * e) * inverse;
  out[at + 8] = (a * d - b * b) * inverse;
  out[at + 9] = Math.log(Math.max(1e-9, moments.weight / total)) - 0.5 * Math.log(determinant);
}

/**
 * Fits a model.
 * @param components at most this many
 */
export function fitColourModel(samples: Samples, components = 5): ColourModel {
  const work = KernelClusters.of(samples) ?? new PlainClusters(samples);
  let clusters = momentsOf(work, 1);
  while (clusters.length < components) {
    let widest = -1;
    let best = varianceFloor;
    clusters.forEach((m, index) => {
      const { value } = principalAxis(m.covariance);
      if (m.weight > 8 && value * m.weight > best) {
        best = value * m.weight;
        widest = index;
      }
    });
    if (widest < 0) break;
    const { mean, covariance } = clusters[widest]!;
    work.split(widest, clusters.length, [...mean, ...principalAxis(covariance).axis]);
    clusters = momentsOf(work, clusters.length + 1);
  }
  return refit(work, clusters);
}

const momentsOf = (work: ClusterWork, clusters: number): Moments[] => {
  const sums = work.sums(clusters);
  return Array.from({ length: clusters }, (_, k) => momentsFrom(sums.subarray(k * numbersEach, (k + 1) * numbersEach)));
};

function refit(work: ClusterWork, begun: Moments[]): ColourModel {
  const components = begun.length;
  const parameters = new Float64Array(components * numbersEach);
  let clusters = begun;
  for (let round = 0; ; round++) {
    const total = clusters.reduce((sum, m) => sum + m.weight, 0);
    clusters.forEach((m, index) => writeComponent(parameters, index * numbersEach, m, total));
    if (round === 2) return { parameters, components };
    work.assign(parameters);
    clusters = momentsOf(work, components);
  }
}

/** A model of some of a picture's pixels, all alike. @param pixels their indices */
export function modelOfPixels({ data }: Rgba, pixels: readonly number[]): ColourModel {
  const samples = new Gathered(pixels.length);
  for (const i of pixels) samples.add(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!, 1);
  return fitColourModel(samples);
}

/** Log-likelihood of a colour, up to a constant that is the same for all models. */
export function logLikelihood(model: ColourModel, r: number, g: number, b: number): number {
  let best = -Infinity;
  let sum = 0;
  for (let k = 0; k < model.components; k++) {
    const v = componentLog(model.parameters, k * numbersEach, r, g, b);
    if (v > best) {
      sum = sum * Math.exp(best - v) + 1;
      best = v;
    } else {
      sum += Math.exp(v - best);
    }
  }
  return best + Math.log(sum);
}

/**
 * log p(foreground) - log p(background) for any colour, remembered in a 32x32x32 table of colours (steps of 8), filled
 * as colours are met: a picture meets only a small part of it, and every pixel after the first costs one look-up.
 */
export class ColourRatio {
  private readonly table = new Float32Array(32768).fill(NaN);

  constructor(
    private readonly foreground: ColourModel,
    private readonly background: ColourModel,
  ) {}

  at(r: number, g: number, b: number): number {
    const cell = ((r >> 3) << 10) | ((g >> 3) << 5) | (b >> 3);
    const known = this.table[cell]!;
    if (known === known) return known;
    const [cr, cg, cb] = [(r & 248) + 3.5, (g & 248) + 3.5, (b & 248) + 3.5];
    const value = logLikelihood(this.foreground, cr, cg, cb) - logLikelihood(this.background, cr, cg, cb);
    // Far from every component both likelihoods are meaningless; a bound keeps such colours from outvoting edges.
    const bounded = Math.max(-12, Math.min(12, value));
    this.table[cell] = bounded;
    return bounded;
  }
}
