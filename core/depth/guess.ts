import type { Look } from '../learned/subject-networks.ts';
import { boxBlur, windowLeast } from '../pixels/filters.ts';
import { lumaOf } from '../pixels/color.ts';
import { onPlainGround, withColoursGoingOn } from '../pixels/emptiness.ts';
import { eachNeighbour } from '../pixels/neighbours.ts';
import type { Progress } from '../pixels/progress.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';
import { averagedTo, enlargedPlane } from '../pixels/resample.ts';
import { solvedSizeOf, spreadOverEdges } from './spread.ts';

/** How much each sign of distance counts, and how strongly the guess is tied to a place against what looks alike beside it. */
const weights = { ground: 0.62, haze: 0.2, sharpness: 0.18 } as const;
const tied = 0.004;
/** Closeness of what lies at the horizon. */
const atHorizon = 0.14;
/** A bit above the middle is where most pictures have their horizon. */
const usualHorizon = 0.42;

/** Closeness guessed from one picture, and where its ground seems to end. */
export interface DepthGuess {
  /** 0 farthest .. 1 nearest, at the size depth is solved at. */
  map: Plane;
  /** Share of the height from above. */
  horizon: number;
}

/**
 * Guesses how near everything in a picture is, without being told: the ground rises towards its horizon, haze hides what is
 * far (dark channel: He, Sun & Tang 2009), distance softens detail, and what networks see stands in front. All of it is joined
 * and then spread up to the picture's edges.
 * @throws Cancelled
 */
export async function guessedDepth(picture: Rgba, look: Look, progress?: Progress): Promise<DepthGuess> {
  const { width, height } = solvedSizeOf(picture);
  const small = averagedTo(withColoursGoingOn(picture), width, height);
  const luma = makePlane(width, height);
  for (let i = 0; i < luma.data.length; i++)
    luma.data[i] = lumaOf(small.data[i * 4]!, small.data[i * 4 + 1]!, small.data[i * 4 + 2]!);
  const across = horizonOf(luma);
  const sky = across === null ? openSky(small) : null;
  const horizon = across ?? sky?.ends ?? usualHorizon;
  const clear = clearnessOf(small);
  const sharp = sharpnessOf(luma);
  const seen = look(onPlainGround(picture)).map((map) => enlargedPlane(map, width, height));
  const count = width * height;
  const [wanted, tie] = [new Float32Array(count), new Float32Array(count)];
  for (let i = 0; i < count; i++) {
    const v = (Math.floor(i / width) + 0.5) / height;
    // What stands up into open sky is all as near as its foot; how high it reaches says nothing.
    const ground = sky && v < horizon && !sky.mask[i] ? atHorizon : groundAt(v, horizon);
    // Above the horizon there is no ground to speak; only what stands up into the sky may be near.
    const joined = weights.ground * ground + (weights.haze * clear.data[i]! + weights.sharpness * sharp.data[i]!) * 0.9;
    const own = Math.max(0, ...seen.map((map) => map.data[i]!));
    const closeness = Math.max(joined, own * Math.max(joined, 0.8));
    tie[i] = tied;
    wanted[i] = tied * Math.min(1, closeness);
  }
  return { map: await spreadOverEdges(small, wanted, tie, progress), horizon };
}

/** Closeness of level ground seen at a height of the picture; hardly any above its horizon. */
export function groundAt(v: number, horizon: number): number {
  if (v <= horizon) return atHorizon * (v / Math.max(0.01, horizon));
  return atHorizon + (1 - atHorizon) * ((v - horizon) / (1 - horizon));
}

/** The row, as a share of the height, across which brightness changes most evenly over the width; null if there is none. */
function horizonOf(luma: Plane): number | null {
  const { width, height } = luma;
  const calm = boxBlur(luma, Math.max(1, Math.round(height / 90)));
  const step = Math.max(2, Math.round(height / 60));
  let best = 0;
  let found: number | null = null;
  for (let y = Math.round(height * 0.15); y < height * 0.78; y++) {
    let [up, down, total] = [0, 0, 0];
    for (let x = 0; x < width; x++) {
      const change = calm.data[(y + step) * width + x]! - calm.data[(y - step) * width + x]!;
      total += Math.abs(change);
      if (change > 6) up++;
      else if (change < -6) down++;
    }
    // A horizon goes right across, from light to dark or the other way; the middle of a picture is where people put it.
    const share = Math.max(up, down) / width;
    const clear = total / width / (total / width + 20);
    const score = share * clear * (1 - 0.6 * Math.abs(y / height - 0.45));
    if (share > 0.55 && score > best) [best, found] = [score, y / height];
  }
  return found;
}

/** Difference of the strongest channel, in bytes, up to which neighbours are both open sky. */
const skySteps = 5;
/** Sky that covers less of a picture, or ends elsewhere than within these shares of the height, tells nothing of its ground. */
const leastSky = 0.2;
const skyEnds = [0.15, 0.92] as const;

/**
 * What goes over evenly from the upper border down, where that looks like sky: it ends before the picture does. Null otherwise.
 */
function openSky({ width, height, data }: Rgba): { mask: Uint8Array; ends: number } | null {
  const mask = new Uint8Array(width * height);
  const queue = Array.from({ length: width }, (_, x) => x);
  for (const x of queue) mask[x] = 1;
  const alike = (i: number, j: number): boolean => {
    for (let c = 0; c < 3; c++) if (Math.abs(data[i * 4 + c]! - data[j * 4 + c]!) > skySteps) return false;
    return true;
  };
  for (const i of queue)
    eachNeighbour(i, width, mask.length, (j) => {
      if (mask[j] || !alike(i, j)) return;
      mask[j] = 1;
      queue.push(j);
    });
  const ends = Array.from({ length: width }, (_, x) => {
    let y = height;
    while (y > 0 && !mask[(y - 1) * width + x]) y--;
    return y / height;
  }).sort((a, b) => a - b);
  const middle = ends[width >> 1]!;
  const within = middle > skyEnds[0] && middle < skyEnds[1];
  return within && queue.length >= leastSky * mask.length ? { mask, ends: middle } : null;
}

/** How little haze there is, 0..1: in clear air some channel of nearly every patch is dark. */
function clearnessOf({ width, height, data }: Rgba): Plane {
  const darkest = makePlane(width, height);
  for (let i = 0; i < darkest.data.length; i++)
    darkest.data[i] = Math.min(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!) / 255;
  const dark = windowLeast(darkest, Math.max(2, Math.round(width / 40)));
  const sorted = dark.data.slice().sort();
  const air = Math.max(0.25, sorted[Math.floor(sorted.length * 0.995)]!);
  return { width, height, data: dark.data.map((v) => 1 - 0.95 * Math.min(1, v / air)) };
}

/** How much fine detail there is around a place beside the picture's most, 0..1. */
function sharpnessOf(luma: Plane): Plane {
  const { width, height } = luma;
  const soft = boxBlur(luma, 1);
  const detail = { width, height, data: luma.data.map((v, i) => Math.abs(v - soft.data[i]!)) };
  const around = boxBlur(boxBlur(detail, Math.round(width / 40)), Math.round(width / 40));
  const sorted = around.data.slice().sort();
  const most = Math.max(0.5, sorted[Math.floor(sorted.length * 0.95)]!);
  return { width, height, data: around.data.map((v) => Math.min(1, v / most)) };
}
