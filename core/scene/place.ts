import { apply, cameraOfFraming, viewOfPlane, type Camera, type PlaneView } from '../depth/camera.ts';
import { ease } from '../motion/easing.ts';
import { valueAt, type Point } from '../motion/property.ts';
import { jitterAt } from '../motion/wander.ts';
import type { Document } from '../document/document.ts';
import type { Fastening, Layer } from '../document/layer.ts';
import { compose, invert, transform, type Matrix } from './matrix.ts';
import { restFocal, type Shot } from '../document/shot.ts';
import { penAt } from './pen.ts';
import { pointAt, steadied } from './points-of-clip.ts';
import { heldFrame, layerValue } from './values.ts';

/** The camera at a frame: on its way from the first Framing to the last, shaken, and focused. */
export function cameraAt(shot: Shot, frame: number): Camera {
  const { first, last, easing, returns, depth, parallax, hold, shake, focus, aperture } = shot.camera;
  const passed = returns
    ? 1 - Math.abs((2 * frame) / shot.length - 1)
    : shot.length > 1
      ? frame / (shot.length - 1)
      : 0;
  const share = ease(easing, passed);
  const mix = (a: number, b: number): number => a + (b - a) * share;
  const camera = cameraOfFraming(
    {
      x: mix(first.x, last.x),
      y: mix(first.y, last.y),
      size: mix(first.size, last.size),
      roll: mix(first.roll, last.roll),
      zoom: mix(first.focal, last.focal) / restFocal,
    },
    depth,
  );
  if (shake) {
    camera.x += jitterAt(shake, 0, frame) * depth;
    camera.y += jitterAt(shake, 1, frame) * depth;
    if (shake.roll > 0) camera.roll = (camera.roll ?? 0) + jitterAt({ ...shake, amount: shake.roll }, 2, frame);
  }
  if (parallax !== 1 || hold !== 0) camera.planes = { depth, parallax, hold };
  if (aperture > 0) camera.focus = { depth: valueAt(focus, frame), aperture };
  return camera;
}

/** Where a layer's own position property puts its pivot at a frame. */
export const placeAt = (layer: Layer, frame: number): Point => valueAt(layer.position, heldFrame(layer, frame));

/** A layer as it stands at rest, with what it is fastened to. */
export interface Standing {
  place: Point;
  scale: number;
  rotation: number;
  opacity: number;
}

/** Follows chains of fastened layers; a ring of them stops where it closes. */
export function standingOf(
  shot: Shot,
  layer: Layer,
  frame: number,
  document: Document,
  seen: ReadonlySet<string> = new Set(),
): Standing {
  const own: Standing = {
    place: layerValue(shot, layer, 'position', frame),
    scale: layerValue(shot, layer, 'scale', frame),
    rotation: layerValue(shot, layer, 'rotation', frame) + (layer.oriented ? heading(shot, layer, frame) : 0),
    opacity: layerValue(shot, layer, 'opacity', frame),
  };
  if (layer.pen && !seen.has(layer.id)) {
    const further = new Set(seen).add(layer.id);
    const pen = penAt(shot, layer, layer.pen, frame, document, (other) =>
      restOf(document, shot, other, frame, further),
    );
    if (pen) return { ...own, place: pen.place, opacity: own.opacity * pen.opacity };
  }
  const { fastened } = layer;
  const owner = fastened && !seen.has(layer.id) ? shot.layers.find((l) => l.id === fastened.to) : undefined;
  if (!fastened || !owner) return own;
  const further = new Set(seen).add(layer.id);
  const whole = standingOf(shot, owner, frame, document, further);
  const theirs = fastened.point
    ? standingOfPoint(shot, layer, owner, fastened, frame, document, further, whole)
    : whole;
  const { place, follow } = fastened;
  const way: Point = [theirs.place[0] - place[0], theirs.place[1] - place[1]];
  const turn = fastened.turn * (theirs.rotation - fastened.rotation);
  const growth = Math.max(1e-3, Math.abs(theirs.scale / fastened.scale)) ** fastened.grow;
  const risen = Math.max(0, -way[1] / document.frame.height);
  const [x, y] = turned([own.place[0] - place[0], own.place[1] - place[1]], turn, growth);
  return {
    place: [place[0] + way[0] * follow[0] + x, place[1] + way[1] * follow[1] + y],
    scale: own.scale * growth * Math.max(0.02, 1 - fastened.shrink * risen),
    rotation: own.rotation + turn,
    opacity: own.opacity * Math.max(0, 1 - fastened.fade * risen),
  };
}

/** Where a followed point of a clip stands, in what a layer is in; with a second point, how both lie turns and sizes it. */
export function standingOfPoint(
  shot: Shot,
  layer: Layer,
  owner: Layer,
  { point, second }: Pick<Fastening, 'point' | 'second'>,
  frame: number,
  document: Document,
  seen: ReadonlySet<string>,
  whole: Standing,
): Standing {
  const at = point && pointAt(document, owner, point, frame);
  if (!at) return whole;
  const rest = restOf(document, shot, owner, frame, seen);
  const group = layer.group ? shot.layers.find((l) => l.id === layer.group) : undefined;
  const into = group ? compose(invert(restOf(document, shot, group, frame, seen)), rest) : rest;
  const place = transform(into, ...at);
  const other = second && pointAt(document, owner, second, frame);
  if (!other) return { ...whole, place };
  const [x, y] = transform(into, ...other);
  const [dx, dy] = [x - place[0], y - place[1]];
  return { ...whole, place, rotation: (Math.atan2(dy, dx) * 180) / Math.PI, scale: Math.max(1e-6, Math.hypot(dx, dy)) };
}

