import { exposureOf } from '../learned/exposure.ts';
import { boxBlur, boxCounts } from '../pixels/filters.ts';
import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { averagedTo, enlargedPlane } from '../pixels/resample.ts';
import { brightness, slopesOf } from '../pixels/slopes.ts';
import { touchesOf, type Superpixels } from '../pixels/superpixels.ts';

/**
 * Pixels of the longer side of a picture at which focus is told. Made larger, everything is softer from pixel to pixel, and a
 * picture that is sharp from front to back would seem shallow; made smaller, what is out of focus seems sharp.
 */
const toldAt = 900;
/** A smaller picture is made no larger than this many times: there is nothing finer in it. */
const mostEnlarged = 1.25;

/** How strongly brightness changes (bytes a pixel), narrowly and widely smoothed. */
interface Edges {
  narrow: Plane;
  wide: Plane;
}

/** An edge that narrow smoothing shows so much more strongly than wide smoothing is in focus. */
const sharpRatio = 1.5;
/** Weaker than this, an edge may be noise; a blurred one has been averaged and is surer. */
const [leastSharp, leastBlurred] = [6, 0.9];
/** No edge counts more than one of this strength. */
const mostStrength = 17;
/** Pixels around a sharp edge that say nothing of blur: its own foot lies there. */
const footOfEdge = 5;
/** Share of what is seen of blur, and share of the picture's rim that is sharp, at which focus says nothing and all it can. */
const [littleBlur, muchBlur] = [0.2, 0.45];
const [wholeRim, freeRim] = [0.3, 0.15];
/** Log odds of a place that is surely in focus, or surely not. */
export const focusStrength = 3;

/**
 * What focus says of a subject, as log odds for every superpixel, or null where it says nothing: a lens that is focused on one
 * thing leaves the rest soft. Edges are told apart by how they weaken when smoothed, after Zhuo & Sim 2011 (Defocus map
 * estimation from a single image); what has no edges follows what is like it.
 * @param luma from `brightnessOf` or `atSizeOfFocus`, 0..255  @param segments superpixels of the picture, at any size
 */
export function focusEvidence(luma: Plane, segments: Superpixels): Float32Array | null {
  const edges: Edges = { narrow: slopesOf(boxBlur(luma, 1)), wide: slopesOf(boxBlur(boxBlur(luma, 2), 2)) };
  const sharp = sharpOf(edges);
  const near = boxCounts(sharp, footOfEdge);
  const [crisp, soft] = [makePlane(luma.width, luma.height), makePlane(luma.width, luma.height)];
  let [crispSum, softSum] = [0, 0];
  for (let i = 0; i < near.length; i++) {
    const wide = edges.wide.data[i]!;
    if (sharp.data[i]) crisp.data[i] = Math.min(mostStrength, edges.narrow.data[i]!);
    else if (!near[i] && wide > leastBlurred) soft.data[i] = Math.min(mostStrength, wide);
    crispSum += crisp.data[i]!;
    softSum += soft.data[i]!;
  }
  if (crispSum === 0) return null;
  const shallow =
    ramp(softSum / (crispSum + softSum), littleBlur, muchBlur) * ramp(rimShare(near, luma), wholeRim, freeRim);
  if (shallow === 0) return null;
  return spread(segments, meansOver(crisp, segments), meansOver(soft, segments)).map(
    (v) => v * focusStrength * shallow,
  );
}

/** 0 up to `from`, 1 beyond `to`, which may be lower. */
const ramp = (value: number, from: number, to: number): number =>
  Math.max(0, Math.min(1, (value - from) / (to - from)));

/**
 * Brightness alone: in most files colour is stored at half the size, and soft everywhere. In dark and in light pictures it is first
 * brought to where photographs have it, or nothing dark would show an edge.
 */
export function brightnessOf(picture: Rgba): Plane {
  const exposed = exposureOf(picture) ?? Float32Array.from({ length: 256 }, (_, v) => v / 255);
  return brightness(picture, exposed);
}

/** The same at the size at which focus is told, however large the picture is. @param picture or a copy of it no smaller than that */
export function atSizeOfFocus(picture: Rgba): Plane {
  const { width, height } = picture;
  const scale = Math.min(mostEnlarged, toldAt / Math.max(width, height));
  const size = [Math.round(width * scale), Math.round(height * scale)] as const;
  return scale < 1 ? brightnessOf(averagedTo(picture, ...size)) : enlargedPlane(brightnessOf(picture), ...size);
}

