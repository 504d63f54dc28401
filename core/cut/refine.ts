import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  pasteBytes,
  type Bytes,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { boundaryBand } from './band.ts';
import type { ColourRatio } from './colour-model.ts';
import { smoothness } from './coarse-cut.ts';
import { DROP, FREE, KEEP, solveGraphCut } from './graph-cut.ts';
import { dropRemnants, type Sides } from './strays.ts';
import { bandWithThinParts, dropSpecks } from './thin-parts.ts';

/** One size of a picture: the first is the picture itself, each later one half as large. */
export interface Level {
  picture: Rgba;
  beta: number;
}

/** The user's decisions on a part of a level, whose pixels are `picture`. */
export type SeedsOf = (index: number, area: Rect, picture: Rgba) => Bytes;

export interface Change {
  /** Cells of the coarsest level whose finer pixels are decided again. */
  cells: Bytes;
  /** The masks before, for every level. */
  before: readonly Bytes[];
  /** Whether only something may be added, or only something taken away. */
  keeps: boolean;
}

/** Pixels of a level up to which thin parts are looked for: at twice that size a wire has been found before, and only its edge is left to find. */
const thinPartsUpTo = 6e6;

/** So many cells around a change are looked at for what a Drop stroke leaves over. */
const remnantReach = 6;

/** The cells within which a change of these cells can change anything; null for none. */
export function reachOf(cells: Bytes): Rect | null {
  const bounds = boundsOf(cells);
  return bounds && growRect(bounds, remnantReach, cells.width, cells.height);
}

/** What one level is solved from. */
interface LevelStep {
  level: Level;
  /** The mask of the level below. */
  coarser: Bytes;
  colours: ColourRatio;
  change: Change | null;
  /** The mask of this level before the change. */
  before: Bytes | null;
  /** Pixels of the largest speck. */
  speck: number;
}

/** A part of a level, and the user's decisions on it. */
interface Part {
  area: Rect;
  picture: Rgba;
  seeds: Bytes;
}

/**
 * Takes a coarse mask to full size, level by level, each solved again in a narrow band only.
 * @param coarse mask of the last level  @param change where only a part is to be decided again; null for all of it
 * @returns a mask for every level, the full one first; masks that were given are not written to
 */
export function refined(
  levels: readonly Level[],
  coarse: Bytes,
  colours: ColourRatio,
  seedsOf: SeedsOf,
  change: Change | null,
): Bytes[] {
  const masks: Bytes[] = [];
  masks[levels.length - 1] = coarse;
  const cells = change && reachOf(change.cells)!;
  for (let index = levels.length - 2; index >= 0; index--) {
    const level = levels[index]!;
    const whole = level.picture;
    const area = cells ? scaledRect(cells, whole.width / coarse.width, whole) : wholeOf(whole);
    const picture = cells ? cropRgba(whole, area) : whole;
    const part = { area, picture, seeds: seedsOf(index, area, picture) };
    const before = change && change.before[index]!;
    const step: LevelStep = {
      level,
      coarser: masks[index + 1]!,
      colours,
      change,
      before,
      speck: index === 0 ? 24 : 12,
    };
    const mask = isLarge(whole) ? solvedInTiles(step, part) : solvedPart(step, part);
    if (change && !change.keeps)
      dropRemnants(
        mask,
        cropBytes(before!, area),
        part.seeds,
        enlargedPart(coarse, whole, area),
        openSides(area, whole),
      );
    if (change) pasteBytes((masks[index] = copyOf(before!)), mask, area.x, area.y);
    else masks[index] = mask;
  }
  return masks;
}

const isLarge = ({ width, height }: { width: number; height: number }): boolean => width * height > thinPartsUpTo;

/** The mask of a part of a level. */
function solvedPart({ level, coarser, colours, change, before, speck }: LevelStep, part: Part): Bytes {
  const { area, picture, seeds } = part;
  const mask = enlargedPart(coarser, level.picture, area);
  const within = change && enlargedPart(change.cells, level.picture, area);
  const old = before && cropBytes(before, area);
  begin(mask, seeds, within, old);
  const active = isLarge(level.picture)
    ? boundaryBand(mask, 3, within)
    : bandWithThinParts(picture, mask, seeds, colours, within);
  const { beta } = level;
  solveGraphCut({ picture, seeds, mask, active, colours, prior: null, smoothness: smoothness * 0.6, beta });
  dropSpecks(mask, seeds, speck, active);
  if (change) onlyOneWay(mask, old!, seeds, change.keeps);
  return mask;
}

