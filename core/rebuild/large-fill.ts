import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Bytes, Rect, Rgba } from '../pixels/raster.ts';
import type { Relit } from './blend.ts';
import type { RebuildRequest } from './fill.ts';
import { halvedStep } from './levels.ts';

/** Where the pixels of a rebuilt region were copied from, and what their light was changed by. */
export interface Copies {
  /** What the arrays are of, in pixels of the picture. */
  area: Rect;
  /** For every pixel that was made the index in the area of the one it is a copy of; -1 elsewhere. */
  origin: Int32Array;
  /** Indices are those in the area. */
  relit: Relit;
}

/** Pixels around a hole up to which it is continued at the picture's own size: beyond, no lens draws as finely as its pixels. */
const solvedUpTo = 6e6;

/** How often a picture is halved before a hole in it is continued. @param area what is looked at for it */
export function halvingsFor(area: Rect): number {
  let halvings = 0;
  for (let pixels = area.width * area.height; pixels > solvedUpTo; pixels /= 4) halvings++;
  return halvings;
}

/**
 * The same task at a smaller size. All that is anywhere part of the hole is made, and nothing copied that is anywhere part of it.
 * @throws Cancelled
 */
export async function smallerRequest(
  request: RebuildRequest,
  halvings: number,
  progress?: Progress,
): Promise<RebuildRequest> {
  let { picture, hole, barred = null, seen = null } = request;
  for (let k = 0; k < halvings; k++) {
    await checkpoint(progress);
    picture = halvedStep({ picture, hole, barred: null }).picture;
    await checkpoint(progress);
    [hole, barred, seen] = [halvedAny(hole), barred && halvedAny(barred), seen && halvedAny(seen)];
  }
  const smaller = ([x, y]: readonly [number, number]): [number, number] => [x / 2 ** halvings, y / 2 ** halvings];
  const lines = request.lines?.map(({ from, to }) => ({ from: smaller(from), to: smaller(to) }));
  return { ...request, picture, hole, barred, seen, ...(lines && { lines }) };
}

/** Half size; 1 where any of the four pixels is. */
function halvedAny({ width, height, data }: Bytes): Bytes {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const out = new Uint8Array(w * h);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) if (data[i]) out[(y >> 1) * w + (x >> 1)] = 1;
  return { width: w, height: h, data: out };
}

/**
 * A hole continued as its smaller picture was: every pixel is a copy of what lies at the same place in the block of pixels that
 * its own block was copied from, in the light that was found there. So large photos keep their grain.
 * @param small the smaller picture as it was made, whose copies these are
 * @throws Cancelled
 */
export async function enlargedCopies(
  { picture, hole }: RebuildRequest,
  halvings: number,
  small: Rgba,
  copies: Copies,
  progress?: Progress,
): Promise<Rgba> {
  const { width, height } = picture;
  const out: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  const { area, origin, relit } = copies;
  const within = (1 << halvings) - 1;
  for (let y = 0; y < height; y++) {
    if (y % 64 === 0) await checkpoint(progress);
    const v = y >> halvings;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!hole.data[i]) continue;
      const u = x >> halvings;
      const k = (v - area.y) * area.width + u - area.x;
      const from = origin[k]!;
      if (from < 0) {
        for (let c = 0; c < 3; c++) out.data[i * 4 + c] = small.data[(v * small.width + u) * 4 + c]!;
      } else {
        const [blockX, blockY] = [area.x + (from % area.width), area.y + Math.floor(from / area.width)];
        const sx = Math.min(width - 1, (blockX << halvings) + (x & within));
        const sy = Math.min(height - 1, (blockY << halvings) + (y & within));
        const source = (sy * width + sx) * 4;
        for (let c = 0; c < 3; c++) out.data[i * 4 + c] = relit(picture.data[source + c]!, c, k);
      }
      out.data[i * 4 + 3] = 255;
    }
  }
  return out;
}
