import type { FinishPixels } from '../finish.ts';
import { middleOf, type Point } from './middle.ts';
import { kernelOf, laid } from './memory.ts';
import { addPremultiplied, writePremultiplied } from './premultiplied.ts';

/** A quarter of a picture as seen from a point: lines of pixels ever farther out, to the right, left, down or up. */
interface Quarter {
  upright: boolean;
  /** Which line is the nearest, and where the next ones are. */
  nearest: number;
  outwards: 1 | -1;
  /** How many lines there are, how far out the nearest of them is, and how many pixels each has. */
  lines: number;
  away: number;
  pixels: number;
  /** Where on a line the point is. */
  centre: number;
}

/** Rays through a quarter, a pixel apart on its last line: of each, a value on every line where it is in the picture. */
interface Rays {
  /** Position of the first ray on the last line, from the centre, and how far out that line is. */
  first: number;
  farthest: number;
  count: number;
  /** Of each ray: its first line and how many. */
  spans: Int32Array;
  /** Of each ray: from a line's number to where its value is stored. */
  shifts: Int32Array;
  stored: number;
}

/** Pixels beyond the border on which a ray still has values: between two rays may lie a pixel of the border. */
const margin = 1.5;

function quartersOf(width: number, height: number, x: number, y: number): Quarter[] {
  const pair = (upright: boolean, size: number, pixels: number, from: number, centre: number): Quarter[] => {
    const [after, before] = [Math.max(0, Math.ceil(from)), Math.min(size - 1, Math.floor(from))];
    const shared = { upright, pixels, centre };
    return [
      { ...shared, nearest: after, outwards: 1, lines: Math.max(0, size - after), away: after - from },
      { ...shared, nearest: before, outwards: -1, lines: Math.max(0, before + 1), away: from - before },
    ];
  };
  return [...pair(false, width, height, x, y), ...pair(true, height, width, y, x)].filter(({ lines }) => lines > 0);
}

/** First and last line on which a ray of a slope is between the ends of the lines, or almost. */
function spanOf({ lines, away, pixels, centre }: Quarter, slope: number): [number, number] {
  const [low, high] = [-margin - centre, pixels - 1 + margin - centre];
  if (slope === 0) return low <= 0 && high >= 0 ? [0, lines - 1] : [0, -1];
  const ends = [low / slope, high / slope].sort((a, b) => a - b);
  return [Math.max(0, Math.ceil(ends[0]! - away)), Math.min(lines - 1, Math.floor(ends[1]! - away))];
}

function raysOf(quarter: Quarter): Rays {
  const { lines, away, pixels, centre } = quarter;
  const farthest = away + lines - 1;
  const slopeTo = (side: number, out: number): number => Math.max(-1, Math.min(1, side / out));
  const [low, high] = [-centre, pixels - 1 - centre];
  const first = Math.floor(farthest * slopeTo(low, low < 0 ? away : farthest)) - 1;
  const last = Math.ceil(farthest * slopeTo(high, high > 0 ? away : farthest)) + 1;
  const [spans, shifts] = [new Int32Array((last - first + 1) * 2), new Int32Array(last - first + 1)];
  let stored = 0;
  for (let n = 0; n <= last - first; n++) {
    const [from, to] = spanOf(quarter, (first + n) / farthest);
    const count = Math.max(0, to - from + 1);
    spans.set([from, count], n * 2);
    shifts[n] = stored - from;
    stored += count;
  }
  return { first, farthest, count: last - first + 1, spans, shifts, stored };
}

/** Of each line of a quarter: what the mean about it is made of. */
interface Ways {
  /** Its share of the way outwards, which counts by the logarithm as growths do. */
  shares: Float32Array;
  /** The lines on which the mean begins and ends, and how much of those lines' shares lies before that. */
  ends: Int32Array;
  parts: Float32Array;
}

function waysOf({ lines, away }: Quarter, whole: number): Ways {
  const nearest = away * Math.exp(-whole / 2);
  const before = (n: number): number => Math.max(nearest, away + n - 0.5);
  const share = (n: number): number => Math.log1p((away + n + 0.5 - before(n)) / before(n));
  const ways = { shares: new Float32Array(lines), ends: new Int32Array(lines * 2), parts: new Float32Array(lines * 2) };
  for (let n = 0; n < lines; n++) {
    ways.shares[n] = share(n);
    [-whole / 2, whole / 2].forEach((by, k) => {
      const out = (away + n) * Math.exp(by);
      const line = Math.max(-1, Math.floor(out - away + 0.5));
      ways.ends[2 * n + k] = line;
      ways.parts[2 * n + k] = line < 0 ? 0 : Math.log(out / before(line)) / share(line);
    });
  }
  return ways;
}

/** A pixel in the middle of which the point is belongs to no quarter: it is moved by less than can be seen. */
const besidesMiddles = (place: number): number => place + (Math.abs(place - Math.round(place)) < 1e-3 ? 2e-3 : 0);

/**
 * The mean of a picture grown about a point, from 1 / e^(whole / 2) to e^(whole / 2) times as large, in the same time for
 * every growth: along rays from the point, sums of what lies before each line give the mean between any two. Outside is
 * nothing.
 */
