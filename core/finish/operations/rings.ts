import type { FinishPixels } from '../finish.ts';
import { middleOf, type Point } from './middle.ts';
import { kernelOf, laid } from './memory.ts';
import { addPremultiplied, writePremultiplied } from './premultiplied.ts';

/** Pixels beyond a picture's border whose places on rings are asked for when rings are mixed. */
const margin = 1.5;

/** Means about this many angles for each width of the mean: what has been averaged over it changes no faster. */
const anglesInMean = 16;
/** Bytes for rings that are laid out side by side, as many as fit and no more than these. */
const blockBytes = 3e6;
const mostInBlock = 32;

/** Rings of whole radii about a point, one value a pixel of their length, and where they lie in a picture. */
interface Rings {
  least: number;
  count: number;
  /** Values all the way round, of each ring. */
  around: Int32Array;
  /** Of each quarter of each ring, the part of it that lies in the picture: number of the first value and how many. */
  arcs: Int32Array;
  /** Of each ring: cosine and sine of a step, then of the first value of each quarter. */
  turns: Float64Array;
}

/** The angles at which means are kept, in turns: those under which a picture is seen, in equal steps. */
interface Angles {
  from: number;
  span: number;
  steps: number;
}

/** In quarter `q` of a turn, (dx, dy) is turned back into the first: both are then positive there. */
const turnedBack = (q: number, dx: number, dy: number): [number, number] =>
  q === 0 ? [dx, dy] : q === 1 ? [dy, -dx] : q === 2 ? [-dx, -dy] : [-dy, dx];

/** Corners of a picture as seen from a point, in a quarter's own axes: least and greatest, none below 0. */
function cornersIn(q: number, width: number, height: number, { x, y }: Point): number[] {
  const one = turnedBack(q, -margin - x, -margin - y);
  const other = turnedBack(q, width - 1 + margin - x, height - 1 + margin - y);
  const [u, v] = [0, 1].map((k) => [Math.min(one[k]!, other[k]!), Math.max(one[k]!, other[k]!)]) as [
    number[],
    number[],
  ];
  return [Math.max(0, u[0]!), u[1]!, Math.max(0, v[0]!), v[1]!];
}

/** From which angle to which a ring lies between corners, within the first quarter. */
function angles(radius: number, [u0, u1, v0, v1]: readonly number[]): [number, number] | null {
  if (u1! < 0 || v1! < 0 || u0! > radius || v0! > radius) return null;
  const share = (side: number): number => Math.min(1, side / Math.max(radius, 1e-9));
  const from = Math.max(Math.acos(share(u1!)), Math.asin(share(v0!)));
  const to = Math.min(Math.acos(share(u0!)), Math.asin(share(v1!)));
  return from <= to ? [from, to] : null;
}

function ringsOf(width: number, height: number, centre: Point): Rings {
  const { x, y } = centre;
  const away = [Math.max(0, -x, x - (width - 1)), Math.max(0, -y, y - (height - 1))] as const;
  const least = Math.max(0, Math.floor(Math.hypot(...away)) - 1);
  const most = Math.ceil(Math.hypot(Math.max(x, width - 1 - x), Math.max(y, height - 1 - y))) + 1;
  const count = most - least + 1;
  const rings = { least, count, around: new Int32Array(count), arcs: new Int32Array(count * 8) };
  const turns = new Float64Array(count * 10);
  const quarters = [0, 1, 2, 3].map((q) => cornersIn(q, width, height, centre));
  for (let n = 0; n < count; n++) {
    const around = (rings.around[n] = Math.max(8, Math.ceil(2 * Math.PI * (least + n))));
    const step = (2 * Math.PI) / around;
    turns.set([Math.cos(step), Math.sin(step)], n * 10);
    for (let q = 0; q < 4; q++) {
      const part = angles(least + n, quarters[q]!);
      if (!part) continue;
      const first = Math.floor(((q * Math.PI) / 2 + part[0]) / step) - 1;
      rings.arcs.set([first, Math.ceil(((q * Math.PI) / 2 + part[1]) / step) + 2 - first], n * 8 + q * 2);
      turns.set([Math.cos(first * step), Math.sin(first * step)], n * 10 + 2 + q * 2);
    }
  }
  return { ...rings, turns };
}

/** From and over which share of a turn a picture is seen. */
function seenFrom({ x, y }: Point, width: number, height: number): { from: number; span: number } {
  const inside = x > -margin && y > -margin && x < width - 1 + margin && y < height - 1 + margin;
  if (inside) return { from: 0, span: 1 };
  const angleTo = (u: number, v: number): number => Math.atan2(v - y, u - x) / (2 * Math.PI);
  const towards = angleTo((width - 1) / 2, (height - 1) / 2);
  const [left, top, right, bottom] = [-margin, -margin, width - 1 + margin, height - 1 + margin];
  const corners = [angleTo(left, top), angleTo(right, top), angleTo(left, bottom), angleTo(right, bottom)];
  const beside = corners.map((turn) => turn - towards - Math.round(turn - towards));
  return { from: towards + Math.min(...beside), span: Math.max(...beside) - Math.min(...beside) };
}

function anglesOf(centre: Point, { width, height }: FinishPixels, rings: Rings, radians: number): Angles {
  const { from, span } = seenFrom(centre, width, height);
  const enough = Math.min(rings.around.at(-1)!, (anglesInMean * 2 * Math.PI) / radians);
  // Not many more values than the picture has pixels.
  const room = (3 * width * height) / rings.count;
  return { from, span, steps: Math.max(16, Math.ceil(Math.min(room, enough * span))) };
}

