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

/** Rays through a quarter, a pixel apart on its last line. */
interface Rays {
  /** Position of the first ray on the last line, from the centre, and how far out that line is. */
  first: number;
  farthest: number;
  count: number;
  /** Of each ray: its first line in the picture and how many. */
  spans: Int32Array;
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
  const spans = new Int32Array((last - first + 1) * 2);
  for (let n = 0; n <= last - first; n++) {
    const [from, to] = spanOf(quarter, (first + n) / farthest);
    spans.set([from, Math.max(0, to - from + 1)], n * 2);
  }
  return { first, farthest, count: last - first + 1, spans };
}

/** Steps in each width of a mean: what has been averaged over it changes no faster. */
const stepsInMean = 12;

/** Lines of a quarter in steps, one line each where they are near, and what the mean about each step is made of. */
interface Steps {
  count: number;
  /** Of each line: its share of the way outwards, which counts by the logarithm as growths do. */
  shares: Float32Array;
  /** Of each step: its last line. */
  lasts: Int32Array;
  /** Of each step: those in which the mean begins and ends, and how much of their shares lies before that. */
  ends: Int32Array;
  parts: Float32Array;
  /** Of each line: at which step it is, among the places of the means. */
  places: Float64Array;
}

/** Finds, for values that grow from call to call, the last of growing numbers that is not above one, up to the last but one. */
function follower(numbers: readonly number[]): (value: number) => number {
  let k = 0;
  return (value) => {
    while (k < numbers.length - 2 && numbers[k + 1]! <= value) k++;
    return k;
  };
}

function stepsOf({ lines, away }: Quarter, whole: number): Steps {
  const middles: number[] = [];
  for (let n = 0; n < lines - 1; n += Math.max(1, Math.floor(((away + n) * whole) / stepsInMean))) middles.push(n);
  middles.push(lines - 1);
  const count = middles.length;
  const lasts = Int32Array.from(middles, (n, k) => Math.floor((n + (middles[k + 1] ?? n)) / 2));
  const nearest = Math.max(away * Math.exp(-whole / 2), away - 0.5);
  const bounds = [nearest, ...Array.from(lasts, (n) => away + n + 0.5)];
  const ends = new Int32Array(count * 2);
  const parts = new Float32Array(count * 2);
  [-whole / 2, whole / 2].forEach((by, end) => {
    const stepAt = follower(bounds);
    middles.forEach((n, k) => {
      const out = (away + n) * Math.exp(by);
      const step = stepAt(out);
      const part = Math.log(out / bounds[step]!) / Math.log(bounds[step + 1]! / bounds[step]!);
      ends[2 * k + end] = step;
      parts[2 * k + end] = Math.max(0, Math.min(1, part));
    });
  });
  const shares = Float32Array.from({ length: lines }, (_, n) =>
    Math.log((away + n + 0.5) / (n === 0 ? nearest : away + n - 0.5)),
  );
  const middleAt = follower(middles);
  const places = Float64Array.from({ length: lines }, (_, n) => {
    const step = middleAt(n);
    const [one, next] = [away + middles[step]!, away + (middles[step + 1] ?? middles[step]! + 1)];
    return step + Math.log((away + n) / one) / Math.log(next / one);
  });
  return { count, shares, lasts, ends, parts, places };
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
  const fans = quarters.map((quarter) => ({ quarter, rays: raysOf(quarter), steps: stepsOf(quarter, whole) }));
  const kernel = kernelOf(data);
  const tables = fans.map((fan) => tablesOf(fan));
  const most = Math.max(...fans.map(({ rays, steps }) => (rays.count + 1) * steps.count));
  const byKernel = (...addresses: number[]): void => {
    const [from, means, room] = addresses.slice(-3) as [number, number, number];
    kernel!.toFine(data.byteOffset, width, height, from);
    fans.forEach(({ quarter, rays, steps }, k) => {
      const { upright, nearest, outwards, lines, away, pixels: across, centre } = quarter;
      const [spans, lasts, shares, ends, parts, outs, places] = addresses.slice(7 * k, 7 * k + 7) as Addresses;
      const row = (width + 2) * 8;
      const [along, beside] = upright ? [row, 8] : [8, row];
      const lie = [across, away, centre, rays.first, rays.farthest, rays.count];
      const origin = from + row + 8 + nearest * along;
      const about = [spans, lasts, steps.count, shares, ends, parts, whole, means, room];
      kernel!.layFan(origin, outwards * along, beside, ...lie, ...about);
      const where = [nearest, outwards, upright ? 1 : 0, outs, places, width, room, data.byteOffset];
      kernel!.fromFan(means, steps.count, lines, ...lie, ...where);
    });
  };
  const sizes = [(width + 2) * (height + 2) * 8, most * 8, Math.max(2048, (Math.max(width, height) + 8) * 16)];
  if (kernel && laid([...tables.flat(), ...sizes], byKernel)) return;
  const from = new Float32Array(data.length);
  addPremultiplied(from, data, 1);
  const to = new Float32Array(data.length);
  for (const { quarter, rays, steps } of fans) {
    const means = layFan(from, width, quarter, rays, steps, whole);
    fromFan(means, quarter, rays, steps, to, width);
  }
  writePremultiplied(data, to, width);
}

