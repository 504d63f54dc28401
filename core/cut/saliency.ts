import { makePlane, type Plane } from '../pixels/raster.ts';
import { shortestPaths, type Steps } from '../pixels/shortest-paths.ts';
import { touchesOf, type Superpixels } from '../pixels/superpixels.ts';

/** Which part of a picture one press takes: everything near, or only the thing that stands out. */
export type Answer = 'foreground' | 'subject';

interface Graph {
  neighbours: number[][];
  /** Lab distance between any two superpixels, count x count. */
  colourDistance: Float32Array;
  /** Shortest colour path between any two superpixels, count x count; Infinity where it is too long to matter. */
  geodesic: Float32Array;
}

/** Colour difference (Lab units) that shading and noise alone bring about between neighbours; it costs nothing. */
const freeDifference = 3;

function buildGraph(s: Superpixels, borders: Uint8Array): Graph {
  const { count, lab } = s;
  const touching = touchesOf(s);
  for (let a = 0; a < count; a++) {
    for (let b = 0; b < a; b++) {
      if (borders[a] && borders[a] === borders[b]) touching[a * count + b] = touching[b * count + a] = 1;
    }
  }
  const colourDistance = new Float32Array(count * count);
  for (let a = 0; a < count; a++) {
    for (let b = a + 1; b < count; b++) {
      const dl = lab[a * 3]! - lab[b * 3]!;
      const da = lab[a * 3 + 1]! - lab[b * 3 + 1]!;
      const db = lab[a * 3 + 2]! - lab[b * 3 + 2]!;
      const d = Math.sqrt(dl * dl + da * da + db * db);
      colourDistance[a * count + b] = d;
      colourDistance[b * count + a] = d;
    }
  }
  const neighbours: number[][] = [];
  for (let a = 0; a < count; a++) {
    const list: number[] = [];
    for (let b = 0; b < count; b++) if (touching[a * count + b]) list.push(b);
    neighbours.push(list);
  }
  return {
    neighbours,
    colourDistance,
    geodesic: shortestPaths(shortSteps(neighbours, colourDistance, count), farthest),
  };
}

/** What is farther by colour than this belongs to nothing here: exp(-d² / 2σ²) is below 1e-4 there. */
const farthest = 30;

/** The steps from each node that are no longer than `farthest`, one after another: where they lead to, and how long they are. */
function shortSteps(neighbours: number[][], cost: Float32Array, count: number): Steps {
  const start = new Int32Array(count + 1);
  const most = neighbours.reduce((sum, list) => sum + list.length, 0);
  const [to, step] = [new Int32Array(most), new Float32Array(most)];
  let found = 0;
  for (let a = 0; a < count; a++) {
    for (const b of neighbours[a]!) {
      const length = Math.max(0, cost[a * count + b]! - freeDifference);
      if (length > farthest) continue;
      to[found] = b;
      step[found++] = length;
    }
    start[a + 1] = found;
  }
  return { start, to: to.subarray(0, found), step: step.subarray(0, found) };
}

/** Border length over root of area of the region each superpixel belongs to, for the border superpixels with `weights` above 0. */
function borderConnectivity(graph: Graph, count: number, weights: Float32Array): Float32Array {
  const sigma = 7;
  const out = new Float32Array(count);
  for (let a = 0; a < count; a++) {
    let area = 0;
    let length = 0;
    for (let b = 0; b < count; b++) {
      const similar = Math.exp(-(graph.geodesic[a * count + b]! ** 2) / (2 * sigma * sigma));
      area += similar;
      length += similar * weights[b]!;
    }
    out[a] = length / Math.sqrt(area);
  }
  return out;
}

const certainty = (connectivity: Float32Array): Float32Array => connectivity.map((c) => 1 - Math.exp(-(c * c) / 2));