function turned([x, y]: Point, degrees: number, factor: number): Point {
  if (degrees === 0) return [x * factor, y * factor];
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180) * factor, Math.sin((degrees * Math.PI) / 180) * factor];
  return [x * cos - y * sin, x * sin + y * cos];
}

/** Degrees in which a layer travels at a frame; while it stands, the way it will go or came. */
function heading(shot: Shot, layer: Layer, frame: number): number {
  for (const reach of [0.5, 2, 8, 40, 200]) {
    const a = layerValue(shot, layer, 'position', Math.max(0, frame - reach));
    const b = layerValue(shot, layer, 'position', frame + reach);
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    if (Math.hypot(dx, dy) > 1e-3) return (Math.atan2(dy, dx) * 180) / Math.PI;
  }
  return 0;
}

/** Maps picture pixels of a layer's source to frame pixels around the frame's centre, as it looks at rest. */
export const restMatrix = (document: Document, shot: Shot, layer: Layer, frame: number): Matrix =>
  restOf(document, shot, layer, frame, new Set());

function restOf(document: Document, shot: Shot, layer: Layer, frame: number, seen: ReadonlySet<string>): Matrix {
  const { place, scale, rotation } = standingOf(shot, layer, frame, document, seen);
  const pivot = layerValue(shot, layer, 'pivot', frame);
  const angle = (rotation * Math.PI) / 180;
  const cos = Math.cos(angle) * scale;
  const sin = Math.sin(angle) * scale;
  const [fx, fy] = [layer.flip.sideways ? -1 : 1, layer.flip.upright ? -1 : 1];
  const placed = compose([cos * fx, sin * fx, -sin * fy, cos * fy, ...place], [1, 0, 0, 1, -pivot[0], -pivot[1]]);
  const own = layer.steady ? compose(placed, steadied(document, layer, layer.steady, frame)) : placed;
  const group = layer.group ? shot.layers.find((l) => l.id === layer.group) : undefined;
  return group ? compose(restOf(document, shot, group, frame, seen), own) : own;
}

/** What the camera makes of rest pixels on a plane, origin still in the centre. */
function matrixOfView({ scale, x, y, turn }: PlaneView): Matrix {
  if (turn === 0) return [scale, 0, 0, scale, x, y];
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  return compose([cos, sin, -sin, cos, 0, 0], [scale, 0, 0, scale, x, y]);
}

/** Maps picture pixels of a layer's source to frame pixels from the top left; null when it is at or behind the lens. */
export function layerMatrix(
  document: Document,
  shot: Shot,
  layer: Layer,
  camera: Camera,
  frame: number,
): Matrix | null {
  const view = viewOfPlane(camera, layerValue(shot, layer, 'depth', frame));
  if (!view) return null;
  const { width, height } = document.frame;
  const rest = restMatrix(document, shot, layer, frame);
  const seen = compose(matrixOfView(view), rest);
  const [dx, dy] = touch(shot, layer, camera, frame, view, rest);
  return compose([1, 0, 0, 1, width / 2 + dx, height / 2 + dy], seen);
}

/** By how much a layer that keeps touching another, or writes it, is moved in the view: the way their planes drift apart at its pivot. */
function touch(shot: Shot, layer: Layer, camera: Camera, frame: number, view: PlaneView, rest: Matrix): Point {
  const to = layer.pen?.to ?? (layer.fastened?.touching ? layer.fastened.to : null);
  const owner = to ? shot.layers.find((l) => l.id === to) : undefined;
  const theirs = owner ? viewOfPlane(camera, layerValue(shot, owner, 'depth', frame)) : null;
  if (!theirs) return [0, 0];
  const at = transform(rest, ...layerValue(shot, layer, 'pivot', frame));
  const [ax, ay] = apply(view, at);
  const [bx, by] = apply(theirs, at);
  return [bx - ax, by - ay];
}

/** Layers from far to near at a frame; of equal depths the one listed first is nearer. */
export function farToNear(layers: readonly Layer[], frame = 0): Layer[] {
  const depth = new Map(layers.map((l) => [l, valueAt(l.depth, heldFrame(l, frame))]));
  return [...layers].reverse().sort((a, b) => depth.get(b)! - depth.get(a)!);
}

/** The frame's four corners in the pixels of a layer's source, frame by frame; frames behind the lens are left out. */
export function* frameCornersIn(document: Document, shot: Shot, layer: Layer): Generator<Point> {
  const { width, height } = document.frame;
  for (let frame = 0; frame < shot.length; frame++) {
    const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
    if (!matrix) continue;
    const back = invert(matrix);
    for (const x of [0, width]) for (const y of [0, height]) yield transform(back, x, y);
  }
}

/** A window on the framed plane, in frame pixels from the frame's centre as it lies at rest: its middle and its size as a share. */
export interface SeenWindow {
  x: number;
  y: number;
  size: number;
}

/**
 * What of the framed plane fills the frame at one end of the camera's way. It is the Framing itself, unless a counter-move holds
 * that plane back.
 */
export function seenAtEnd(shot: Shot, end: 'first' | 'last'): SeenWindow {
  const { camera } = shot;
  const still = { ...shot, camera: { ...camera, first: camera[end], last: camera[end], shake: null } };
  const view = viewOfPlane(cameraAt(still, 0), camera.depth);
  if (!view) return { x: camera[end].x, y: camera[end].y, size: camera[end].size };
  return { x: -view.x / view.scale, y: -view.y / view.scale, size: 1 / view.scale };
}
