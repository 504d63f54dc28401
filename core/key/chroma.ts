import { windowExtreme } from '../pixels/filters.ts';
import { halvedTo } from '../pixels/resample.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import {
  findScreenColour,
  maskedPlanes,
  measureScreen,
  squaredScreenDistance,
  takeMeans,
  type Rgb,
  type ScreenPlate,
} from './screen.ts';

export interface ChromaSettings {
  /** Samples of the screen; found along the borders when empty. */
  colours: readonly Rgb[];
  /** Distance to the screen up to which a pixel is all screen. */
  core: number;
  /** Distance from which on it is all subject. */
  edge: number;
  /** How much of the screen's light on the subject is taken away, 0..1. */
  spill: number;
}

export const defaultChroma: ChromaSettings = { colours: [], core: 10, edge: 34, spill: 1 };

/** A keyed picture: straight colours of the subject, and its alpha. */
export interface Keyed {
  colours: Rgba;
  alpha: Bytes;
}

/**
 * Chroma key: colour difference to a screen plate that is measured from the picture itself. Between core and edge alpha is
 * where the colour lies on the way from the screen to the nearest sure subject colours, which also gives the colour of the
 * edge itself (Smith & Blinn 1996, "Blue Screen Matting"); what the screen throws on the subject is taken off in proportion.
 */
export function chromaKey(picture: Rgba, settings: ChromaSettings): Keyed {
  const { width, height, data } = picture;
  const { core, edge, spill } = settings;
  const { picture: small } = halvedTo(picture, workingSize);
  const colours = settings.colours.length > 0 ? settings.colours : [findScreenColour(small)];
  const plate = measureScreen(small, colours, Math.max(edge, 24));
  const shift = Math.round(Math.log2(picture.width / small.width));
  const subject = sureSubject(small, plate, edge, Math.max(2, Math.min(8, mixingReach >> shift)));
  const out: Keyed = { colours: makeRgba(width, height), alpha: makeBytes(width, height) };
  const span = Math.max(1, edge - core);
  // A screen changes so slowly that one colour of it does for all pixels under a pixel of the copy.
  const behind = new Float32Array(small.width * 3);
  const noise = noiseOf(picture, plate, Math.max(leastNoise, core / 2));
  for (let y = 0; y < height; y++) {
    const row = (y >> shift) * small.width;
    if (y === (y >> shift) << shift) plate.row(y >> shift, small, behind);
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const under = x >> shift;
      const r = behind[under * 3]!;
      const g = behind[under * 3 + 1]!;
      const b = behind[under * 3 + 2]!;
      const square = squaredScreenDistance(data[i * 4]! - r, data[i * 4 + 1]! - g, data[i * 4 + 2]! - b);
      if (square <= noise * noise) continue;
      const d = Math.sqrt(square);
      const between = Math.max(0, Math.min(1, (d - core) / span));
      const sure = Math.min(1, d / noise - 1);
      const at = row + under;
      // Far from the screen no colour is mixed with it.
      const near = subject.near[at]! > 0;
      const alpha = near ? sure * mixedShare(data, i * 4, r, g, b, subject.colours, at * 4, between) : sure * between;
      writeSubject(out, data, i, r, g, b, alpha, spill);
    }
  }
  return out;
}

/** Distance of every pixel to the screen behind it. */
export function plateDistance(picture: Rgba, plate: ScreenPlate): Float32Array {
  const { width, height, data } = picture;
  const out = new Float32Array(width * height);
  const behind = new Float32Array(width * 3);
  for (let y = 0; y < height; y++) {
    plate.row(y, picture, behind);
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const r = behind[x * 3]!;
      const g = behind[x * 3 + 1]!;
      const b = behind[x * 3 + 2]!;
      out[i] = Math.sqrt(squaredScreenDistance(data[i * 4]! - r, data[i * 4 + 1]! - g, data[i * 4 + 2]! - b));
    }
  }
  return out;
}

/** Length of the copy on which the screen and the subject's colours are measured, pixels. */
const workingSize = 320;
/** Pixels of the picture from the screen within which a colour may be mixed with it. */
const mixingReach = 16;

/** How far a colour may lie beside the way from screen to subject and still be a mixture of them, bytes. */
const onTheWay = 20;

/** What is known of the subject, on a small copy of the picture. */
interface SureSubject {
  /** 1 where a pixel is screen or so near it that its colour may be mixed. */
  near: Float32Array;
  /** Colour of the nearest pixels that are subject alone, and 1 where there are any: four floats a pixel. */
  colours: Float32Array;
}

/** The subject's own colours near its edge: means over growing windows of what lies too far from the screen to be mixed. */
function sureSubject(small: Rgba, plate: ScreenPlate, edge: number, reach: number): SureSubject {
  const { width, height } = small;
  const distance = plateDistance(small, plate);
  const screen = makePlane(width, height);
  for (let i = 0; i < distance.length; i++) screen.data[i] = distance[i]! < edge ? 1 : 0;
  const near = windowExtreme(screen, reach, Math.max).data;
  const seen = maskedPlanes(small, (i) => near[i] === 0);
  const colours = new Float32Array(width * height * 4);
  for (const radius of [reach, 2 * reach, 4 * reach, 8 * reach]) takeMeans(seen, radius, 0.004, colours);
  fillWithMean(seen, colours);
  return { near, colours };
}

