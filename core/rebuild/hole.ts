import { partsOf } from '../cut/parts.ts';
import { dilate } from '../pixels/distance.ts';
import { boundsOf, cropBytes, growRect, makeBytes, pasteBytes, type Bytes } from '../pixels/raster.ts';

/**
 * The region to rebuild behind a piece: everything it touches even faintly, and a rim around that, so that neither its
 * soft edge nor lens blur nor compression halos leave a ghost.
 * @param alpha 0..255  @param rim pixels beyond the last trace of alpha
 */
export function holeBehind(alpha: Bytes, rim: number): Bytes {
  const hole = makeBytes(alpha.width, alpha.height);
  const bounds = boundsOf(alpha, 2);
  if (!bounds) return hole;
  const area = growRect(bounds, rim + 1, alpha.width, alpha.height);
  const touched = cropBytes(alpha, area);
  for (let i = 0; i < touched.data.length; i++) touched.data[i] = touched.data[i]! > 2 ? 1 : 0;
  pasteBytes(hole, dilate(touched, rim), area.x, area.y);
  return hole;
}

/** A hole without what lies in it by itself and is smaller than so many pixels: too little to be ground, it would spread into all of it. */
export function withoutCrumbs(hole: Bytes, atMost: number): Bytes {
  const bounds = boundsOf(hole);
  if (!bounds) return hole;
  const area = growRect(bounds, 1, hole.width, hole.height);
  const part = cropBytes(hole, area);
  const { label, sizes } = partsOf({ ...part, data: part.data.map((v) => 1 - v) });
  for (let i = 0; i < label.length; i++) if (label[i] && sizes[label[i]! - 1]! < atMost) part.data[i] = 1;
  const filled = { ...hole, data: hole.data.slice() };
  pasteBytes(filled, part, area.x, area.y);
  return filled;
}
