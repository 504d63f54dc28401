import type { Bytes, Plane, Rgba } from '../pixels/raster.ts';
import type { ColourRatio } from './colour-model.ts';
import { MaxFlow } from './max-flow.ts';

/** Values of a seed map: free to be decided, or decided by the user. */
export const FREE = 0;
export const KEEP = 1;
export const DROP = 2;

export interface GraphCutInput {
  picture: Rgba;
  /** FREE, KEEP or DROP for each pixel. */
  seeds: Bytes;
  /** The mask (0/1) so far; pixels that are not active keep theirs and act as neighbours. */
  mask: Bytes;
  /** Indices of the pixels to decide. */
  active: Int32Array;
  colours: ColourRatio;
  /** log odds of belonging to the piece, added to the colour ratio; null for none. */
  prior: Plane | null;
  /** Weight of the boundary against the colours. */
  smoothness: number;
  /** 1 / (2 mean squared colour difference of neighbours), see contrastScale. */
  beta: number;
}

/** Beta of GrabCut (Rother et al. 2004): the inverse of twice the mean squared difference between neighbouring pixels. */
export function contrastScale(picture: Rgba): number {
  const { width, height, data } = picture;
  let sum = 0;
  let n = 0;
  for (let y = 0; y + 1 < height; y += 2) {
    for (let x = 0; x + 1 < width; x += 2) {
      const i = (y * width + x) * 4;
      for (const j of [i + 4, i + width * 4]) {
        sum += (data[i]! - data[j]!) ** 2 + (data[i + 1]! - data[j + 1]!) ** 2 + (data[i + 2]! - data[j + 2]!) ** 2;
        n++;
      }
    }
  }
  return n > 0 && sum > 0 ? n / (2 * sum) : 0.001;
}

const hard = 1e4;

/** Decides the active pixels by a minimum cut (GrabCut's energy) and writes them into `mask`. */
export function solveGraphCut(input: GraphCutInput): void {
  const { picture, seeds, mask, active, colours, prior, smoothness, beta } = input;
  const { width, height, data } = picture;
  if (active.length === 0) return;
  const node = new Int32Array(width * height).fill(-1);
  for (let k = 0; k < active.length; k++) node[active[k]!] = k;
  const graph = new MaxFlow(active.length, active.length * 4);

  const link = (i: number, j: number, diagonal: boolean): void => {
    const a = node[i]!;
    const b = node[j]!;
    if (a < 0 && b < 0) return;
    const p = i * 4;
    const q = j * 4;
    const d = (data[p]! - data[q]!) ** 2 + (data[p + 1]! - data[q + 1]!) ** 2 + (data[p + 2]! - data[q + 2]!) ** 2;
    // The small constant keeps a contour from wandering for nothing through high contrast texture.
    const w = smoothness * (0.04 + 0.96 * Math.exp(-beta * d)) * (diagonal ? Math.SQRT1_2 : 1);
    if (a >= 0 && b >= 0) graph.addEdge(a, b, w);
    else if (a >= 0) graph.addTerminal(a, mask.data[j] ? w : 0, mask.data[j] ? 0 : w);
    else graph.addTerminal(b, mask.data[i] ? w : 0, mask.data[i] ? 0 : w);
  };

  for (let k = 0; k < active.length; k++) {
    const i = active[k]!;
    const seed = seeds.data[i]!;
    if (seed === KEEP) graph.addTerminal(k, hard, 0);
    else if (seed === DROP) graph.addTerminal(k, 0, hard);
    else {
      const odds = colours.at(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!) + (prior ? prior.data[i]! : 0);
      graph.addTerminal(k, Math.max(0, odds), Math.max(0, -odds));
    }
    const x = i % width;
    const y = (i / width) | 0;
    // Each pair once: forward neighbours always, backward ones only towards pixels that are not active.
    if (x + 1 < width) link(i, i + 1, false);
    if (y + 1 < height) link(i, i + width, false);
    if (y + 1 < height && x + 1 < width) link(i, i + width + 1, true);
    if (y + 1 < height && x > 0) link(i, i + width - 1, true);
    if (x > 0 && node[i - 1]! < 0) link(i, i - 1, false);
    if (y > 0 && node[i - width]! < 0) link(i, i - width, false);
    if (y > 0 && x > 0 && node[i - width - 1]! < 0) link(i, i - width - 1, true);
    if (y > 0 && x + 1 < width && node[i - width + 1]! < 0) link(i, i - width + 1, true);
  }
  graph.solve();
  for (let k = 0; k < active.length; k++) mask.data[active[k]!] = graph.inSource(k) ? 1 : 0;
}
