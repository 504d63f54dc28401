import type { FinishPixels } from '../finish.ts';
import { extentOf, pairsOf, partOf } from './fine-pictures.ts';
import { middleOf, type Point } from './middle.ts';
import { kernelOf, laid, type FinishKernel } from './memory.ts';
import { addPremultiplied, writePremultiplied } from './premultiplied.ts';
import { grownPart, whereSeen, type Part } from './seen-part.ts';

/** Pixels beyond a picture's border whose places on rings are asked for when rings are mixed. */
const margin = 1.5;

/** Cells in each width of a mean: what has been averaged over it changes no faster. */
const cellsInMean = 8;
/** Pixels by which a cell, which is straight, may differ from its arc. */
const bent = 0.1;
/** Bytes for rings that are laid out side by side, as many as fit and no more than these. */
const togetherBytes = 1e6;
const mostTogether = 32;
/** Pixels of a side of the blocks by which the kernel tells where nothing is seen. */
const blockSide = 16;

/** Rings of whole radii about a point that lie in a picture, parted into cells: the angles under which it is seen, in equal steps. */
interface Rings {
  least: number;
  count: number;
  /** The first angle and all of them, in turns, and how many cells they are. */
  from: number;
  span: number;
  steps: number;
  /** How many cells are half a mean. */
  half: number;
  /** Of each ring: samples in each of its cells. */
  samples: Int32Array;
  /** The first ring that is sampled from means of two pixels, side by side along its way. */
  paired: number;
  /** Of each cell: cosine and sine of its middle, and what they become from its start to its end. */
  towards: Float32Array;
}

/** Four samples are taken at once. */
const atOnce = 4;
/** Pixels between samples at most, where they are means of two: read between each other, they reach over three. */
const mostApart = 3;
/** Samples of what is so many pixels long. */
const samplesIn = (long: number): number => atOnce * Math.max(1, Math.ceil(long / atOnce / mostApart));

