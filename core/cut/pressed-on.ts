import { dilate } from '../pixels/distance.ts';
import { cropRgba, makeBytes, pasteBytes, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { enlargedPlane, resizedMask } from '../pixels/resample.ts';
import { above, borderOf, colourGap, overlap } from './agreement.ts';
import { firstCut, type CoarseCut } from './coarse-cut.ts';
import { CutPicture, levelsOf, type Closeness } from './cut-picture.ts';
import {
  cutOffShare,
  halved,
  judgedEdge,
  placeIn,
  pressSeeds,
  windowAround,
  windowOn,
  type Place,
} from './press-window.ts';
import { refined, wholeOf } from './refine.ts';
import { partsOf } from './parts.ts';
import { partAt } from './strays.ts';

/** Half the side of the windows that are looked through around a press, as shares of the picture's longer side. */
const reaches = [0.12, 0.2, 0.33];
/** Networks see 256 pixels of a window, or nearly as many. */
const closely: Closeness = { segments: 160, seenEdge: 200, again: false, whole: false };
/** What networks see in the whole picture is what was meant where it is this much the same; or less, where its border is clear. */
const seenAsOne = 0.75;
const seenWithBorder = 0.6;
const clearBorder = 0.85;
/** Of things that are borne out as well, the larger is meant: so much for each size of window. */
const preferLarger = 0.15;
/** The whole picture counts as the largest window: what stands out in all of it is not always what was pressed on. */
const wholePicture = reaches.length - 1;
/** A thing that goes on beyond its window was not found: what that takes away, times the share of its border that ends there. */
const cutOff = 2;
/** How much a plain outline counts. */
const plainness = 0.5;
/** Parts smaller than this share of the largest are crumbs. */
const partShare = 0.1;
/** Less of a window is no thing. */
const leastShare = 0.004;

/**
 * What a press may have meant besides what stands out in all of the picture: a small thing before something brighter, one of
 * many alike. Windows around the press are cut as pictures of their own, their rim being ground. Of all guesses that one is
 * taken which is borne out best by its border, by colours that are not found around it, and by what networks see there.
 * @param at the press, in pixels of the picture  @param found what the whole picture has there: 0/1, size of the picture
 * @returns the thing, 0/1, size of the picture; null where what was found is borne out no worse than any other
 */
export function thingAround(cut: CutPicture, at: Place, found: Bytes): Bytes | null {
  const { picture } = cut.levels.at(-1)!;
  const coarse = resizedMask(found, picture.width, picture.height);
  const seen = seenIn(cut, coarse);
  const surrounds = touchesAllSides(coarse);
  const isSeen = seen >= seenAsOne || (seen >= seenWithBorder && borderOf(picture, coarse).strength >= clearBorder);
  if (isSeen && !surrounds) return null;
  // What reaches all sides of a picture is what things stand before.
  const trust = surrounds ? 0 : borneOut(picture, coarse, seen) + preferLarger * wholePicture;
  const half = Math.max(cut.picture.width, cut.picture.height);
  const guesses = reaches.map((reach, size) => guessIn(cut, at, windowAround(at, reach * half, cut.picture), size));
  const best = guesses.reduce((one, other) => (other.trust > one.trust ? other : one));
  if (best.trust <= trust) return null;
  // Once more, with the thing in the middle: nothing of it then lies beyond the window.
  const again = guessIn(cut, at, windowOn(best.mask, best.window, cut.picture), best.size);
  return atFullSize(cut, at, again.trust > best.trust ? again : best);
}

/** A thing that may have been meant. */
interface Guess {
  /** The window it was looked for in, in pixels of the whole picture. */
  window: Rect;
  /** Which of the sizes of windows that is. */
  size: number;
  /** The window, small, and the thing in it. */
  picture: Rgba;
  mask: Bytes;
  /** The cut that led to it, which may hold more than the thing. */
  cut: CoarseCut;
  trust: number;
}

function guessIn(cut: CutPicture, at: Place, window: Rect, size: number): Guess {
  // No finer a copy than networks need.
  const finest = Math.floor(Math.log2(Math.max(window.width, window.height) / closely.seenEdge));
  const halvings = Math.max(0, Math.min(cut.levels.length - 1, finest));
  const { picture } = cut.levels[halvings]!;
  const part = cropRgba(picture, halved(window, halvings));
  const near = new CutPicture(part, cut.look, levelsOf(part, judgedEdge), closely);
  const coarse = near.coarse('subject');
  const found = firstCut(coarse, pressSeeds(window, at, cut.picture, coarse.picture, wholeOf(coarse.picture)));
  const [x, y] = placeIn(window, at, coarse.picture);
  const mask = partAt(found.mask, Math.floor(x), Math.floor(y), coarse.picture, longerIn(window, cut, coarse.picture));
  const trust =
    borneOut(coarse.picture, mask, seenIn(near, mask)) +
    preferLarger * size -
    cutOff * cutOffShare(mask, window, cut.picture);
  return { window, size, picture: coarse.picture, mask, cut: found, trust };
}

/** The longer side of the whole picture, in pixels of a copy of a window. */
const longerIn = (window: Rect, { picture }: CutPicture, { width }: Rgba): number =>
  (Math.max(picture.width, picture.height) * width) / window.width;

/** The thing of a guess, size of the picture. */
function atFullSize(cut: CutPicture, at: Place, { window, cut: { mask, colours }, picture }: Guess): Bytes {
  const levels = levelsOf(cropRgba(cut.picture, window), judgedEdge);
  const seedsOf = (index: number, area: Rect): Bytes =>
    pressSeeds(window, at, cut.picture, levels[index]!.picture, area);
  const [fine] = refined(levels, mask, colours, seedsOf, null);
  const [x, y] = placeIn(window, at, window);
  const out = makeBytes(cut.picture.width, cut.picture.height);
  pasteBytes(
    out,
    partAt(fine!, Math.floor(x), Math.floor(y), picture, longerIn(window, cut, picture)),
    window.x,
    window.y,
  );
  return out;
}

/** How well a guess fits what is in the picture: 0 for none, higher for better. @param seen how much networks see the same */
function borneOut(picture: Rgba, mask: Bytes, seen: number): number {
  const area = mask.data.reduce((sum, v) => sum + v, 0);
  if (area < leastShare * mask.data.length) return 0;
  const border = borderOf(picture, mask);
  const around = dilate(mask, Math.max(4, Math.round(0.5 * Math.sqrt(area))));
  // A thing that is parted, as by a belt, is as plain as its parts are.
  const parts = partsOf(mask).sizes;
  const count = parts.filter((size) => size >= partShare * Math.max(...parts)).length;
  const round = border.length === 0 ? 0 : Math.min(1, (4 * Math.PI * area * count) / border.length ** 2);
  return border.strength + colourGap(picture, mask, around) + seen + plainness * round;
}

/** How much of a mask is what any of the networks sees, at best: intersection over union. */
function seenIn(cut: CutPicture, mask: Bytes): number {
  const overlaps = cut
    .look(cut.seen())
    .map((map) => overlap(mask, above(enlargedPlane(map, mask.width, mask.height), 0.5)));
  return Math.max(0, ...overlaps);
}

function touchesAllSides({ width, height, data }: Bytes): boolean {
  const row = (y: number): boolean => data.subarray(y * width, (y + 1) * width).includes(1);
  const column = (x: number): boolean => Array.from({ length: height }, (_, y) => data[y * width + x]).includes(1);
  return row(0) && row(height - 1) && column(0) && column(width - 1);
}