/**
 * The mean of a picture turned about a point, over an angle, in the same time for every angle: pixels are laid out as rings,
 * sums along each give the mean about any angle, and pixels are read from the two rings beside them. Outside is nothing.
 * @param about a point, in pixels  @param radians 0..pi
 */
export function averagedRound(pixels: FinishPixels, about: Point, radians: number): void {
  const { data, width, height } = pixels;
  const centre = middleOf(about, pixels);
  const rings = ringsOf(width, height, centre);
  if ((rings.least + rings.count) * radians <= 1) return;
  const seen = anglesOf(centre, pixels, rings, radians);
  const kernel = kernelOf(data);
  const longest = rings.around.at(-1)! + 4;
  const block = Math.max(1, Math.min(mostInBlock, Math.floor(blockBytes / (longest * 8))));
  const tables = [rings.around, rings.arcs, rings.turns];
  const sizes = [
    (width + 2) * (height + 2) * 8,
    rings.count * (seen.steps + 2) * 8,
    block * (longest * 8 + 16) + (longest + 1) * 16,
  ];
  const byKernel = (...addresses: number[]): void => {
    const [around, arcs, turns, from, store, room] = addresses as [number, number, number, number, number, number];
    const { x, y } = centre;
    const which = [rings.least, rings.count, around, arcs, turns];
    const angles = [seen.from, seen.span, seen.steps];
    kernel!.toFine(data.byteOffset, width, height, from);
    kernel!.layRings(from, width, height, x, y, ...which, ...angles, store, radians, block, longest, room);
    kernel!.fromRings(store, rings.least, ...angles, x, y, width, height, room, data.byteOffset);
  };
  if (kernel && laid([...tables, ...sizes], byKernel)) return;
  const sum = new Float32Array(data.length);
  addPremultiplied(sum, data, 1);
  const means = layRings({ data: sum, width, height }, centre, rings, seen, radians);
  fromRings(means, rings, centre, seen, { data: sum, width, height });
  writePremultiplied(data, sum, width);
}

/** Four numbers a pixel. */
interface Sum {
  data: Float32Array;
  width: number;
  height: number;
}

/** Of each ring the means about every angle. */
function layRings(sum: Sum, centre: Point, rings: Rings, { from, span, steps }: Angles, radians: number): Float32Array {
  const means = new Float32Array(rings.count * (steps + 2) * 4);
  for (let n = 0; n < rings.count; n++) {
    const around = rings.around[n]!;
    const [radius, step] = [rings.least + n, (2 * Math.PI) / around];
    const line = new Float64Array(around * 4);
    for (let q = 0; q < 4; q++) {
      const [first, count] = rings.arcs.subarray(n * 8 + q * 2);
      for (let k = first!; k < first! + count!; k++) {
        const value = sampled(sum, centre.x + radius * Math.cos(k * step), centre.y + radius * Math.sin(k * step));
        line.set(value, (((k % around) + around) % around) * 4);
      }
    }
    const length = Math.max(1, (radians / (2 * Math.PI)) * around);
    for (let c = 0; c < 4; c++) {
      const before = sumsAlong(line, c, around);
      for (let k = 0; k < steps + 2; k++) {
        const place = (from + (k * span) / steps) * around + 0.5;
        means[(n * (steps + 2) + k) * 4 + c] = (before(place + length / 2) - before(place - length / 2)) / length;
      }
    }
  }
  return means;
}

/** The sum of a closed line from its start to a place. */
function sumsAlong(line: Float64Array, channel: number, around: number): (place: number) => number {
  const sums = [0];
  for (let k = 0; k < around; k++) sums.push(sums[k]! + line[k * 4 + channel]!);
  return (place) => {
    const rounds = Math.floor(place / around);
    const k = Math.min(around - 1, Math.floor(place - rounds * around));
    return rounds * sums[around]! + sums[k]! + (sums[k + 1]! - sums[k]!) * (place - rounds * around - k);
  };
}

/** Between four pixels; clear outside. */
function sampled({ data, width, height }: Sum, x: number, y: number): Float64Array {
  const [u, v] = [Math.floor(x), Math.floor(y)];
  const out = new Float64Array(4);
  for (let n = 0; n < 4; n++) {
    const [px, py] = [u + (n & 1), v + (n >> 1)];
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const weight = (n & 1 ? x - u : 1 - (x - u)) * (n >> 1 ? y - v : 1 - (y - v));
    for (let c = 0; c < 4; c++) out[c] = out[c]! + data[(py * width + px) * 4 + c]! * weight;
  }
  return out;
}

/** Pixels from the two rings and the two angles beside them. */
function fromRings(means: Float32Array, rings: Rings, centre: Point, { from, span, steps }: Angles, to: Sum): void {
  for (let y = 0, i = 0; y < to.height; y++)
    for (let x = 0; x < to.width; x++, i += 4) {
      const away = Math.hypot(x - centre.x, y - centre.y) - rings.least;
      const turn = Math.atan2(y - centre.y, x - centre.x) / (2 * Math.PI) - from;
      const place = ((turn - Math.floor(turn)) / span) * steps;
      const [ring, k] = [Math.floor(away), Math.min(steps, Math.floor(place))];
      const at = (n: number, c: number): number => {
        const near = (n * (steps + 2) + k) * 4 + c;
        return means[near]! + (means[near + 4]! - means[near]!) * (place - k);
      };
      for (let c = 0; c < 4; c++) to.data[i + c] = at(ring, c) + (at(ring + 1, c) - at(ring, c)) * (away - ring);
    }
}