/** What the coarser level and the strokes say; outside of a change all is as it was. */
function begin({ data }: Bytes, { data: asked }: Bytes, within: Bytes | null, old: Bytes | null): void {
  for (let i = 0; i < data.length; i++) {
    if (within && !within.data[i]) data[i] = old!.data[i]!;
    else if (asked[i] !== FREE) data[i] = asked[i] === KEEP ? 1 : 0;
  }
}

/** Pixels of a tile's side, and how far beyond it is looked when it is solved. */
const [tileSide, tileMargin] = [256, 20];

/** As `solvedPart`, but only where a boundary runs: a large level is mostly inside and outside. */
function solvedInTiles(step: LevelStep, { area, picture, seeds }: Part): Bytes {
  const { level, coarser, change, before } = step;
  const mask = change ? cropBytes(before!, area) : enlargedPart(coarser, level.picture, area);
  for (let y = 0; y < area.height; y += tileSide)
    for (let x = 0; x < area.width; x += tileSide) {
      const tile = { x, y, width: Math.min(tileSide, area.width - x), height: Math.min(tileSide, area.height - y) };
      const grown = growRect(tile, tileMargin, area.width, area.height);
      const inLevel = { ...grown, x: area.x + grown.x, y: area.y + grown.y };
      if (change && valueUnder(change.cells, level.picture, inLevel) === 0) continue;
      const asked = cropBytes(seeds, grown);
      // All inside or all outside, as it was, and no stroke says otherwise.
      const value = valueUnder(coarser, level.picture, inLevel);
      const stays = value !== null && (!before || isAll(cropBytes(before, inLevel), value));
      if (stays && !asked.data.includes(value ? DROP : KEEP)) continue;
      const solved = solvedPart(step, { area: inLevel, picture: cropRgba(picture, grown), seeds: asked });
      const inner = { ...tile, x: x - grown.x, y: y - grown.y };
      pasteBytes(mask, cropBytes(solved, inner), x, y);
    }
  return mask;
}

const isAll = ({ data }: Bytes, value: number): boolean => !data.includes(1 - value);

/** What a coarser mask says of all of an area of a finer level; null where it says both. */
function valueUnder(coarse: Bytes, finer: { width: number; height: number }, area: Rect): number | null {
  const { x, y, width, height } = scaledRect(area, coarse.width / finer.width, coarse);
  const value = coarse.data[y * coarse.width + x]!;
  for (let row = y; row < y + height; row++)
    for (let i = row * coarse.width + x, end = i + width; i < end; i++) if (coarse.data[i] !== value) return null;
  return value;
}

/** A Keep stroke takes nothing away on its way, and a Drop stroke adds nothing, but where earlier strokes ask for it. */
function onlyOneWay(mask: Bytes, before: Bytes, seeds: Bytes, keeps: boolean): void {
  const stays = keeps ? 1 : 0;
  for (let i = 0; i < mask.data.length; i++)
    if (before.data[i] === stays && seeds.data[i] === FREE) mask.data[i] = stays;
}

const openSides = ({ x, y, width, height }: Rect, whole: { width: number; height: number }): Sides => ({
  left: x > 0,
  top: y > 0,
  right: x + width < whole.width,
  bottom: y + height < whole.height,
});

export const wholeOf = ({ width, height }: { width: number; height: number }): Rect => ({ x: 0, y: 0, width, height });
const copyOf = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.slice() });

/** The part of a coarser mask that lies under `area` of the finer level, at the finer size. */
function enlargedPart(coarse: Bytes, finer: { width: number; height: number }, area: Rect): Bytes {
  const out = makeBytes(area.width, area.height);
  const columns = Int32Array.from({ length: area.width }, (_, x) =>
    Math.min(coarse.width - 1, Math.floor(((area.x + x + 0.5) * coarse.width) / finer.width)),
  );
  let last = -1;
  for (let y = 0; y < area.height; y++) {
    const start = y * area.width;
    const row = Math.min(coarse.height - 1, Math.floor(((area.y + y + 0.5) * coarse.height) / finer.height));
    if (row === last) out.data.copyWithin(start, start - area.width, start);
    else for (let x = 0; x < area.width; x++) out.data[start + x] = coarse.data[row * coarse.width + columns[x]!]!;
    last = row;
  }
  return out;
}

/** A rectangle at another scale, with two pixels to spare, within a picture. */
export function scaledRect(rect: Rect, scale: number, within: { width: number; height: number }): Rect {
  const x = Math.max(0, Math.floor(rect.x * scale) - 2);
  const y = Math.max(0, Math.floor(rect.y * scale) - 2);
  return {
    x,
    y,
    width: Math.min(within.width, Math.ceil((rect.x + rect.width) * scale) + 2) - x,
    height: Math.min(within.height, Math.ceil((rect.y + rect.height) * scale) + 2) - y,
  };
}
