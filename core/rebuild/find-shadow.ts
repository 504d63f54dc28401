import { coverByDabs } from '../cut/cover.ts';
import { movedStroke, type Stroke } from '../cut/strokes.ts';
import { dilate } from '../pixels/distance.ts';
import { notEmpty, withColoursGoingOn } from '../pixels/emptiness.ts';
import type { Progress } from '../pixels/progress.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  type Bytes,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { halvedTo, halveMask } from '../pixels/resample.ts';
import { NothingToContinue, rebuild } from './fill.ts';
import { holeBehind } from './hole.ts';
import { linesBehind } from './lines-behind.ts';
import { shadowAlpha } from './shadow.ts';

const smallSize = 360;
/** Share of light that must be missing for a pixel to count as shadow. */
const faintest = 0.07;
/** A shadow is no smaller than this share of what is looked at, or of its piece where that is little. */
const smallest = { ofAll: 0.0015, ofPiece: 0.02 };
/** Share of a shadow's greatest darkness that its body has: at the first look, and at the second. */
const [roughBody, bodyShare] = [0.5, 0.3];
/** How far the second look goes beyond the body, and a rim reaches, of the body's lesser side. */
const [lookAgain, rimShare] = [0.6, 0.4];
/** Darkness that a shadow must reach somewhere to be worth lifting. */
const worthwhile = 0.16;

/**
 * Looks for a shadow or reflection that touches a piece: the ground around its lower part is rebuilt from further away, at
 * a small size, and compared; then once more with only what looked like a shadow taken out.
 * @param alpha of the piece, 0..255
 * @returns strokes that cover the shadow generously, in picture pixels, or null where there is none, or none can be told
 * @throws Cancelled
 */
export async function findShadow(picture: Rgba, alpha: Bytes, progress?: Progress): Promise<Stroke[] | null> {
  const solid: Bytes = { ...alpha, data: alpha.data.map((a) => (a > 25 ? 1 : 0)) };
  const piece = boundsOf(solid);
  if (!piece) return null;
  // A thing that is small in its picture is looked at from as near as a large one.
  const room = Math.ceil(1.2 * Math.max(piece.width, piece.height)) + 24;
  const area = growRect(piece, room, picture.width, picture.height);
  const near = withColoursGoingOn(cropRgba(picture, area));
  const found = await shadowNear(near, cropBytes(solid, area), progress).catch((error: unknown) => {
    // In a narrow strip of a picture there is no ground to compare with.
    if (error instanceof NothingToContinue) return null;
    throw error;
  });
  return found && found.map((stroke) => movedStroke(stroke, -area.x, -area.y));
}

/** The same within a part of the picture. @param solid 1 where the piece is, else 0 */
async function shadowNear(picture: Rgba, solid: Bytes, progress?: Progress): Promise<Stroke[] | null> {
  const { picture: small, halvings } = halvedTo(picture, smallSize);
  const shrink = 2 ** halvings;
  let mask = solid;
  for (let k = 0; k < halvings; k++) mask = halveMask(mask);
  mask = { ...mask, data: mask.data.map((a) => (a ? 255 : 0)) };
  const bounds = boundsOf(mask);
  if (!bounds) return null;
  const under = holeBehind(mask, 2);
  const region = notEmpty(groundAround(mask, bounds), small);
  const room = region.data.reduce((sum, v, i) => sum + (v | under.data[i]!), 0) / region.data.length;
  if (room > 0.6) return null;
  // What hovers throws its shadow a little apart.
  const reach = 4 + Math.round(0.2 * bounds.height);
  const first = await darkness(small, region, under, reach, progress);
  const body = first && bodyOf(first, under, reach, roughBody);
  if (!body) return null;
  // With only the body taken out, the ground goes on from beside it and not from whatever is farther away.
  const lesser = Math.min(body.bounds.width, body.bounds.height);
  const near = dilate(body.mask, lookAgain * lesser + 6);
  const around: Bytes = { ...near, data: near.data.map((v, i) => v & region.data[i]!) };
  const second = await darkness(small, around, under, reach, progress);
  const found = second && withRim(second, under, reach);
  return found && coverByDabs(found, { factor: 1.35, more: 3, scale: shrink });
}

/**
 * How much light is missing within the region, 0..255. A shadow is darker than every way in which the ground may go on; what
 * one fill got wrong, another does not. Null as soon as nothing beside the piece is dark enough any more: a further fill
 * cannot make it darker.
 */
