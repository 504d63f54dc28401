import type { Document } from '../document/document.ts';
import type { Layer, Steady } from '../document/layer.ts';
import { placeInClip, type Track } from '../document/track.ts';
import type { Point } from '../motion/property.ts';
import { pictureOf } from './clip-of.ts';
import { clipMoment } from './clip-time.ts';
import type { Matrix } from './matrix.ts';
import { heldFrame } from './values.ts';

/** The points followed in the clip a layer shows. */
export function tracksOf(document: Document, layer: Pick<Layer, 'source'>): Track[] {
  const picture = pictureOf(document, layer);
  return picture?.clip ? document.tracks.filter((track) => track.picture === picture.id) : [];
}

/** The frame of its clip that a layer shows at a frame of the shot; null where it shows no clip. */
export function clipFrameOf(document: Document, layer: Layer, frame: number): number | null {
  const clip = pictureOf(document, layer)?.clip;
  return clip ? clipMoment(clip, document.frame.rate, heldFrame(layer, frame), layer).index : null;
}

/** Where a followed point is in the pixels of a layer's source, as the layer shows its clip; null where it is not of it. */
export function pointAt(document: Document, layer: Layer, point: string, frame: number): Point | null {
  const track = tracksOf(document, layer).find((one) => one.id === point);
  const index = clipFrameOf(document, layer, frame);
  return track && index !== null ? placeInClip(track, index) : null;
}

/** How the pixels of a clip are moved so that its point stays where it is in the first frame. */
export function steadied(document: Document, layer: Layer, { point, second }: Steady, frame: number): Matrix {
  const tracks = tracksOf(document, layer);
  const index = clipFrameOf(document, layer, frame);
  const first = tracks.find((track) => track.id === point);
  if (!first || index === null) return [1, 0, 0, 1, 0, 0];
  const [from, to] = [placeInClip(first, index), placeInClip(first, 0)];
  const other = tracks.find((track) => track.id === second);
  const [a, b] = other ? turnBetween(from, placeInClip(other, index), to, placeInClip(other, 0)) : [1, 0];
  return [a, b, -b, a, to[0] - a * from[0] + b * from[1], to[1] - b * from[0] - a * from[1]];
}

/** The vector by which (1, 0) is turned and sized where a pair of points becomes another. */
function turnBetween(a: Point, b: Point, c: Point, d: Point): Point {
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]];
  const [vx, vy] = [d[0] - c[0], d[1] - c[1]];
  const square = ux * ux + uy * uy;
  return square < 1 ? [1, 0] : [(ux * vx + uy * vy) / square, (ux * vy - uy * vx) / square];
}
