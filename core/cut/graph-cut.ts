import type { Bytes, Plane, Rgba } from '../pixels/raster.ts';
import type { ColourRatio } from './colour-model.ts';
import { cutByKernel } from './cut-kernel.ts';
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
  /** Null where the prior says all there is to say. */
  colours: ColourRatio | null;
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
      sum += squaredGap(data, i, i + 4) + squaredGap(data, i, i + width * 4);
      n += 2;
    }
  }
  return n > 0 && sum > 0 ? n / (2 * sum) : 0.001;
}

function squaredGap(data: Uint8ClampedArray, i: number, j: number): number {
  const [r, g, b] = [data[i]! - data[j]!, data[i + 1]! - data[j + 1]!, data[i + 2]! - data[j + 2]!];
  return r * r + g * g + b * b;
}

const hard = 1e4;

/** exp(-x) for x from 0 to 8 in steps of 1/128; what is smaller does not matter beside the constant share. */
const fading = Float32Array.from({ length: 1025 }, (_, k) => 0.96 * Math.exp(-k / 128));

/** Decides the active pixels by a minimum cut (GrabCut's energy) and writes them into `mask`. */
export function solveGraphCut(input: GraphCutInput): void {
  if (input.active.length === 0) return;
  const terminals = terminalsOf(input);
  if (!cutByKernel(input, terminals, fading)) cutPlainly(input, terminals);
}

/** What speaks for each active pixel (above 0) or against it (below). */
function terminalsOf({ picture: { data }, seeds, active, colours, prior }: GraphCutInput): Float32Array {
  const terminals = new Float32Array(active.length);
  for (let k = 0; k < active.length; k++) {
    const i = active[k]!;
    const seed = seeds.data[i]!;
    if (seed !== FREE) terminals[k] = seed === KEEP ? hard : -hard;
    else {
      const byColour = colours ? colours.at(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!) : 0;
      terminals[k] = byColour + (prior ? prior.data[i]! : 0);
    }
  }
  return terminals;
}

/** The same where no kernel runs. */
function cutPlainly(input: GraphCutInput, terminals: Float32Array): void {
  const { picture, mask, active } = input;
  const node = new Int32Array(picture.width * picture.height).fill(-1);
  for (let k = 0; k < active.length; k++) node[active[k]!] = k;
  const graph = new MaxFlow(active.length, active.length * 4);
  for (let k = 0; k < active.length; k++) graph.addTerminal(k, terminals[k]!, 0);
  linkNeighbours(input, node, graph);
  graph.solve();
  for (let k = 0; k < active.length; k++) mask.data[active[k]!] = graph.inSource(k) ? 1 : 0;
}

/** Neighbours over sides and corners; those that are not active pull towards their own side. */
function linkNeighbours(input: GraphCutInput, node: Int32Array, graph: MaxFlow): void {
  const { picture, mask, active, smoothness, beta } = input;
  const { width, height, data } = picture;
  const steps = beta * 128;
  // Right, down, down right, down left; then the ways back, which matter towards pixels that are not active only.
  const across = [1, 0, 1, -1, -1, 0, -1, 1];
  const down = [0, 1, 1, 1, 0, -1, -1, -1];
  for (let k = 0; k < active.length; k++) {
    const i = active[k]!;
    const x = i % width;
    const y = (i / width) | 0;
    const p = i * 4;
    for (let way = 0; way < 8; way++) {
      const u = x + across[way]!;
      const v = y + down[way]!;
      if (u < 0 || v < 0 || u >= width || v >= height) continue;
      const j = v * width + u;
      const other = node[j]!;
      if (way > 3 && other >= 0) continue;
      const q = j * 4;
      const r = data[p]! - data[q]!;
      const g = data[p + 1]! - data[q + 1]!;
      const b = data[p + 2]! - data[q + 2]!;
      const at = (r * r + g * g + b * b) * steps;
      // The small constant keeps a contour from wandering for nothing through high contrast texture.
      const alike = 0.04 + (at < 1024 ? fading[at | 0]! : 0);
      const weight = smoothness * alike * (across[way] !== 0 && down[way] !== 0 ? Math.SQRT1_2 : 1);
      if (other >= 0) graph.addEdge(k, other, weight);
      else graph.addTerminal(k, mask.data[j] ? weight : 0, mask.data[j] ? 0 : weight);
    }
  }
}