/** Far from all of the subject that is sure, a wire or a spark is taken to be like the whole of it. */
function fillWithMean(seen: readonly Plane[], colours: Float32Array): void {
  const sums = seen.map(({ data }) => data.reduce((sum, v) => sum + v, 0));
  const count = sums[3]!;
  if (count === 0) return;
  for (let o = 0; o < colours.length; o += 4) {
    if (colours[o + 3]! > 0) continue;
    for (let c = 0; c < 3; c++) colours[o + c] = sums[c]! / count;
    colours[o + 3] = 1;
  }
}

/** Bytes of distance below which a pixel is screen whatever its noise; above it a faint edge begins. */
const leastNoise = 1.5;

/** How far the noise of the screen reaches: nearly all of the pixels that lie on it, looked at on a grid. */
function noiseOf(picture: Rgba, plate: ScreenPlate, most: number): number {
  const { width, height, data } = picture;
  const behind = new Float32Array(width * 3);
  const found: number[] = [];
  for (let y = 4; y < height; y += 12) {
    plate.row(y, picture, behind);
    for (let x = 4; x < width; x += 6) {
      const i = (y * width + x) * 4;
      const [r, g, b] = [behind[x * 3]!, behind[x * 3 + 1]!, behind[x * 3 + 2]!];
      const d = Math.sqrt(squaredScreenDistance(data[i]! - r, data[i + 1]! - g, data[i + 2]! - b));
      if (d < most) found.push(d);
    }
  }
  found.sort((a, b) => a - b);
  return Math.max(leastNoise, Math.min(most, 1.35 * (found[Math.floor(found.length * 0.97)] ?? most)));
}

/**
 * Alpha of a pixel near the screen, `between` core and edge (0..1): where its colour lies on the way from the screen to
 * the subject; from the thresholds alone where no subject is near.
 */
function mixedShare(
  data: Uint8ClampedArray,
  o: number,
  r: number,
  g: number,
  b: number,
  colours: Float32Array,
  at: number,
  between: number,
): number {
  const smooth = between * between * (3 - 2 * between);
  if (colours[at + 3] === 0) return smooth;
  const wr = colours[at]! - r;
  const wg = colours[at + 1]! - g;
  const wb = colours[at + 2]! - b;
  const length = wr * wr + wg * wg + wb * wb;
  if (length < 400) return smooth;
  const pr = data[o]! - r;
  const pg = data[o + 1]! - g;
  const pb = data[o + 2]! - b;
  const mixed = (pr * wr + pg * wg + pb * wb) / length;
  // A colour beside the way from the one to the other is no mixture of them: a thing of its own colour, like a wire.
  const beside = Math.sqrt(Math.max(0, pr * pr + pg * pg + pb * pb - mixed * mixed * length));
  const own = Math.max(0, Math.min(1, (beside - onTheWay) / onTheWay));
  // Of what it is a mixture then nobody knows; other subjects are about as far from the screen as the one that is known.
  const unlike = Math.sqrt(squaredScreenDistance(pr, pg, pb) / squaredScreenDistance(wr, wg, wb));
  const alpha = mixed + own * (Math.max(mixed, unlike) - mixed);
  // Alpha near an end is that end: a veil of nearly nothing shows as dirt, a nearly solid body as a ghost.
  return Math.max(0, Math.min(1, (alpha - 0.02) / 0.92));
}

function writeSubject(
  out: Keyed,
  data: Uint8ClampedArray,
  i: number,
  r: number,
  g: number,
  b: number,
  alpha: number,
  spill: number,
): void {
  const byte = Math.round(alpha * 255);
  if (byte === 0) return;
  const o = i * 4;
  out.alpha.data[i] = byte;
  out.colours.data[o + 3] = byte;
  const gain = 1 / Math.max(alpha, 0.06);
  screen[0] = r;
  screen[1] = g;
  screen[2] = b;
  colour[0] = Math.max(0, Math.min(255, r + (data[o]! - r) * gain));
  colour[1] = Math.max(0, Math.min(255, g + (data[o + 1]! - g) * gain));
  colour[2] = Math.max(0, Math.min(255, b + (data[o + 2]! - b) * gain));
  takeSpill(colour, screen, spill);
  out.colours.data[o] = colour[0]!;
  out.colours.data[o + 1] = colour[1]!;
  out.colours.data[o + 2] = colour[2]!;
}

/** Worked in for every pixel, so that none is made for each. */
const [colour, screen] = [new Float64Array(3), new Float64Array(3)];

/**
 * Takes the screen's hue off a colour: what its strongest channel (or, for screens like magenta, its two strong ones) has
 * above the others. A grey or white screen throws no hue.
 * @param colour changed in place  @param amount 0..1
 */
export function takeSpill(colour: Float64Array | number[], screen: ArrayLike<number>, amount: number): void {
  let high = 0;
  let low = 0;
  for (let c = 1; c < 3; c++) {
    if (screen[c]! > screen[high]!) high = c;
    if (screen[c]! <= screen[low]!) low = c;
  }
  if (screen[high]! - screen[low]! < 24) return;
  const middle = 3 - high - low;
  const single = screen[middle]! - screen[low]! < screen[high]! - screen[middle]!;
  const excess = single
    ? colour[high]! - Math.max(colour[middle]!, colour[low]!)
    : Math.min(colour[high]!, colour[middle]!) - colour[low]!;
  if (excess <= 0) return;
  colour[high] = colour[high]! - amount * excess;
  if (!single) colour[middle] = colour[middle]! - amount * excess;
}
