import { boundsOf, makeBytes, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { DROP, FREE, KEEP } from './graph-cut.ts';

/** A place in a picture, in pixels. */
export type Place = readonly [number, number];

interface Size {
  width: number;
  height: number;
}

/** A window is judged at no more than this size, and what is taken of it then found at full size. */
export const judgedEdge = 160;
/** How wide a press is, and the rim of a window that is ground for certain: shares of the window's width. */
const pressed = 0.02;
const rimShare = 0.02;
/** A window on a thing is so much larger than it. */
const aroundIt = 1.6;

/**
 * A square around a place, as far as the picture goes. It lies on the grid of its smallest copy, so that halving the picture and
 * then taking the window is the same as halving the window.
 * @param half half its side, in pixels
 */
export function windowAround([x, y]: Place, half: number, { width, height }: Size): Rect {
  const grid = 2 ** Math.max(0, Math.ceil(Math.log2((2 * half) / judgedEdge)));
  const start = (c: number): number => Math.max(0, Math.floor((c - half) / grid) * grid);
  const [left, top] = [start(x), start(y)];
  const [right, bottom] = [Math.min(width, Math.ceil(left + 2 * half)), Math.min(height, Math.ceil(top + 2 * half))];
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** A window in a copy of its picture that was halved so often (rounded up, as halving is). */
export function halved(window: Rect, times: number): Rect {
  const scale = 2 ** -times;
  const [x, y] = [window.x * scale, window.y * scale];
  return { x, y, width: Math.ceil(window.width * scale), height: Math.ceil(window.height * scale) };
}

/** The window around a thing that was found in another. @param mask of the thing, a copy of that window, not empty */
export function windowOn(mask: Bytes, window: Rect, picture: Size): Rect {
  const scale = window.width / mask.width;
  const { x, y, width, height } = boundsOf(mask)!;
  const middle: Place = [window.x + scale * (x + width / 2), window.y + scale * (y + height / 2)];
  return windowAround(middle, 0.5 * aroundIt * scale * Math.max(width, height), picture);
}

/** A place of the whole picture, in pixels of a copy of a window. */
export const placeIn = (window: Rect, [x, y]: Place, { width }: Size): Place => [
  ((x - window.x) * width) / window.width,
  ((y - window.y) * width) / window.width,
];

/** What of a copy of a window is not its rim. At the picture's own frame there is none: what lies beyond is not known. */
function innerOf(window: Rect, whole: Size, { width, height }: Size) {
  const rim = Math.max(2, rimShare * width);
  return {
    left: window.x > 0 ? rim : 0,
    top: window.y > 0 ? rim : 0,
    right: width - (window.x + window.width < whole.width ? rim : 0),
    bottom: height - (window.y + window.height < whole.height ? rim : 0),
  };
}

/**
 * The press belongs to the thing, the rim of a window to the ground.
 * @param copy of the window  @param area a part of that copy
 * @returns KEEP, DROP or FREE for each pixel of the area
 */
export function pressSeeds(window: Rect, at: Place, whole: Size, copy: Rgba, area: Rect): Bytes {
  const [x, y] = placeIn(window, at, copy);
  const radius = Math.max(1.5, pressed * copy.width);
  const { left, top, right, bottom } = innerOf(window, whole, copy);
  const seeds = makeBytes(area.width, area.height, FREE);
  // Pixels whose centres lie in the rim.
  const [firstIn, lastIn] = [Math.ceil(left - 0.5) - area.x, Math.floor(right - 0.5) - area.x];
  for (let v = 0; v < area.height; v++) {
    const py = v + area.y + 0.5;
    const row = seeds.data.subarray(v * area.width, (v + 1) * area.width);
    if (py < top || py > bottom) row.fill(DROP);
    else row.fill(DROP, 0, Math.max(0, firstIn)).fill(DROP, Math.max(0, lastIn + 1));
    if (Math.abs(py - y) >= radius) continue;
    for (let u = 0; u < area.width; u++) if (Math.hypot(u + area.x + 0.5 - x, py - y) < radius) row[u] = KEEP;
  }
  return seeds;
}

/** Share of a thing's border that lies where its window ends and the picture goes on, 0..1. */
export function cutOffShare(mask: Bytes, window: Rect, whole: Size): number {
  const { width, height, data } = mask;
  const { left, top, right, bottom } = innerOf(window, whole, mask);
  let [border, ends] = [0, 0];
  const meet = (x: number, y: number): void => {
    if (x < 0 || y < 0 || x >= width || y >= height || data[y * width + x]) return;
    border++;
    if (x + 0.5 < left || y + 0.5 < top || x + 0.5 > right || y + 0.5 > bottom) ends++;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (!data[y * width + x]) continue;
      meet(x - 1, y);
      meet(x + 1, y);
      meet(x, y - 1);
      meet(x, y + 1);
    }
  return border === 0 ? 0 : ends / border;
}
