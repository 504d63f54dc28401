import { boxBlur, windowExtreme } from '../pixels/filters.ts';
import { halvedTo } from '../pixels/resample.ts';
import { makeBytes, makePlane, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { findScreenColour, measureScreen, opponent, type Rgb } from './screen.ts';

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
  const { width, height } = picture;
  const colours = settings.colours.length > 0 ? settings.colours : [findScreenColour(picture)];
  const plate = measureScreen(picture, colours, Math.max(settings.edge, 24));
  const distance = plateDistance(picture, plate);
  const subject = sureSubject(picture, distance, settings.edge);
  const out: Keyed = { colours: makeRgba(width, height), alpha: makeBytes(width, height) };
  const span = Math.max(1, settings.edge - settings.core);
  for (let i = 0; i < width * height; i++) {
    const d = distance[i]!;
    const between = Math.max(0, Math.min(1, (d - settings.core) / span));
    // A faint edge lies below the core; noise of the screen lies below half of it.
    const sure = Math.max(0, Math.min(1, (2 * d) / Math.max(1, settings.core) - 1));
    const alpha = sure === 0 ? between : sure * share(picture, plate, subject, i, between);
    writeSubject(out, picture, plate, i, alpha, settings.spill);
  }
  return out;
}

/** Distance of every pixel to the screen behind it. */
export function plateDistance(picture: Rgba, plate: Float32Array): Float32Array {
  const { data } = picture;
  const out = new Float32Array(data.length / 4);
  const [mine, theirs] = [new Float64Array(3), new Float64Array(3)];
  for (let i = 0; i < out.length; i++) {
    opponent(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!, mine);
    opponent(plate[i * 3]!, plate[i * 3 + 1]!, plate[i * 3 + 2]!, theirs);
    out[i] = Math.sqrt((mine[0]! - theirs[0]!) ** 2 + (mine[1]! - theirs[1]!) ** 2 + (mine[2]! - theirs[2]!) ** 2);
  }
  return out;
}

/** Pixels from the screen within which a colour may be mixed with it, in pictures of 960 pixels and less. */
const mixingReach = 8;

/** What is known of the subject, on a small copy of the picture. */
interface SureSubject {
  /** How often the copy was halved, and its width. */
  halvings: number;
  width: number;
  /** 1 where a pixel is screen or so near it that its colour may be mixed. */
  near: Float32Array;
  /** Colour of the nearest pixels that are subject alone, and 1 where there are any: four floats a pixel. */
  colours: Float32Array;
}

/** The subject's own colours near its edge: means over growing windows of what lies too far from the screen to be mixed. */
function sureSubject(picture: Rgba, distance: Float32Array, edge: number): SureSubject {
  const { picture: small, halvings } = halvedTo(picture, 960);
  const { width, height, data } = small;
  const screen = makePlane(width, height);
  for (let i = 0; i < distance.length; i++) {
    if (distance[i]! >= edge) continue;
    const [x, y] = [i % picture.width, (i / picture.width) | 0];
    screen.data[(y >> halvings) * width + (x >> halvings)] = 1;
  }
  const near = windowExtreme(screen, mixingReach, Math.max).data;
  const planes = [0, 1, 2, 3].map(() => makePlane(width, height));
  for (let i = 0; i < near.length; i++) {
    if (near[i]! > 0) continue;
    for (let c = 0; c < 3; c++) planes[c]!.data[i] = data[i * 4 + c]!;
    planes[3]!.data[i] = 1;
  }
  const colours = new Float32Array(width * height * 4);
  for (const radius of [mixingReach, 2 * mixingReach, 4 * mixingReach]) {
    const blurred = planes.map((plane) => boxBlur(plane, radius).data);
    for (let i = 0; i < near.length; i++) {
      const n = blurred[3]![i]!;
      if (colours[i * 4 + 3]! > 0 || n < 0.004) continue;
      for (let c = 0; c < 3; c++) colours[i * 4 + c] = blurred[c]![i]! / n;
      colours[i * 4 + 3] = 1;
    }
  }
  return { halvings, width, near, colours };
}

/**
 * Alpha of a pixel that lies `between` core and edge (0..1). Near the screen it is where the colour lies on the way from
 * the screen to the subject; from the thresholds alone where no subject is near.
 */
function share(picture: Rgba, plate: Float32Array, subject: SureSubject, i: number, between: number): number {
  const [x, y] = [i % picture.width, (i / picture.width) | 0];
  const at = (y >> subject.halvings) * subject.width + (x >> subject.halvings);
  if (subject.near[at] === 0) return between;
  const smooth = between * between * (3 - 2 * between);
  if (subject.colours[at * 4 + 3] === 0) return smooth;
  let along = 0;
  let length = 0;
  for (let c = 0; c < 3; c++) {
    const way = subject.colours[at * 4 + c]! - plate[i * 3 + c]!;
    along += (picture.data[i * 4 + c]! - plate[i * 3 + c]!) * way;
    length += way * way;
  }
  return length < 400 ? smooth : Math.max(0, Math.min(1, along / length));
}

function writeSubject(out: Keyed, picture: Rgba, plate: Float32Array, i: number, alpha: number, spill: number): void {
  const byte = Math.round(alpha * 255);
  const o = i * 4;
  out.alpha.data[i] = byte;
  out.colours.data[o + 3] = byte;
  if (byte === 0) return;
  for (let c = 0; c < 3; c++) {
    const behind = plate[i * 3 + c]!;
    screen[c] = behind;
    colour[c] = Math.max(0, Math.min(255, behind + (picture.data[o + c]! - behind) / Math.max(alpha, 0.06)));
  }
  takeSpill(colour, screen, spill);
  for (let c = 0; c < 3; c++) out.colours.data[o + c] = colour[c]!;
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
