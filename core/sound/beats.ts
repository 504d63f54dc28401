import { noveltyRate } from './onsets.ts';

/** The tempo looked for first, beats a minute, and how far (in octaves) others are believed. */
const [usual, spread] = [120, 0.9];
const [slowest, fastest] = [50, 220];
/** How strongly beats keep their distance, against how much is new at them. */
const steadiness = 100;

export interface Beats {
  /** Beats a minute. */
  tempo: number;
  /** Seconds. */
  times: number[];
}

/**
 * Beats by dynamic programming (Ellis, Beat Tracking by Dynamic Programming, J. New Music Research 36, 2007): the tempo is that
 * at which the novelty is most like itself, weighed by how usual it is; the beats are those that meet most novelty at about
 * that distance.
 * @param novelty as `noveltyOf` gives it  @returns null where nothing repeats
 */
export function beatsOf(novelty: Float32Array): Beats | null {
  const curve = evened(novelty);
  const period = periodOf(curve);
  if (period === null) return null;
  const score = new Float64Array(curve.length);
  const from = new Int32Array(curve.length).fill(-1);
  for (let n = 0; n < curve.length; n++) {
    let best = 0;
    for (let back = Math.ceil(period / 2); back <= Math.min(n, Math.floor(period * 2)); back++) {
      const off = Math.log(back / period);
      const value = score[n - back]! - steadiness * off * off;
      if (value > best) [best, from[n]] = [value, n - back];
    }
    score[n] = curve[n]! + best;
  }
  // The last beat is the best of the last stretch in which there must be one.
  let at = curve.length - 1;
  for (let n = Math.max(0, Math.floor(curve.length - period)); n < curve.length; n++)
    if (score[n]! > score[at]!) at = n;
  const frames: number[] = [];
  for (; at >= 0; at = from[at]!) frames.unshift(at);
  const heard = frames.filter((n) => curve[n]! > -0.5);
  if (heard.length < 4) return null;
  const distances = heard.slice(1).map((n, k) => n - heard[k]!);
  const middle = distances.sort((a, b) => a - b)[distances.length >> 1]!;
  return { tempo: (60 * noveltyRate) / middle, times: heard.map((n) => n / noveltyRate) };
}

/** The novelty less what is usual around it, in units of its own spread. */
function evened(novelty: Float32Array): Float32Array {
  const reach = noveltyRate / 2;
  const sums = new Float64Array(novelty.length + 1);
  novelty.forEach((v, n) => (sums[n + 1] = sums[n]! + v));
  const out = novelty.map((v, n) => {
    const [first, end] = [Math.max(0, n - reach), Math.min(novelty.length, n + reach + 1)];
    return v - (sums[end]! - sums[first]!) / (end - first);
  });
  const spreadOf = Math.sqrt(out.reduce((sum, v) => sum + v * v, 0) / Math.max(1, out.length)) || 1;
  return out.map((v) => v / spreadOf);
}

/** Frames between two beats; null where the curve is at no distance like itself. */
function periodOf(curve: Float32Array): number | null {
  let [best, period] = [0, 0];
  const power = curve.reduce((sum, v) => sum + v * v, 0) / Math.max(1, curve.length);
  for (let lag = Math.floor((60 * noveltyRate) / fastest); lag <= (60 * noveltyRate) / slowest; lag++) {
    const count = curve.length - lag;
    if (count < lag) break;
    const octaves = Math.log2(lag / ((60 * noveltyRate) / usual)) / spread;
    const value = (alike(curve, lag) / power) * Math.exp(-0.5 * octaves * octaves);
    if (value > best) [best, period] = [value, lag];
  }
  return best > 0.1 ? period : null;
}

function alike(curve: Float32Array, lag: number): number {
  let sum = 0;
  for (let n = 0; n + lag < curve.length; n++) sum += curve[n]! * curve[n + lag]!;
  return sum / (curve.length - lag);
}
