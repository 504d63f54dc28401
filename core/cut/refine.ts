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
import type { ColourRatio } from './colour-model.ts';
import { smoothness } from './coarse-cut.ts';
import { FREE, KEEP, solveGraphCut } from './graph-cut.ts';
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

/** So many cells around a change are looked at for what a Drop stroke leaves over. */
const remnantReach = 6;

/** The cells within which a change of these cells can change anything; null for none. */
export function reachOf(cells: Bytes): Rect | null {
  const bounds = boundsOf(cells);
  return bounds && growRect(bounds, remnantReach, cells.width, cells.height);
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
    const { picture: whole, beta } = levels[index]!;
    const area = cells ? scaledRect(cells, whole.width / coarse.width, whole) : wholeOf(whole);
    const picture = cells ? cropRgba(whole, area) : whole;
    const seeds = seedsOf(index, area, picture);
    const mask = enlargedPart(masks[index + 1]!, whole, area);
    const within = change && enlargedPart(change.cells, whole, area);
    const before = change && cropBytes(change.before[index]!, area);
    for (let i = 0; i < mask.data.length; i++) {
      if (within && before && !within.data[i]) mask.data[i] = before.data[i]!;
      else if (seeds.data[i] !== FREE) mask.data[i] = seeds.data[i] === KEEP ? 1 : 0;
    }
    const active = bandWithThinParts(picture, mask, seeds, colours, within);
    solveGraphCut({ picture, seeds, mask, active, colours, prior: null, smoothness: smoothness * 0.6, beta });
    dropSpecks(mask, seeds, index === 0 ? 24 : 12, active);
    if (change) onlyOneWay(mask, before!, seeds, change.keeps);
    if (change && !change.keeps)
      dropRemnants(mask, before!, seeds, enlargedPart(coarse, whole, area), openSides(area, whole));
    if (change) pasteBytes((masks[index] = copyOf(change.before[index]!)), mask, area.x, area.y);
    else masks[index] = mask;
  }
  return masks;
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
  for (let y = 0; y < area.height; y++) {
    const row =
      Math.min(coarse.height - 1, Math.floor(((area.y + y + 0.5) * coarse.height) / finer.height)) * coarse.width;
    for (let x = 0; x < area.width; x++) out.data[y * area.width + x] = coarse.data[row + columns[x]!]!;
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