function normalise(values: Float32Array): Float32Array {
  let low = Infinity;
  let high = -Infinity;
  for (const v of values) {
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return values.map((v) => (high > low ? (v - low) / (high - low) : 0));
}

/** Contrast to likely background, nearer superpixels counting more. */
function backgroundContrast(s: Superpixels, graph: Graph, background: Float32Array): Float32Array {
  const { count, centre } = s;
  const scale = Math.max(s.width, s.height);
  const out = new Float32Array(count);
  for (let a = 0; a < count; a++) {
    let sum = 0;
    for (let b = 0; b < count; b++) {
      const dx = centre[a * 2]! - centre[b * 2]!;
      const dy = centre[a * 2 + 1]! - centre[b * 2 + 1]!;
      const d = Math.sqrt(dx * dx + dy * dy) / scale;
      sum += graph.colourDistance[a * count + b]! * Math.exp(-(d * d) / (2 * 0.4 * 0.4)) * background[b]!;
    }
    // People put what they photograph near the middle more often than not.
    const offX = centre[a * 2]! / s.width - 0.5;
    const offY = centre[a * 2 + 1]! / s.height - 0.5;
    out[a] = sum * (0.55 + 0.45 * Math.exp(-(offX * offX + offY * offY) / (2 * 0.3 * 0.3)));
  }
  return normalise(out);
}

function mostSimilar(graph: Graph, count: number, a: number): number[] {
  const nearest: number[] = [];
  for (let b = 0; b < count; b++) {
    if (b === a) continue;
    const d = graph.colourDistance[a * count + b]!;
    let k = nearest.length;
    while (k > 0 && graph.colourDistance[a * count + nearest[k - 1]!]! > d) k--;
    if (k < 6) nearest.splice(k, 0, b);
    if (nearest.length > 6) nearest.pop();
  }
  return nearest;
}

/** Minimises sum bg s^2 + sum fg (1-s)^2 + sum w_ab (s_a - s_b)^2 by Gauss-Seidel; the result is within 0..1. */
function optimise(graph: Graph, count: number, background: Float32Array, foreground: Float32Array): Float32Array {
  const sigma = 10;
  const s = new Float32Array(count).fill(0.5);
  const similarity = (a: number, b: number): number =>
    Math.exp(-(graph.colourDistance[a * count + b]! ** 2) / (2 * sigma * sigma));
  // Besides its neighbours each superpixel leans on those of most similar colour anywhere: what is seen through a hole in
  // the subject looks like the background around it.
  const links = graph.neighbours.map((list, a) => [...new Set([...list, ...mostSimilar(graph, count, a)])]);
  const weights = links.map((list, a) => list.map((b) => similarity(a, b) + 0.012));
  for (let round = 0; round < 60; round++) {
    for (let a = 0; a < count; a++) {
      let top = foreground[a]!;
      let low = foreground[a]! + background[a]! + 1e-6;
      const list = links[a]!;
      const mine = weights[a]!;
      for (let k = 0; k < list.length; k++) {
        top += mine[k]! * s[list[k]!]!;
        low += mine[k]!;
      }
      s[a] = top / low;
    }
  }
  return s;
}

/** Which border each superpixel touches: 0 none, otherwise 1. Used to join the border superpixels with each other. */
function borderMembership(s: Superpixels): {
  any: Uint8Array;
  top: Float32Array;
  bottom: Float32Array;
  sides: Float32Array;
} {
  const { width, height, labels, count } = s;
  const any = new Uint8Array(count);
  const top = new Float32Array(count);
  const bottom = new Float32Array(count);
  const sides = new Float32Array(count);
  for (let x = 0; x < width; x++) {
    top[labels[x]!] = 1;
    bottom[labels[(height - 1) * width + x]!] = 1;
  }
  for (let y = 0; y < height; y++) {
    // Lower down the sides belong to the ground as often as to what lies behind it.
    const upper = Math.max(0, 1 - (y / height / 0.9) ** 2);
    for (const k of [labels[y * width]!, labels[y * width + width - 1]!]) sides[k] = Math.max(sides[k]!, upper);
  }
  for (let k = 0; k < count; k++) any[k] = top[k]! > 0 || bottom[k]! > 0 ? 1 : 0;
  for (let y = 0; y < height; y++) {
    any[labels[y * width]!] = 1;
    any[labels[y * width + width - 1]!] = 1;
  }
  return { any, top, bottom, sides };
}

/** How much finer detail a superpixel has than the picture on average, 0..1: far things lose theirs to haze and blur. */
function detailOf(s: Superpixels, luma: Plane): Float32Array {
  const { width, height, labels, count, size } = s;
  const sum = new Float32Array(count);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const d = luma.data;
      sum[labels[i]!]! += Math.abs(4 * d[i]! - d[i - 1]! - d[i + 1]! - d[i - width]! - d[i + width]!);
    }
  }
  let mean = 0;
  for (let k = 0; k < count; k++) {
    sum[k] = sum[k]! / Math.max(1, size[k]!);
    mean += sum[k]! / count;
  }
  return sum.map((v) => v / (v + mean + 1e-6));
}

/**
 * How likely each pixel belongs to what one press should take, 0..1.
 *
 * `subject` is robust background detection (Zhu, Liang, Wei & Sun 2014, "Saliency Optimization from Robust Background
 * Detection"): what is connected to all four borders is background. `foreground` treats only the upper border as
 * background and what is connected to the lower border as near; detail breaks ties, because distance softens it.
 * @param luma the picture the superpixels were made from, Rec. 709 luma 0..255
 */
export function saliencyOf(s: Superpixels, luma: Plane, answer: Answer): Plane {
  const { count } = s;
  const border = borderMembership(s);
  const ones = Float32Array.from(border.any);
  // The far answer must not let the sky leak into the ground along the joined border.
  const joined =
    answer === 'subject' ? border.any : border.top.map((t, k) => (t > 0 ? 1 : border.bottom[k]! > 0 ? 2 : 0));
  const graph = buildGraph(s, Uint8Array.from(joined));
  const background = certainty(borderConnectivity(graph, count, ones));
  const contrast = backgroundContrast(s, graph, background);
  let values: Float32Array;
  if (answer === 'subject') {
    values = optimise(graph, count, background, contrast);
  } else {
    const upper = border.top.map((t, k) => Math.max(t, border.sides[k]!));
    const far = certainty(borderConnectivity(graph, count, upper));
    const near = certainty(borderConnectivity(graph, count, border.bottom));
    const detail = detailOf(s, luma);
    const nearEvidence = new Float32Array(count);
    const farEvidence = new Float32Array(count);
    for (let k = 0; k < count; k++) {
      const depth = s.centre[k * 2 + 1]! / s.height;
      nearEvidence[k] = near[k]! * (0.5 + detail[k]!) + 0.35 * contrast[k]! * detail[k]! + 0.1 * depth * depth;
      farEvidence[k] = far[k]! * (1.5 - detail[k]!) + 0.12 * (1 - depth);
    }
    values = optimise(graph, count, farEvidence, nearEvidence);
  }
  values = normalise(values);
  const out = makePlane(s.width, s.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = values[s.labels[i]!]!;
  return out;
}
