import { dilate } from '../pixels/distance.ts';
import { makeBytes, type Bytes, type Rect } from '../pixels/raster.ts';
import { noPad, type Pad } from '../rebuild/widen.ts';
import { evaluateFrame } from './evaluate.ts';
import { cameraAt, farToNear, frameCornersIn, layerMatrix } from './place.ts';
import type { Document } from '../document/document.ts';
import type { Shot } from '../document/shot.ts';
import { invert, transform, type Matrix } from './matrix.ts';

/** Pixels of the hole are looked at in steps of this many. */
const grain = 4;
/** Frames of a shot that are looked at, at most; the ends always. */
const mostFrames = 40;

interface Cover {
  alpha: Bytes;
  /** Frame pixels to pixels of the alpha. */
  inverse: Matrix;
}

/**
 * Which part of a hole any shot will ever show: some frame shows the plate there, and no opaque part of a nearer layer
 * hides it. Grown by a margin, so that a small change of the move shows nothing unfinished.
 * @param hole 1 where the plate was made anew, in pixels of the picture
 * @param alphaOf alpha (0..255) of a file that a layer draws; null for files without alpha
 */
export function seenThrough(
  document: Document,
  pictureId: string,
  hole: Bytes,
  alphaOf: (file: string) => Bytes | null,
): { seen: Bytes; share: number } {
  const { width, height } = hole;
  const points: number[] = [];
  let all = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!hole.data[y * width + x]) continue;
      all++;
      if (x % grain === 0 && y % grain === 0) points.push(y * width + x);
    }
  }
  const found = makeBytes(width, height);
  for (const shot of document.shots) {
    for (const frame of framesOf(shot)) markSeen(document, shot, frame, pictureId, points, found, alphaOf);
  }
  const margin = Math.max(2 * grain, Math.round(0.012 * Math.max(width, height)));
  const seen = dilate(found, margin);
  let count = 0;
  for (let i = 0; i < seen.data.length; i++) {
    seen.data[i] = seen.data[i]! & hole.data[i]!;
    count += seen.data[i]!;
  }
  return { seen, share: all === 0 ? 0 : count / all };
}

function framesOf(shot: Shot): number[] {
  const count = Math.min(mostFrames, shot.length);
  return Array.from({ length: count }, (_, k) => Math.round((k * (shot.length - 1)) / Math.max(1, count - 1)));
}

function markSeen(
  document: Document,
  shot: Shot,
  frame: number,
  pictureId: string,
  points: number[],
  found: Bytes,
  alphaOf: (file: string) => Bytes | null,
): void {
  const camera = cameraAt(shot, frame);
  const { draws } = evaluateFrame(document, shot, frame);
  const order = farToNear(shot.layers, frame);
  for (const layer of order) {
    if (layer.hidden || layer.source.kind !== 'background' || layer.source.picture !== pictureId) continue;
    const matrix = layerMatrix(document, shot, layer, camera, frame);
    if (!matrix) continue;
    const nearer = new Set(order.slice(order.indexOf(layer) + 1).map((l) => l.id));
    const covers: Cover[] = draws.flatMap((draw) => {
      const { content } = draw;
      if (!nearer.has(draw.layer) || draw.opacity < 1 || content.kind !== 'image') return [];
      // What is blurred, masked or seen through a window hides less than its file says.
      if (
        draw.blur > 0 ||
        draw.masks ||
        draw.window ||
        draw.clips.length > 0 ||
        content.corners ||
        content.sways.length > 0
      )
        return [];
      const alpha = draw.opaque ? makeBytes(draw.width, draw.height, 255) : alphaOf(content.file);
      return alpha ? [{ alpha, inverse: invert(draw.matrix) }] : [];
    });
    for (const i of points) {
      if (found.data[i]) continue;
      const [x, y] = transform(matrix, (i % found.width) + 0.5, Math.floor(i / found.width) + 0.5);
      if (x < 0 || y < 0 || x > document.frame.width || y > document.frame.height) continue;
      if (!covers.some((cover) => hides(cover, x, y))) found.data[i] = 1;
    }
  }
}

function hides({ alpha, inverse }: Cover, x: number, y: number): boolean {
  const [u, v] = transform(inverse, x, y);
  const column = Math.floor(u);
  const row = Math.floor(v);
  if (column < 0 || row < 0 || column >= alpha.width || row >= alpha.height) return false;
  return alpha.data[row * alpha.width + column]! >= 250;
}

/**
 * What must be added to a picture's plate on each side so that its layer covers the frame in every frame of the shot;
 * all zero when it does, null when no layer shows it.
 */
export function padToCover(document: Document, shot: Shot, pictureId: string, bounds: Rect): Pad | null {
  const layer = shot.layers.find((l) => l.source.kind === 'background' && l.source.picture === pictureId);
  if (!layer) return null;
  const pad = { ...noPad };
  for (const [u, v] of frameCornersIn(document, shot, layer)) {
    pad.left = Math.max(pad.left, Math.ceil(bounds.x - u));
    pad.top = Math.max(pad.top, Math.ceil(bounds.y - v));
    pad.right = Math.max(pad.right, Math.ceil(u - bounds.x - bounds.width));
    pad.bottom = Math.max(pad.bottom, Math.ceil(v - bounds.y - bounds.height));
  }
  return pad;
}
