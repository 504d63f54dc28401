import type { FinishPixels } from '../finish.ts';
import { bandsOf, type Band, type Quarter, type Summed } from './fan-bands.ts';
import { extentOf, foursOf, pairsOf, partOf, type Extent, type FinePicture } from './fine-pictures.ts';
import { middleOf, type Point } from './middle.ts';
import { kernelOf, laid, type FinishKernel } from './memory.ts';
import { addPremultiplied, writePremultiplied } from './premultiplied.ts';
import { grownPart, whereSeen, type Part } from './seen-part.ts';

/** A pixel in the middle of which the point is belongs to no quarter: it is moved by less than can be seen. */
const besidesMiddles = (place: number): number => place + (Math.abs(place - Math.round(place)) < 1e-3 ? 2e-3 : 0);

interface Parted {
  bands: Band[];
  tables: (Int32Array | Float32Array)[][];
}

/** How the last picture was parted: the next frame is mostly parted alike. */
let lately: { said: string; parted: Parted } | null = null;

function partedFor(width: number, height: number, about: Point, whole: number): Parted {
  const middle = middleOf(about, { width, height });
  const [x, y] = [besidesMiddles(middle.x), besidesMiddles(middle.y)];
  const said = [width, height, x, y, whole].join(' ');
  if (lately?.said !== said) {
    const bands = bandsOf(width, height, x, y, whole);
    lately = { said, parted: { bands, tables: bands.map(tablesOf) } };
  }
  return lately.parted;
}

/**
 * The mean of a picture grown about a point, from 1 / e^(whole / 2) to e^(whole / 2) times as large, in the same time for
 * every growth: along rays from the point, sums of what lies before each line give the mean between any two. Outside is
 * nothing.
 */
export function averagedOutwards(pixels: FinishPixels, about: Point, whole: number): void {
  const [most, least] = [Math.exp(whole / 2), Math.exp(-whole / 2)];
  const spread = ({ left, top, right, bottom }: Part): Part => {
    const grown = (side: number, from: number): number[] => [from + (side - from) * most, from + (side - from) * least];
    const sides = {
      left: Math.min(...grown(left, about.x)),
      top: Math.min(...grown(top, about.y)),
      right: Math.max(...grown(right, about.x)),
      bottom: Math.max(...grown(bottom, about.y)),
    };
    return grownPart(sides, 2);
  };
  whereSeen(pixels, spread, (part, left, top) => outwards(part, { x: about.x - left, y: about.y - top }, whole));
}

function outwards(pixels: FinishPixels, about: Point, whole: number): void {
  const { data, width, height } = pixels;
  const parted = partedFor(width, height, about, whole);
  const { bands } = parted;
  if (Math.max(...bands.map(({ quarter }) => quarter.away + quarter.lines)) * whole <= 1) return;
  const kernel = kernelOf(data);
  if (kernel && byKernel(kernel, pixels, parted, whole)) return;
  const from = new Float32Array(data.length);
  addPremultiplied(from, data, 1);
  const to = new Float32Array(data.length);
  for (const band of bands) fromFan(layFan(from, pixels, band, whole), band, to, width);
  writePremultiplied(data, to, width);
}

/** The part of a picture that bands read pixel by pixel. */
function middlePart(pixels: FinishPixels, bands: readonly Band[]): FinePicture {
  const along = (upright: boolean, size: number): Extent => {
    const reach = bands.map(({ quarter, summed, rays }) => {
      const { nearest, outwards, away, centre } = quarter;
      const far = summed.away + summed.count;
      if (quarter.upright === upright) return { at: nearest - outwards * away, far };
      const widest = Math.max(-rays.first, rays.first + rays.count - 1);
      return { at: centre, far: (far * widest) / rays.farthest };
    });
    const [from, to] = [reach.map(({ at, far }) => at - far), reach.map(({ at, far }) => at + far)];
    return extentOf(Math.min(...from) - 4, Math.max(...to) + 4, size);
  };
  return partOf(pixels, along(false, pixels.width), along(true, pixels.height));
}

/** What each band reads: means of two or four lines where a step has as many. */
function readBy(pixels: FinishPixels, bands: readonly Band[]): FinePicture[] {
  const single = bands.filter(({ summed }) => summed.spacing === 1);
  const middle = single.length > 0 ? middlePart(pixels, single) : null;
  const coarse = [false, true].map((upright) => {
    const pairs = pairsOf(pixels, upright);
    return { 2: pairs, 4: foursOf(pairs, upright) };
  });
  return bands.map(({ quarter, summed: { spacing } }) =>
    spacing === 1 ? middle! : coarse[quarter.upright ? 1 : 0]![spacing],
  );
}