/** Edges in focus; a single pixel among others is noise. */
function sharpOf({ narrow, wide }: Edges): Bytes {
  const { width, height } = narrow;
  const found = makeBytes(width, height);
  for (let i = 0; i < found.data.length; i++)
    found.data[i] = narrow.data[i]! > leastSharp && narrow.data[i]! > sharpRatio * wide.data[i]! ? 1 : 0;
  // Of the 25 pixels around and of it.
  const crowd = boxCounts(found, 2);
  const sharp = makeBytes(width, height);
  for (let i = 0; i < sharp.data.length; i++) sharp.data[i] = found.data[i] && crowd[i]! > 2 ? 1 : 0;
  return sharp;
}

/** Share of the picture's rim that lies near sharp edges. */
function rimShare(places: ArrayLike<number>, { width, height }: Plane): number {
  const rim = Math.round(0.04 * Math.max(width, height));
  let [near, all] = [0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (x >= rim && y >= rim && x < width - rim && y < height - rim) continue;
      if (places[y * width + x]) near++;
      all++;
    }
  return near / all;
}

function meansOver(plane: Plane, { width, height, labels, count }: Superpixels): Float32Array {
  const [sums, sizes] = [new Float32Array(count), new Float32Array(count)];
  for (let y = 0; y < plane.height; y++) {
    const row = Math.min(height - 1, Math.floor(((y + 0.5) * height) / plane.height)) * width;
    for (let x = 0; x < plane.width; x++) {
      const label = labels[row + Math.min(width - 1, Math.floor(((x + 0.5) * width) / plane.width))]!;
      sums[label]! += plane.data[y * plane.width + x]!;
      sizes[label]! += 1;
    }
  }
  return sums.map((sum, k) => sum / Math.max(1, sizes[k]!));
}

/** Edge strength (mean over a superpixel) at which half is known of it. */
const halfKnown = 0.7;
/** What lies at the rim and shows no edge is a little more likely not meant. */
const rimDoubt = 0.15;
const spreadRounds = 60;

/** From -1 (out of focus) to 1 (in focus): what superpixels show themselves, and what their neighbours of like colour do. */
function spread(segments: Superpixels, crisp: Float32Array, soft: Float32Array): Float32Array {
  const { count } = segments;
  const own = new Float32Array(count);
  const weight = new Float32Array(count);
  const atRim = rimSegments(segments);
  for (let k = 0; k < count; k++) {
    const shown = crisp[k]! + soft[k]!;
    own[k] = shown > 0 ? (crisp[k]! - soft[k]!) / shown : 0;
    weight[k] = shown / (shown + halfKnown);
    if (!atRim[k]) continue;
    own[k] = (own[k]! * weight[k]! - rimDoubt) / (weight[k]! + rimDoubt);
    weight[k]! += rimDoubt;
  }
  const links = likeNeighbours(segments);
  const value = own.map((v, k) => v * weight[k]!);
  for (let round = 0; round < spreadRounds; round++)
    for (let k = 0; k < count; k++) {
      let [sum, total] = [own[k]! * weight[k]!, weight[k]! + 0.02];
      for (const { to, like } of links[k]!) {
        sum += like * value[to]!;
        total += like;
      }
      value[k] = sum / total;
    }
  return value;
}

interface Link {
  to: number;
  /** 0..1, by colour. */
  like: number;
}

function likeNeighbours(segments: Superpixels): Link[][] {
  const { count, lab } = segments;
  const touching = touchesOf(segments);
  const links: Link[][] = [];
  for (let a = 0; a < count; a++) {
    const own: Link[] = [];
    for (let b = 0; b < count; b++) {
      if (!touching[a * count + b]) continue;
      const [l, m, n] = [0, 1, 2].map((c) => lab[a * 3 + c]! - lab[b * 3 + c]!) as [number, number, number];
      own.push({ to: b, like: 0.5 * Math.exp(-(l * l + m * m + n * n) / 100) });
    }
    links.push(own);
  }
  return links;
}

function rimSegments({ width, height, labels, count }: Superpixels): Uint8Array {
  const atRim = new Uint8Array(count);
  for (let x = 0; x < width; x++) for (const y of [0, height - 1]) atRim[labels[y * width + x]!] = 1;
  for (let y = 0; y < height; y++) for (const x of [0, width - 1]) atRim[labels[y * width + x]!] = 1;
  return atRim;
}