async function darkness(
  picture: Rgba,
  region: Bytes,
  under: Bytes,
  reach: number,
  progress: Progress | undefined,
): Promise<Bytes | null> {
  const hole = { ...region, data: region.data.map((v, i) => v | under.data[i]!) };
  const dark: Bytes = makeBytes(picture.width, picture.height, 255);
  // What runs into the hole is the same for every fill.
  const lines = await linesBehind(picture, hole, [], progress);
  for (const seed of [1, 3, 4]) {
    const clean = await rebuild({ picture, hole, seed, lines, linesKnown: true }, progress);
    const found = await shadowAlpha(picture, clean, region, under, progress);
    for (let i = 0; i < dark.data.length; i++) dark.data[i] = Math.min(dark.data[i]!, found.data[i]!);
    if (deepestBeside(dark, under, reach) < worthwhile) return null;
  }
  return dark;
}

/** Where the piece's shadow would fall: beside and below its lower half. */
function groundAround(mask: Bytes, bounds: { x: number; y: number; width: number; height: number }): Bytes {
  const region = makeBytes(mask.width, mask.height);
  const cx = bounds.x + bounds.width / 2;
  const foot = bounds.y + bounds.height;
  const across = bounds.width * 0.95 + 8;
  const down = Math.min(bounds.height * 0.55, bounds.width * 0.8) + 6;
  for (let y = 0; y < mask.height; y++) {
    for (let x = 0; x < mask.width; x++) {
      if (((x + 0.5 - cx) / across) ** 2 + ((y + 0.5 - foot) / down) ** 2 < 1) region.data[y * mask.width + x] = 1;
    }
  }
  return region;
}

/** The greatest darkness within `reach` of the piece, 0..1. */
function deepestBeside(dark: Bytes, under: Bytes, reach: number): number {
  const near = dilate(under, reach);
  let most = 0;
  for (let i = 0; i < dark.data.length; i++) if (near.data[i] && !under.data[i]) most = Math.max(most, dark.data[i]!);
  return most / 255;
}

/** What of the darkness hangs together, begins within `reach` of the piece and has a share of the greatest there. */
function bodyOf(dark: Bytes, under: Bytes, reach: number, share: number): { mask: Bytes; bounds: Rect } | null {
  const deepest = deepestBeside(dark, under, reach);
  if (deepest < worthwhile) return null;
  const mask = opened(connected(dark, under, dilate(under, reach), Math.max(faintest, share * deepest) * 255));
  const bounds = boundsOf(mask);
  return bounds && { mask, bounds };
}

/**
 * The body of the shadow with its faint rim, which is taken only near it: a ground whose colours wander looks a little
 * shaded in many places. Null when it is too small or too faint.
 */
function withRim(dark: Bytes, under: Bytes, reach: number): Bytes | null {
  const body = bodyOf(dark, under, reach, bodyShare);
  if (!body) return null;
  const rim = dilate(body.mask, rimShare * Math.min(body.bounds.width, body.bounds.height) + 3);
  const faint = connected(dark, under, body.mask, faintest * 255);
  const found = opened({ ...faint, data: faint.data.map((v, i) => v & rim.data[i]!) });
  const [count, thing] = [found, under].map(({ data }) => data.reduce((sum, v) => sum + v, 0)) as [number, number];
  const enough = Math.min(smallest.ofAll * dark.data.length, smallest.ofPiece * thing);
  return count > enough ? found : null;
}

/** Pixels at least so dark, and not under the piece, that hang together with those of `from`. */
function connected(dark: Bytes, under: Bytes, from: Bytes, least: number): Bytes {
  const { width, height } = dark;
  const found = makeBytes(width, height);
  const queue: number[] = [];
  const take = (i: number): void => {
    if (found.data[i] || under.data[i] || dark.data[i]! < least) return;
    found.data[i] = 1;
    queue.push(i);
  };
  for (let i = 0; i < from.data.length; i++) if (from.data[i]) take(i);
  while (queue.length > 0) {
    const i = queue.pop()!;
    if (i % width > 0) take(i - 1);
    if (i % width < width - 1) take(i + 1);
    if (i >= width) take(i - width);
    if (i + width < found.data.length) take(i + width);
  }
  return found;
}

/** The mask without what is thinner than five pixels: threads along posts and ropes are not the shadow. */
function opened(mask: Bytes): Bytes {
  const outside: Bytes = { ...mask, data: mask.data.map((v) => 1 - v) };
  const near = dilate(outside, 2);
  const kept = dilate({ ...mask, data: mask.data.map((v, i) => (v && !near.data[i] ? 1 : 0)) }, 2);
  return { ...kept, data: kept.data.map((v, i) => v & mask.data[i]!) };
}