export function averagedOutwards(pixels: FinishPixels, about: Point, whole: number): void {
  const { data, width, height } = pixels;
  const middle = middleOf(about, pixels);
  const [x, y] = [besidesMiddles(middle.x), besidesMiddles(middle.y)];
  const quarters = quartersOf(width, height, x, y);
  if (Math.max(...quarters.map(({ away, lines }) => away + lines)) * whole <= 1) return;
  const fans = quarters.map((quarter) => ({ quarter, rays: raysOf(quarter), ways: waysOf(quarter, whole) }));
  const kernel = kernelOf(data);
  const most = Math.max(...fans.map(({ rays }) => rays.stored));
  const tables = fans.flatMap(({ rays, ways }) => [rays.spans, rays.shifts, ways.shares, ways.ends, ways.parts]);
  const byKernel = (...addresses: number[]): void => {
    const [from, stored, room] = addresses.slice(-3) as [number, number, number];
    kernel!.toFine(data.byteOffset, width, height, from);
    fans.forEach(({ quarter, rays }, k) => {
      const { upright, nearest, outwards, lines, away, pixels: across, centre } = quarter;
      const [spans, shifts, ...ways] = addresses.slice(5 * k, 5 * k + 5);
      const row = (width + 2) * 8;
      const [along, beside] = upright ? [row, 8] : [8, row];
      const lie = [lines, across, away, centre, rays.first, rays.farthest];
      const origin = from + row + 8 + nearest * along;
      kernel!.layFan(
        origin,
        outwards * along,
        beside,
        ...lie,
        rays.count,
        spans!,
        shifts!,
        ...ways,
        whole,
        stored,
        room,
      );
      kernel!.fromFan(stored, shifts!, ...lie, nearest, outwards, upright ? 1 : 0, width, room, data.byteOffset);
    });
  };
  const sizes = [(width + 2) * (height + 2) * 8, most * 8, (Math.max(width, height) + 8) * 16];
  if (kernel && laid([...tables, ...sizes], byKernel)) return;
  const from = new Float32Array(data.length);
  addPremultiplied(from, data, 1);
  const to = new Float32Array(data.length);
  for (const { quarter, rays, ways } of fans) {
    const values = layFan(from, width, quarter, rays, ways, whole);
    fromFan(values, quarter, rays, to, width);
  }
  writePremultiplied(data, to, width);
}

/** Where a pixel's four numbers begin. */
const indexOf = ({ upright, nearest, outwards }: Quarter, width: number, line: number, pixel: number): number => {
  const along = nearest + outwards * line;
  return (upright ? along * width + pixel : pixel * width + along) * 4;
};

/** The means along every ray. */
function layFan(
  from: Float32Array,
  width: number,
  quarter: Quarter,
  { first, farthest, count, spans, shifts, stored }: Rays,
  { shares, ends, parts }: Ways,
  whole: number,
): Float32Array {
  const values = new Float32Array(stored * 4);
  const { away, pixels, centre } = quarter;
  const at = (line: number, pixel: number, c: number): number =>
    pixel < 0 || pixel >= pixels ? 0 : from[indexOf(quarter, width, line, pixel) + c]!;
  for (let n = 0; n < count; n++) {
    const [start, long] = [spans[n * 2]!, spans[n * 2 + 1]!];
    for (let c = 0; c < 4; c++) {
      const sums = [0];
      for (let k = 0; k < long; k++) {
        const place = centre + ((first + n) / farthest) * (away + start + k);
        const near = Math.floor(place);
        const value = at(start + k, near, c) * (1 - (place - near)) + at(start + k, near + 1, c) * (place - near);
        sums.push(sums[k]! + value * shares[start + k]!);
      }
      const before = (end: number): number => {
        const k = ends[end]! - start;
        return k < 0 ? 0 : k >= long ? sums[long]! : sums[k]! + (sums[k + 1]! - sums[k]!) * parts[end]!;
      };
      for (let line = start; line < start + long; line++)
        values[(shifts[n]! + line) * 4 + c] = (before(2 * line + 1) - before(2 * line)) / whole;
    }
  }
  return values;
}

/** First line of a quarter on which a pixel, so far from the centre, belongs to it: diagonals belong to those that lie. */
const firstLine = ({ upright, away }: Quarter, aside: number): number =>
  Math.max(0, upright ? Math.floor(Math.abs(aside) - away) + 1 : Math.ceil(Math.abs(aside) - away));

/** A quarter's pixels, from the two rays beside them. */
function fromFan(values: Float32Array, quarter: Quarter, rays: Rays, to: Float32Array, width: number): void {
  const { lines, away, pixels, centre } = quarter;
  for (let pixel = 0; pixel < pixels; pixel++)
    for (let line = firstLine(quarter, pixel - centre); line < lines; line++) {
      const place = ((pixel - centre) / (away + line)) * rays.farthest - rays.first;
      const near = Math.floor(place);
      const [a, b] = [near, near + 1].map((n) => (rays.shifts[n]! + line) * 4) as [number, number];
      const i = indexOf(quarter, width, line, pixel);
      for (let c = 0; c < 4; c++) to[i + c] = values[a + c]! + (values[b + c]! - values[a + c]!) * (place - near);
    }
}