interface Fan {
  quarter: Quarter;
  rays: Rays;
  steps: Steps;
}

type Addresses = [number, number, number, number, number, number, number];

/** What the kernel reads of a fan: distances and places of lines in the order of their pixels, with three more behind them. */
function tablesOf({ quarter, rays, steps }: Fan): (Int32Array | Float32Array)[] {
  const { lines, away, upright, outwards } = quarter;
  const lineAt = (k: number): number => Math.min(lines - 1, upright || outwards > 0 ? k : Math.max(0, lines - 1 - k));
  const outs = Float32Array.from({ length: lines + 3 }, (_, k) => away + lineAt(k));
  const places = Int32Array.from(
    { length: lines + 3 },
    (_, k) => Math.min(steps.places[lineAt(k)]!, steps.count - 1) * 32768,
  );
  return [rays.spans, steps.lasts, steps.shares, steps.ends, steps.parts, outs, places];
}

/** Where a pixel's four numbers begin. */
const indexOf = ({ upright, nearest, outwards }: Quarter, width: number, line: number, pixel: number): number => {
  const along = nearest + outwards * line;
  return (upright ? along * width + pixel : pixel * width + along) * 4;
};

/** The means along every ray, one at each step. */
function layFan(
  from: Float32Array,
  width: number,
  quarter: Quarter,
  { first, farthest, count, spans }: Rays,
  steps: Steps,
  whole: number,
): Float32Array {
  const { away, pixels, centre } = quarter;
  const means = new Float32Array(count * steps.count * 4);
  const at = (line: number, pixel: number, c: number): number =>
    pixel < 0 || pixel >= pixels ? 0 : from[indexOf(quarter, width, line, pixel) + c]!;
  for (let n = 0; n < count; n++) {
    const [start, long] = [spans[n * 2]!, spans[n * 2 + 1]!];
    for (let c = 0; c < 4; c++) {
      const sums = [0];
      for (let k = 0, line = 0; k < steps.count; k++) {
        let sum = sums[k]!;
        for (; line <= steps.lasts[k]!; line++) {
          if (line < start || line >= start + long) continue;
          const place = centre + ((first + n) / farthest) * (away + line);
          const near = Math.floor(place);
          sum +=
            steps.shares[line]! * (at(line, near, c) * (1 - (place - near)) + at(line, near + 1, c) * (place - near));
        }
        sums.push(sum);
      }
      const before = (end: number): number => {
        const sum = sums[steps.ends[end]!]!;
        return sum + (sums[steps.ends[end]! + 1]! - sum) * steps.parts[end]!;
      };
      for (let k = 0; k < steps.count; k++)
        means[(n * steps.count + k) * 4 + c] = (before(2 * k + 1) - before(2 * k)) / whole;
    }
  }
  return means;
}

/** First line of a quarter on which a pixel, so far from the centre, belongs to it: diagonals belong to those that lie. */
const firstLine = ({ upright, away }: Quarter, aside: number): number =>
  Math.max(0, upright ? Math.floor(Math.abs(aside) - away) + 1 : Math.ceil(Math.abs(aside) - away));

/** A quarter's pixels, from the two rays and the two steps beside them. */
function fromFan(
  means: Float32Array,
  quarter: Quarter,
  rays: Rays,
  steps: Steps,
  to: Float32Array,
  width: number,
): void {
  const { lines, away, pixels, centre } = quarter;
  for (let pixel = 0; pixel < pixels; pixel++)
    for (let line = firstLine(quarter, pixel - centre); line < lines; line++) {
      const place = ((pixel - centre) / (away + line)) * rays.farthest - rays.first;
      const near = Math.floor(place);
      const step = Math.max(0, Math.min(steps.count - 2, Math.floor(steps.places[line]!)));
      const part = steps.count > 1 ? steps.places[line]! - step : 0;
      const meanAt = (ray: number, c: number): number => {
        const mean = (ray * steps.count + step) * 4 + c;
        return means[mean]! + (steps.count > 1 ? (means[mean + 4]! - means[mean]!) * part : 0);
      };
      const i = indexOf(quarter, width, line, pixel);
      for (let c = 0; c < 4; c++)
        to[i + c] = meanAt(near, c) + (meanAt(near + 1, c) - meanAt(near, c)) * (place - near);
    }
}
