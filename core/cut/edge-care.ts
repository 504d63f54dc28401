import { asMuchAsThere, noMoreThanThere, shareOfThere, withColoursGoingOn } from '../pixels/emptiness.ts';
import { boxBlur, planeOfBytes, windowLeast, windowMost } from '../pixels/filters.ts';
import {
  cropBytes,
  cropRgba,
  makeBytes,
  pasteBytes,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { refineAlpha } from './alpha.ts';
import { brushWeight, drawStroke, movedStroke, type Stroke } from './strokes.ts';

/** How a piece's edge is treated after it was found, in picture pixels. */
export interface EdgeCare {
  /** Above 0 the piece grows, below 0 it shrinks. */
  grow: number;
  /** Half width of the softening. */
  soften: number;
  /** Stair steps and bumps up to about this size are smoothed away, the edge staying as sharp as it was. */
  smooth: number;
  /** How much of the old surroundings' colour is taken out of the edge, 0..1. */
  clean: number;
}

export const noCare: EdgeCare = { grow: 0, soften: 0, smooth: 0, clean: 1 };

/** Care for a soft shadow or glow: cut wide and soft, never along its edge. */
export function wideAndSoft(care: EdgeCare, width: number, height: number): EdgeCare {
  const grow = Math.max(3, Math.min(60, Math.round(Math.max(width, height) / 120)));
  return { ...care, grow, soften: grow * 2 };
}

/**
 * A stroke along the edge. Restore brings the picture back, wipe takes it away; soften fades the edge over half the
 * brush's radius; refine finds hair and fringe under the brush again. `soft` is the share of the brush that fades.
 */
export interface AlphaMark {
  kind: 'restore' | 'wipe' | 'soften' | 'refine';
  stroke: Stroke;
  soft: number;
}

/**
 * Alpha (0..255) smoothed, grown or shrunk, softened, and with the marks of the brushes on it, in this order; nothing of it brings back
 * what the picture leaves empty.
 * @param picture what the refining brush looks at; without it such marks do nothing
 */
export function withCare(alpha: Bytes, care: EdgeCare, marks: readonly AlphaMark[], picture?: Rgba): Bytes {
  const cared = caredFor(alpha, care, marks, picture);
  return picture && cared !== alpha ? noMoreThanThere(cared, picture) : cared;
}

function caredFor(alpha: Bytes, care: EdgeCare, marks: readonly AlphaMark[], picture?: Rgba): Bytes {
  let out = alpha;
  if (care.smooth > 0) out = smoothed(out, care.smooth);
  if (care.grow !== 0) {
    const grown = care.grow > 0 ? windowMost : windowLeast;
    out = bytesOf(grown(planeOfBytes(out), Math.abs(Math.round(care.grow))));
  }
  if (care.soften > 0) out = bytesOf(softened(planeOfBytes(out), care.soften / 2));
  if (marks.length === 0) return out;
  out = { ...out, data: out.data.slice() };
  for (const mark of marks) {
    if (mark.kind === 'refine') {
      if (picture) refineAlong(picture, out, mark.stroke);
    } else if (mark.kind === 'soften') softenAlong(out, mark);
    else paintAlpha(out, mark);
  }
  return out;
}

/** Two box blurs are close to a Gaussian, and wide ones cost no more than narrow ones. */
function softened(plane: Plane, radius: number): Plane {
  const box = Math.max(1, Math.round(radius));
  return boxBlur(boxBlur(plane, box), box);
}

/**
 * Smooths the outline: alpha is blurred and then made as steep again as it was, which moves bumps and dents smaller than
 * the blur onto the line between them.
 */
function smoothed(alpha: Bytes, size: number): Bytes {
  const soft = softened(planeOfBytes(alpha), size / 2);
  const gain = 1 + size;
  for (let i = 0; i < soft.data.length; i++) {
    const steep = Math.max(0, Math.min(255, 127.5 + (soft.data[i]! - 127.5) * gain));
    // Where the blur reaches nobody, alpha stays exactly what it was: holes of glass and veils are not edges.
    const was = alpha.data[i]!;
    soft.data[i] = Math.abs(soft.data[i]! - was) < 1 ? was : steep;
  }
  return bytesOf(soft);
}

function paintAlpha(out: Bytes, { kind, stroke, soft }: AlphaMark): void {
  const weight = brushWeight(out, stroke, soft);
  for (let i = 0; i < weight.length; i++) {
    const w = weight[i]!;
    if (w === 0) continue;
    const before = out.data[i]!;
    out.data[i] = Math.round(kind === 'restore' ? Math.max(before, 255 * w) : before * (1 - w));
  }
}

/** Fades the edge under a brush over half its radius; the further from the middle of the brush the less. */
function softenAlong(out: Bytes, { stroke, soft }: AlphaMark): void {
  const area = strokeArea(stroke, stroke.radius, out);
  if (!area) return;
  const part = cropBytes(out, area);
  const faded = softened(planeOfBytes(part), stroke.radius / 2);
  const weight = brushWeight(part, movedStroke(stroke, area.x, area.y), Math.max(0.3, soft));
  for (let i = 0; i < weight.length; i++)
    part.data[i] = Math.round(part.data[i]! + (faded.data[i]! - part.data[i]!) * weight[i]!);
  pasteBytes(out, part, area.x, area.y);
}

/** Estimates alpha anew everywhere under a brush, from what is sure beside it. */
function refineAlong(picture: Rgba, out: Bytes, stroke: Stroke): void {
  const area = strokeArea(stroke, stroke.radius * 2, out);
  if (!area) return;
  const seen = cropRgba(picture, area);
  const unknown = makeBytes(area.width, area.height);
  drawStroke(unknown, movedStroke(stroke, area.x, area.y), 1);
  // The edge of what is there is no edge of the piece.
  const refined = refineAlpha(withColoursGoingOn(seen), shareOfThere(cropBytes(out, area), seen), unknown);
  pasteBytes(out, asMuchAsThere(refined, seen), area.x, area.y);
}

/** The rectangle a stroke can change, with a margin around its brush; null outside the picture. */
function strokeArea({ radius, points }: Stroke, margin: number, { width, height }: Bytes): Rect | null {
  const reach = Math.ceil(radius + margin);
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [x0, x1] = [
    Math.max(0, Math.floor(Math.min(...xs)) - reach),
    Math.min(width, Math.ceil(Math.max(...xs)) + reach),
  ];
  const [y0, y1] = [
    Math.max(0, Math.floor(Math.min(...ys)) - reach),
    Math.min(height, Math.ceil(Math.max(...ys)) + reach),
  ];
  return x1 > x0 && y1 > y0 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : null;
}

function bytesOf({ width, height, data }: { width: number; height: number; data: Float32Array }): Bytes {
  const out = makeBytes(width, height);
  for (let i = 0; i < data.length; i++) out.data[i] = Math.round(data[i]!);
  return out;
}