function ringsOf({ width, height }: FinishPixels, centre: Point, radians: number): Rings {
  const { x, y } = centre;
  const away = [Math.max(0, -x, x - (width - 1)), Math.max(0, -y, y - (height - 1))] as const;
  const least = Math.max(0, Math.floor(Math.hypot(...away)) - 1);
  const most = Math.ceil(Math.hypot(Math.max(x, width - 1 - x), Math.max(y, height - 1 - y))) + 1;
  const count = most - least + 1;
  const { from, span } = seenFrom(centre, width, height);
  const longest = 2 * Math.PI * span * most;
  const straight = longest / Math.sqrt(8 * bent * most);
  const enough = Math.min(longest, (cellsInMean * 2 * Math.PI * span) / radians);
  // Not many more cells than the picture has pixels.
  const room = (5 * width * height) / count;
  const steps = Math.ceil(Math.max(16, straight, Math.min(room, enough)));
  const longOf = (n: number): number => (longest * (least + n)) / most / steps;
  const samples = Int32Array.from({ length: count }, (_, n) => samplesIn(longOf(n)));
  const paired = Math.max(0, Math.min(count, Math.floor((atOnce * steps * most) / longest) + 1 - least));
  const ends = Array.from({ length: steps + 1 }, (_, k) => {
    const angle = 2 * Math.PI * (from + (k * span) / steps);
    return [Math.cos(angle), Math.sin(angle)] as const;
  });
  const towards = Float32Array.from({ length: 4 * steps }, (_, i) => {
    const [one, other] = [ends[i >> 2]![i & 1]!, ends[(i >> 2) + 1]![i & 1]!];
    return i & 2 ? other - one : (one + other) / 2;
  });
  return { least, count, from, span, steps, half: (radians * steps) / (4 * Math.PI * span), samples, paired, towards };
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

/**
 * The mean of a picture turned about a point, over an angle, in the same time for every angle: the picture is laid out as rings
 * of cells, sums along each ring give the mean about any angle, and pixels are read from the two rings beside them. Outside is
 * nothing.
 * @param about a point, in pixels  @param radians 0..pi
 */
export function averagedRound(pixels: FinishPixels, about: Point, radians: number): void {
  whereSeen(
    pixels,
    (seen) => turnedPart(seen, about, radians / 2),
    (part, left, top) => round(part, { x: about.x - left, y: about.y - top }, radians),
  );
}

/** The part over which one turns that turns by an angle to both sides. */
function turnedPart({ left, top, right, bottom }: Part, about: Point, by: number): Part {
  const corners = [left, right].flatMap((x) => [top, bottom].map((y) => ({ x: x - about.x, y: y - about.y })));
  // Of its way each corner is the farthest at an end of it, or where it passes an axis.
  const farthest = (x: number, y: number): number => {
    const [angle, away] = [Math.atan2(y, x), Math.hypot(x, y)];
    return away * Math.cos(Math.max(0, Math.abs(angle) - by));
  };
  const most = (towards: (corner: Point) => number): number => Math.max(...corners.map(towards));
  const sides = {
    left: about.x - most(({ x, y }) => farthest(-x, y)),
    top: about.y - most(({ x, y }) => farthest(-y, x)),
    right: about.x + most(({ x, y }) => farthest(x, y)),
    bottom: about.y + most(({ x, y }) => farthest(y, x)),
  };
  return grownPart(sides, 2);
}

function round(pixels: FinishPixels, about: Point, radians: number): void {
  const { data, width, height } = pixels;
  const centre = middleOf(about, pixels);
  const rings = ringsOf(pixels, centre, radians);
  if ((rings.least + rings.count) * radians <= 1) return;
  const kernel = kernelOf(data);
  if (kernel && byKernel(kernel, pixels, centre, rings)) return;
  const sum = new Float32Array(data.length);
  addPremultiplied(sum, data, 1);
  const means = layRings({ data: sum, width, height }, centre, rings);
  fromRings(means, rings, centre, { data: sum, width, height });
  writePremultiplied(data, sum, width);
}

/** @returns false, and nothing was done, where there is no room */
function byKernel(kernel: FinishKernel, pixels: FinishPixels, { x, y }: Point, rings: Rings): boolean {
  const { data, width, height } = pixels;
  const { least, count, from, span, steps, half, samples, paired, towards } = rings;
  const longest = (2 * Math.PI * span * (least + count)) / steps;
  const apart = (steps + 2 * (Math.floor(half) + 4)) * 16;
  const block = Math.max(1, Math.min(mostTogether, Math.floor(togetherBytes / apart)));
  // Only the innermost rings are sampled from every pixel.
  const far = least + paired + 3;
  const part = partOf(pixels, extentOf(x - far, x + far, width), extentOf(y - far, y + far, height));
  const [columns, rows] = [pairsOf(pixels, false), pairsOf(pixels, true)];
  const pictures = [part.bytes, columns.bytes, rows.bytes];
  const blockCount = Math.ceil(width / blockSide) * Math.ceil(height / blockSide);
  const sizes = [...pictures, count * (steps + 2) * 8, Math.max(block * apart, blockCount, 2048)];
  return laid([towards, samples, ...sizes, blockCount], (...addresses) => {
    const [cells, each, fine, columnsAt, rowsAt, means, room, blocks] = addresses as Addresses;
    if (paired > 0) part.make(kernel, fine, 0);
    if (paired < count) {
      columns.make(kernel, columnsAt, 0);
      rows.make(kernel, rowsAt, 0);
      kernel.seenBlocks(data.byteOffset, width, height, Math.ceil((longest / 2 + 3) / blockSide), room, blocks);
    }
    const inner = [fine, part.width, part.height, x - part.left, y - part.top];
    const outer = [columnsAt, rowsAt, width, height, x, y, blocks, paired];
    const closed = span === 1 ? 1 : 0;
    kernel.layRings(...inner, ...outer, least, count, cells, each, steps, closed, half, means, block, room);
    kernel.fromRings(means, least, from, span, steps, x, y, width, height, room, data.byteOffset);
  });
}

type Addresses = [number, number, number, number, number, number, number, number];

/** Four numbers a pixel. */
interface Sum {
  data: Float32Array;
  width: number;
  height: number;
}

/** Of each ring the means about where every cell begins. */
function layRings(sum: Sum, centre: Point, rings: Rings): Float32Array {
  const { least, count, steps, half } = rings;
  const means = new Float32Array(count * (steps + 2) * 4);
  const pairs = [meansOfTwo(sum, 1, 0), meansOfTwo(sum, 0, 1)] as const;
  for (let n = 0; n < count; n++) {
    const read: Reader = n < rings.paired ? (x, y) => sampled(sum, x, y) : pairReader(pairs);
    const cells = cellsOf(read, centre, rings, least + n, rings.samples[n]!);
    for (let c = 0; c < 4; c++) {
      const before = sumsAlong(cells, c, steps, rings.span === 1);
      for (let k = 0; k < steps + 2; k++)
        means[(n * (steps + 2) + k) * 4 + c] = (before(k + half) - before(k - half)) / (2 * half);
    }
  }
  return means;
}

/** The means of two pixels each, neighbours in a row or in a column. */
function meansOfTwo({ data, width, height }: Sum, right: 0 | 1, down: 0 | 1): Sum {
  const [w, h] = [(width + right) >> right, (height + down) >> down];
  const out = new Float32Array(w * h * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 4; c++) {
        const to = ((y >> down) * w + (x >> right)) * 4 + c;
        out[to] = out[to]! + data[(y * width + x) * 4 + c]! / 2;
      }
  return { data: out, width: w, height: h };
}

/** What a picture is at a place of a way that goes sideways or up and down. */
type Reader = (x: number, y: number, sideways: boolean) => Float64Array;

const pairReader =
  ([columns, rows]: readonly [Sum, Sum]): Reader =>
  (x, y, sideways) =>
    sideways ? sampled(columns, (x - 0.5) / 2, y) : sampled(rows, x, (y - 0.5) / 2);

/** The mean of each cell of a ring. */
function cellsOf(
  read: Reader,
  centre: Point,
  { steps, towards }: Rings,
  radius: number,
  samples: number,
): Float64Array {
  const cells = new Float64Array(steps * 4);
  for (let k = 0; k < steps; k++) {
    const sideways = Math.abs(towards[4 * k + 2]!) >= Math.abs(towards[4 * k + 3]!);
    for (let n = 0; n < samples; n++) {
      const along = (axis: 0 | 1): number =>
        radius * (towards[4 * k + axis]! + towards[4 * k + 2 + axis]! * ((n + 0.5) / samples - 0.5));
      read(centre.x + along(0), centre.y + along(1), sideways).forEach((value, c) => {
        cells[4 * k + c] = cells[4 * k + c]! + value / samples;
      });
    }
  }
  return cells;
}

/** The sum of a ring's cells from the first to a place, in cells; beyond the ends of one that is not closed is nothing. */
function sumsAlong(cells: Float64Array, channel: number, count: number, closed: boolean): (place: number) => number {
  const sums = [0];
  for (let k = 0; k < count; k++) sums.push(sums[k]! + cells[k * 4 + channel]!);
  return (place) => {
    const rounds = closed ? Math.floor(place / count) : 0;
    const within = Math.max(0, Math.min(count, place - rounds * count));
    const k = Math.min(count - 1, Math.floor(within));
    return rounds * sums[count]! + sums[k]! + (sums[k + 1]! - sums[k]!) * (within - k);
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
function fromRings(means: Float32Array, rings: Rings, centre: Point, to: Sum): void {
  const { from, span, steps } = rings;
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
