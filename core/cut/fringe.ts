import { cropBytes, growRect, makeBytes, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { guessAlpha } from './alpha.ts';
import { boundaryBand } from './band.ts';
import { drawStroke, type Stroke } from './strokes.ts';

/** Pixels from the edge within which ground that came along is a fringe. */
const reach = 4;
/** How sure the colours must be, and by how much more they must be ground than alpha says. */
const [leastCertainty, leastExcess] = [0.6, 0.5];

/**
 * Where a piece has kept some of its ground along the edge: pixels that alpha calls the piece's, but whose colour is the
 * ground's beyond the edge and not the piece's own behind it.
 * @param alpha 0..255, size of the picture  @returns 1 in fringes
 */
export function fringeOf(picture: Rgba, alpha: Bytes): Bytes {
  const { width, height } = alpha;
  const mask = makeBytes(width, height);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = alpha.data[i]! > 127 ? 1 : 0;
  const out = makeBytes(width, height);
  const guess = guessAlpha(picture, mask, reach, undefined, true);
  for (const i of boundaryBand(mask, reach)) {
    const excess = alpha.data[i]! / 255 - guess.alpha.data[i]!;
    if (guess.certainty.data[i]! > leastCertainty && excess > leastExcess) out.data[i] = 1;
  }
  return out;
}

/**
 * A thin region as strokes that run along it: the longest way through it, then through what that leaves, and so on.
 * @param pixels of one connected region of `size`  @param area around them
 */
export function strokesAlong(pixels: readonly number[], size: { width: number; height: number }, area: Rect): Stroke[] {
  const around = growRect(area, 3, size.width, size.height);
  const rest = cropBytes(maskOf(pixels, size), around);
  const strokes: Stroke[] = [];
  for (let left = pixels.length; left > 0.05 * pixels.length && strokes.length < 40;) {
    const start = rest.data.indexOf(1);
    const end = farthest(rest, start).at(-1)!;
    const way = wayBetween(rest, end, farthest(rest, end).at(-1)!);
    const points = way
      .filter((_, k) => k % 3 === 0 || k === way.length - 1)
      .map((i) => [around.x + (i % rest.width) + 0.5, around.y + Math.floor(i / rest.width) + 0.5] as const);
    const stroke = { radius: strokeRadius, points };
    strokes.push(stroke);
    drawStroke(rest, { ...stroke, points: points.map(([x, y]) => [x - around.x, y - around.y] as const) }, 0);
    left = rest.data.reduce((sum, v) => sum + v, 0);
  }
  return strokes;
}

/** A fringe is a few pixels wide. */
const strokeRadius = 2;

function maskOf(pixels: readonly number[], { width, height }: { width: number; height: number }): Bytes {
  const mask = makeBytes(width, height);
  for (const i of pixels) mask.data[i] = 1;
  return mask;
}

/** All pixels of a region in the order they are met from one of them, so that the last is as far away as any. */
function farthest(region: Bytes, start: number, from = new Map<number, number>()): number[] {
  const { width, height, data } = region;
  const met = [start];
  from.set(start, start);
  for (let k = 0; k < met.length; k++) {
    const x = met[k]! % width;
    const y = (met[k]! / width) | 0;
    for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
      for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        const j = v * width + u;
        if (!data[j] || from.has(j)) continue;
        from.set(j, met[k]!);
        met.push(j);
      }
    }
  }
  return met;
}

function wayBetween(region: Bytes, start: number, end: number): number[] {
  const from = new Map<number, number>();
  farthest(region, start, from);
  const way = [end];
  while (way.at(-1) !== start) way.push(from.get(way.at(-1)!)!);
  return way;
}
