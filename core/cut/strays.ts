import { partsOf } from './parts.ts';
import { squaredDistance } from '../pixels/distance.ts';
import { makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { resizedMask } from '../pixels/resample.ts';
import { KEEP } from './graph-cut.ts';

/** Smaller than this share of the largest part, and farther from it than this share of the picture's longer side. */
const smallShare = 0.12;
const farShare = 0.035;

/**
 * Takes small parts away that lie apart from the largest one: lights behind a figure look like a part of it, but are none.
 * What a Keep stroke touches stays.
 */
export function dropStrays(mask: Bytes, seeds: Bytes): void {
  const { width, height, data } = mask;
  const { label, sizes } = partsOf(mask);
  if (sizes.length < 2) return;
  const largest = sizes.indexOf(Math.max(...sizes));
  const main = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) main.data[i] = label[i] === largest + 1 ? 1 : 0;
  const distance = squaredDistance(main);
  const stays = sizes.map((size, k) => k === largest || size >= smallShare * sizes[largest]!);
  const far = (farShare * Math.max(width, height)) ** 2;
  for (let i = 0; i < data.length; i++)
    if (data[i] && (distance[i]! <= far || seeds.data[i] === KEEP)) stays[label[i]! - 1] = true;
  for (let i = 0; i < data.length; i++) if (data[i] && !stays[label[i]! - 1]) data[i] = 0;
}

/**
 * Parts of one thing lie close together, as shares of the picture's longer side. Two that are alike, in size and colour, may as well
 * be two things: they have to lie closer.
 */
const close = 0.045;
const closeAlike = 0.015;
/** How far apart mean colours (0..255) of what is alike may be. */
const alikeColour = 15;

/**
 * Only the part that lies at a place, or nearest to it, with those that belong to it: of several things the one that was pressed
 * on.
 * @param mask 0/1, of which nothing is changed  @param coarse the picture at a size at which distances and colours are measured
 * @param longer the longer side that distances are shares of, in pixels of `coarse`
 */
export function partAt(
  mask: Bytes,
  x: number,
  y: number,
  coarse: Rgba,
  longer = Math.max(coarse.width, coarse.height),
): Bytes {
  const { width, height, data } = mask;
  const { label, sizes } = partsOf(mask);
  let [chosen, nearest] = [0, Infinity];
  for (let v = 0; v < height; v++)
    for (let u = 0; u < width; u++) {
      const own = label[v * width + u]!;
      if (own === 0) continue;
      const away = (u - x) ** 2 + (v - y) ** 2;
      if (away < nearest) [chosen, nearest] = [own, away];
    }
  const only = makeBytes(width, height);
  for (let i = 0; i < label.length; i++) only.data[i] = chosen > 0 && label[i] === chosen ? 1 : 0;
  if (sizes.length < 2) return only;
  const distance = squaredDistance(resizedMask(only, coarse.width, coarse.height));
  const apart = sizes.map(() => Infinity);
  const colours = sizes.map(() => [0, 0, 0]);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y * (coarse.height / height)) * coarse.width;
    for (let x = 0; x < width; x++) {
      const part = label[y * width + x]! - 1;
      if (part < 0) continue;
      const at = row + Math.floor(x * (coarse.width / width));
      if (distance[at]! < apart[part]!) apart[part] = distance[at]!;
      for (let c = 0; c < 3; c++) colours[part]![c]! += coarse.data[4 * at + c]! / sizes[part]!;
    }
  }
  const isAlike = (one: number, other: number): boolean =>
    2 * Math.min(sizes[one]!, sizes[other]!) > Math.max(sizes[one]!, sizes[other]!) &&
    Math.hypot(...colours[one]!.map((value, c) => value - colours[other]![c]!)) < alikeColour;
  const stays = sizes.map((_, part) => {
    const share = part !== chosen - 1 && isAlike(part, chosen - 1) ? closeAlike : close;
    return apart[part]! <= (share * longer) ** 2;
  });
  for (let i = 0; i < data.length; i++) only.data[i] = label[i] && stays[label[i]! - 1] ? 1 : 0;
  return only;
}

/** Parts below this share of the largest go together with one of them that is dropped. */
const alikeShare = 0.25;

/**
 * A Drop stroke on a part that lies by itself means all of it, unless a Keep stroke touches it or it is the largest; other small
 * parts that nobody asked for go with a small one.
 * @param mask what is left after the stroke  @param before the mask before it  @param drawn 1 where the stroke was drawn
 */
export function dropWholeParts(mask: Bytes, before: Bytes, seeds: Bytes, drawn: Bytes): void {
  const { label, sizes } = partsOf(before);
  if (sizes.length < 2) return;
  const most = Math.max(...sizes);
  const kept = sizes.map((size) => size === most);
  const struck = sizes.map(() => false);
  for (let i = 0; i < label.length; i++) {
    const part = label[i]! - 1;
    if (part < 0) continue;
    if (seeds.data[i] === KEEP) kept[part] = true;
    if (drawn.data[i]) struck[part] = true;
  }
  const small = sizes.map((size) => size < alikeShare * most);
  const smallStruck = sizes.some((_, part) => struck[part]! && !kept[part]! && small[part]!);
  const goes = sizes.map((_, part) => !kept[part]! && (struck[part]! || (smallStruck && small[part]!)));
  for (let i = 0; i < label.length; i++) if (label[i] && goes[label[i]! - 1]) mask.data[i] = 0;
}

/**
 * What a Drop stroke takes is decided coarsely, while the mask before it may reach farther at a finer level: what is left there, beside
 * what was taken and hanging together with nothing that stays, goes with it.
 * @param mask what is left after the stroke, in a part of a level  @param before the same part before it
 * @param coarse the coarsest decision about that part, 1 where something stays
 * @param open which sides of the part have more of the picture beyond them
 */
export function dropRemnants(mask: Bytes, before: Bytes, seeds: Bytes, coarse: Bytes, open: Sides): void {
  const { width, height, data } = mask;
  const beyond = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) beyond.data[i] = data[i]! & (1 - coarse.data[i]!);
  const { label, sizes } = partsOf(beyond);
  const [hangs, beside] = [sizes.map(() => false), sizes.map(() => false)];
  for (let i = 0; i < label.length; i++) {
    if (!label[i]) continue;
    const part = label[i]! - 1;
    const [x, y] = [i % width, Math.floor(i / width)];
    if (seeds.data[i] === KEEP) hangs[part] = true;
    if ((x === 0 && open.left) || (x === width - 1 && open.right)) hangs[part] = true;
    if ((y === 0 && open.top) || (y === height - 1 && open.bottom)) hangs[part] = true;
    for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
      for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        const j = v * width + u;
        if (data[j] && !label[j]) hangs[part] = true;
        if (before.data[j] && !data[j]) beside[part] = true;
      }
  }
  for (let i = 0; i < label.length; i++) if (label[i] && beside[label[i]! - 1] && !hangs[label[i]! - 1]) data[i] = 0;
}

/** The sides of a part of a picture. */
export interface Sides {
  left: boolean;
  top: boolean;
  right: boolean;
  bottom: boolean;
}
