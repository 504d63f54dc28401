import { boundsOf, cropBytes, type Bytes, type Rect } from '../pixels/raster.ts';

/**
 * A box is drawn closely around a thing (V. Lempitsky and others 2009, "Image segmentation with a bounding box prior"): what
 * reaches from side to side of it is what was meant, and what leaves most of it empty is only a part of that.
 */

/** What reaches over this share of a box both ways is as good as any. */
const closeEnough = 0.75;
/** What was found otherwise must reach so much further to be taken instead. */
const further = 0.1;
/** Share of a thing that may lie beside the box that was drawn around it. */
const mostBeside = 0.05;

/** Masks of every size, the full one first. */
export type Masks = readonly Bytes[];

/** Over which share of a box a mask reaches, the way in which it reaches less far: 0 for nothing, 1 from side to side both ways. */
export function reachWithin(mask: Bytes, box: Rect): number {
  const bounds = boundsOf(mask);
  return bounds ? Math.min(bounds.width / box.width, bounds.height / box.height) : 0;
}

/**
 * Of what can be found in a box the first that fills it well enough, or else what fills it best; what comes later is not looked for
 * then, and is taken only where it is clearly better.
 * @param ways to find something, each null where there is nothing
 */
export function fillingBest(box: Rect, ways: readonly [() => Masks, ...(() => Masks | null)[]]): Masks {
  let best = ways[0]();
  let reach = reachWithin(best[0]!, box);
  for (const way of ways.slice(1)) {
    if (reach >= closeEnough) break;
    const masks = way();
    const theirs = masks ? reachWithin(masks[0]!, box) : 0;
    if (!masks || theirs < reach + further) continue;
    best = masks;
    reach = theirs;
  }
  return best;
}

/**
 * What was found in a whole picture, as far as it lies in a box; null where it goes on beyond it, as the box then means a part.
 * @param area of the picture around the box  @param box in pixels of that area
 * @returns size of the area
 */
export function foundWithin(whole: Bytes, area: Rect, box: Rect): Bytes | null {
  const mask = cropBytes(whole, area);
  let [inside, beside] = [0, 0];
  for (let y = 0, i = 0; y < mask.height; y++)
    for (let x = 0; x < mask.width; x++, i++) {
      if (!mask.data[i]) continue;
      const isIn =
        x + 0.5 >= box.x && y + 0.5 >= box.y && x + 0.5 <= box.x + box.width && y + 0.5 <= box.y + box.height;
      if (isIn) inside++;
      else {
        beside++;
        mask.data[i] = 0;
      }
    }
  return beside <= mostBeside * inside ? mask : null;
}
