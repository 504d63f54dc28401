import {
  cropBytes,
  growRect,
  intersectRect,
  makeBytes,
  makePlane,
  unionRect,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { doneAtOnce, type Steps } from '../pixels/steps.ts';
import { alphaInSteps, bandRadius, type Said } from './alpha.ts';
import { boundsOfPoints, drawStroke, movedStroke, type Stroke } from './strokes.ts';

/** Keep and Drop strokes; of them those with radii are thin lines. */
interface Strokes {
  keep: readonly Stroke[];
  drop: readonly Stroke[];
}

/**
 * Alpha (0..255) of a mask into which strokes were drawn: `estimateAlpha`, but what a brush passed over is as it said, up to a band along
 * its rim, and what a thin line adds or leaves out lies within its own width and the softness of a lens. Colours alone would give a dark
 * coat back what was dropped of it, and spread a faint line over its surroundings.
 * @param rect only this part is estimated  @param previous alpha to keep outside `rect`
 */
export const alphaWithLines = (picture: Rgba, mask: Bytes, strokes: Strokes, rect?: Rect, previous?: Bytes): Bytes =>
  doneAtOnce(alphaWithLinesInSteps(picture, mask, strokes, rect, previous));

/** The same in steps of a moment. */
export function* alphaWithLinesInSteps(
  picture: Rgba,
  mask: Bytes,
  { keep, drop }: Strokes,
  rect?: Rect,
  previous?: Bytes,
): Steps<Bytes> {
  const alpha = yield* alphaInSteps(picture, mask, rect, previous, saidOf(mask, { keep, drop }));
  const isLine = ({ radii }: Stroke): boolean => radii !== undefined;
  yield* confine(picture, mask, alpha, keep.filter(isLine), 1, rect);
  yield* confine(picture, mask, alpha, drop.filter(isLine), 0, rect);
  return alpha;
}

/** A brush's rim is left to colours up to the band's width, but no more than this share of its radius. */
const rimShare = 0.5;

/** What brush strokes say of a mask, where it is as they say; null where there are none. */
function saidOf(mask: Bytes, { keep, drop }: Strokes): Said | null {
  const [dropped, kept] = [drop, keep].map((strokes) => strokes.filter(({ radii }) => radii === undefined));
  if (dropped!.length + kept!.length === 0) return null;
  const rim = bandRadius(mask.width, mask.height);
  return (area) => {
    const [out, within] = [under(dropped!, area, rim), under(kept!, area, rim)];
    const said = cropBytes(mask, area);
    // A later stroke may have said otherwise, and one that stays within edges says nothing beyond them.
    for (let i = 0; i < said.data.length; i++) said.data[i] = (said.data[i] ? within : out).data[i]!;
    return said;
  };
}

/** 1 under strokes and 2 in their middles, in an area. */
function under(strokes: readonly Stroke[], area: Rect, rim: number): Bytes {
  const found = makeBytes(area.width, area.height);
  const here = strokes.map((stroke) => movedStroke(stroke, area.x, area.y));
  for (const stroke of here) drawStroke(found, stroke, 1);
  for (const { radius, ...stroke } of here)
    drawStroke(found, { ...stroke, radius: radius - Math.min(rim, rimShare * radius) }, 2);
  return found;
}

/** @param value what the lines set in the mask */
function* confine(
  picture: Rgba,
  mask: Bytes,
  alpha: Bytes,
  lines: readonly Stroke[],
  value: 0 | 1,
  rect: Rect | undefined,
): Steps<void> {
  const { width, height } = picture;
  const reach = bandRadius(width, height) * 9;
  const zones = joined(lines.map((line) => growRect(boundsOfPoints(line), reach, width, height)));
  const parts = zones.map((zone) => (rect ? intersectRect(zone, rect) : zone)).filter((part) => part !== null);
  if (parts.length === 0) return;
  const bare = { ...mask, data: mask.data.slice() };
  for (const line of lines) drawStroke(bare, line, 1 - value);
  for (const part of parts) {
    const without = yield* alphaInSteps(picture, bare, part);
    const cover = coverOf(lines, part);
    for (let y = 0, k = 0; y < part.height; y++)
      for (let i = (part.y + y) * width + part.x, end = i + part.width; i < end; i++, k++) {
        const most = 255 * cover.data[k]!;
        // Only beside the line: what it lies on is found as everything is.
        if (mask.data[i] === value) continue;
        alpha.data[i] = value
          ? Math.max(without.data[i]!, Math.min(alpha.data[i]!, most))
          : Math.min(without.data[i]!, Math.max(alpha.data[i]!, 255 - most));
      }
  }
}

/** Rectangles that overlap, as one. */
function joined(rects: readonly Rect[]): Rect[] {
  const apart: Rect[] = [];
  for (let rect of rects) {
    for (let k = apart.findIndex((other) => intersectRect(other, rect)); k >= 0;) {
      rect = unionRect(rect, apart.splice(k, 1)[0]!)!;
      k = apart.findIndex((other) => intersectRect(other, rect));
    }
    apart.push(rect);
  }
  return apart;
}

/** How much of each pixel of an area lines may cover, 0..1: all within half a pixel of their width, nothing beyond what a lens softens. */
function coverOf(lines: readonly Stroke[], area: Rect): Plane {
  const cover = makePlane(area.width, area.height);
  for (const { points, radii } of lines.map((line) => movedStroke(line, area.x, area.y)))
    for (let k = 1; k < points.length; k++) {
      const [a, b] = [points[k - 1]!, points[k]!];
      coverAlong(cover, a, b, radii![k - 1]!, radii![k]!);
    }
  return cover;
}

type Point = readonly [number, number];

function coverAlong(cover: Plane, [ax, ay]: Point, [bx, by]: Point, from: number, to: number): void {
  const most = Math.ceil(1.25 * Math.max(from, to) + 3);
  const [dx, dy] = [bx - ax, by - ay];
  const length2 = dx * dx + dy * dy;
  const [top, bottom] = [
    Math.max(0, Math.floor(Math.min(ay, by)) - most),
    Math.min(cover.height - 1, Math.ceil(Math.max(ay, by)) + most),
  ];
  const [left, right] = [
    Math.max(0, Math.floor(Math.min(ax, bx)) - most),
    Math.min(cover.width - 1, Math.ceil(Math.max(ax, bx)) + most),
  ];
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const [u, v] = [x + 0.5 - ax, y + 0.5 - ay];
      const t = length2 > 0 ? Math.max(0, Math.min(1, (u * dx + v * dy) / length2)) : 0;
      const radius = from + (to - from) * t;
      const away = Math.hypot(u - t * dx, v - t * dy);
      const share = Math.max(0, Math.min(1, (1.25 * radius + 1.5 - away) / (0.25 * radius + 1)));
      const i = y * cover.width + x;
      cover.data[i] = Math.max(cover.data[i]!, share);
    }
}