/** @returns false, and nothing was done, where there is no room */
function byKernel(kernel: FinishKernel, pixels: FinishPixels, { bands, tables }: Parted, whole: number): boolean {
  const { data, width } = pixels;
  const pictures = readBy(pixels, bands);
  const sources = [...new Set(pictures.flatMap((picture) => (picture.of ? [picture.of, picture] : [picture])))];
  const most = Math.max(...bands.map(({ rays, steps }) => (rays.count + 1) * steps.count));
  const longest = Math.max(...bands.map(({ steps }) => steps.lasts.length));
  const sizes = [...sources.map(({ bytes }) => bytes), most * 8, Math.max(2048, (longest + 8) * 16)];
  return laid([...tables.flat(), ...sizes], (...addresses) => {
    const [means, room] = addresses.slice(-2) as [number, number];
    const origins = addresses.slice(-2 - sources.length, -2);
    const originOf = (picture: FinePicture): number => origins[sources.indexOf(picture)]!;
    sources.forEach((picture) => picture.make(kernel, originOf(picture), picture.of ? originOf(picture.of) : 0));
    bands.forEach(({ quarter, summed, rays, steps }, k) => {
      const { upright, nearest, outwards, lines, away, pixels: across, centre } = quarter;
      const [spans, lasts, shares, ends, parts, outs, places] = addresses.slice(7 * k, 7 * k + 7) as Addresses;
      const picture = pictures[k]!;
      const [along, beside] = upright ? [picture.row, 8] : [8, picture.row];
      const [first, side] = upright ? [picture.top, picture.left] : [picture.left, picture.top];
      const start = originOf(picture) + picture.row + 8 + (summed.nearest - first) * along - side * beside;
      const seen = [across, summed.away, summed.spacing, centre, rays.first, rays.farthest, rays.count];
      const about = [spans, lasts, steps.lasts.length, shares, steps.count, ends, parts, whole, means, room];
      kernel.layFan(start, outwards * along, beside, ...seen, ...about);
      const lie = [across, away, centre, rays.first, rays.farthest, rays.count];
      const where = [nearest, outwards, upright ? 1 : 0, outs, places, width, room, data.byteOffset];
      kernel.fromFan(means, steps.count, lines, ...lie, ...where);
    });
  });
}

type Addresses = [number, number, number, number, number, number, number];

/** What the kernel reads of a band: distances and places of lines in the order of their pixels, with three more behind them. */
function tablesOf({ quarter, rays, steps }: Band): (Int32Array | Float32Array)[] {
  const { lines, away, upright, outwards } = quarter;
  const lineAt = (k: number): number => Math.min(lines - 1, upright || outwards > 0 ? k : Math.max(0, lines - 1 - k));
  const outs = new Float32Array(lines + 3);
  const places = new Int32Array(lines + 3);
  for (let k = 0; k < lines + 3; k++) {
    outs[k] = away + lineAt(k);
    places[k] = steps.places[lineAt(k)]! * 32768;
  }
  return [rays.spans, steps.lasts, steps.shares, steps.ends, steps.parts, outs, places];
}

/** Reads a summed line's value at a pixel of it; clear outside. */
function readerOf(
  from: Float32Array,
  { width, height }: FinishPixels,
  { upright, outwards }: Quarter,
  { spacing, nearest }: Summed,
): (line: number, pixel: number, c: number) => number {
  const valueAt = (x: number, y: number, c: number): number =>
    x < 0 || y < 0 || x >= width || y >= height ? 0 : from[(y * width + x) * 4 + c]!;
  return (line, pixel, c) => {
    let sum = 0;
    for (let k = 0; k < spacing; k++) {
      const along = spacing * (nearest + outwards * line) + k;
      sum += upright ? valueAt(pixel, along, c) : valueAt(along, pixel, c);
    }
    return sum / spacing;
  };
}

/** The means along every ray, one at each step. */
function layFan(from: Float32Array, picture: FinishPixels, band: Band, whole: number): Float32Array {
  const { quarter, summed, rays, steps } = band;
  const means = new Float32Array(rays.count * steps.count * 4);
  const valueAt = readerOf(from, picture, quarter, summed);
  for (let n = 0; n < rays.count; n++) {
    const [start, long] = [rays.spans[n * 2]!, rays.spans[n * 2 + 1]!];
    const slope = (rays.first + n) / rays.farthest;
    for (let c = 0; c < 4; c++) {
      const sums = [0];
      let line = 0;
      for (const last of steps.lasts) {
        let sum = sums.at(-1)!;
        for (; line <= last; line++) {
          if (line < start || line >= start + long) continue;
          const place = quarter.centre + slope * (summed.away + summed.spacing * line);
          const near = Math.floor(place);
          const share = place - near;
          sum += steps.shares[line]! * (valueAt(line, near, c) * (1 - share) + valueAt(line, near + 1, c) * share);
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

/** First line of a band on which a pixel, so far from the centre, belongs to it: diagonals belong to those that lie. */
const firstLine = ({ upright, away }: Quarter, aside: number): number =>
  Math.max(0, upright ? Math.floor(Math.abs(aside) - away) + 1 : Math.ceil(Math.abs(aside) - away));

/** A band's pixels, from the two rays and the two steps beside them. */
function fromFan(means: Float32Array, { quarter, rays, steps }: Band, to: Float32Array, width: number): void {
  const { lines, away, pixels, centre, upright, nearest, outwards } = quarter;
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
      const along = nearest + outwards * line;
      const i = (upright ? along * width + pixel : pixel * width + along) * 4;
      for (let c = 0; c < 4; c++)
        to[i + c] = meanAt(near, c) + (meanAt(near + 1, c) - meanAt(near, c)) * (place - near);
    }
}
