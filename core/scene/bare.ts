import type { Point } from '../motion/property.ts';
import type { Document } from '../document/document.ts';
import { evaluateFrame } from './evaluate.ts';
import type { Layer } from '../document/layer.ts';
import { invert, transform, type Matrix } from './matrix.ts';
import { cameraAt, farToNear, frameCornersIn, layerMatrix, restMatrix } from './place.ts';
import { layerValue } from './values.ts';
import { isShown } from '../path/shapes.ts';
import type { Draw } from './draw.ts';
import type { Shot } from '../document/shot.ts';
import { boxOf } from './source-pixels.ts';

/** Points along one side of the frame at which the check looks. */
const samplesAcross = 48;

/**
 * Share of the frame that no fully opaque picture covers, by sampling a grid that includes the frame's very corners. Of a
 * masked one counts what sharp outlines leave. Cut pieces do not count as cover: they have holes.
 */
export function bareShare(document: Document, shot: Shot, frame: number): number {
  const { width, height, draws } = evaluateFrame(document, withoutCopies(shot), frame);
  const opaque = draws.filter((d) => d.opaque && d.opacity >= 1);
  if (opaque.some((d) => d.content.kind === 'flat' && !d.masks)) return 0;
  const covers = opaque.map(coverOf);
  const samplesDown = Math.max(2, Math.round((samplesAcross * height) / width));
  let bare = 0;
  for (let j = 0; j < samplesDown; j++) {
    for (let i = 0; i < samplesAcross; i++) {
      const x = (i / (samplesAcross - 1)) * width;
      const y = (j / (samplesDown - 1)) * height;
      if (!covers.some((covered) => covered(x, y))) bare++;
    }
  }
  return bare / (samplesAcross * samplesDown);
}

/** Whether an opaque draw covers a place of the frame. */
function coverOf({ matrix, width, height, blur, masks }: Draw): (x: number, y: number) => boolean {
  const inverse = invert(matrix);
  const rim = clearRim(blur, matrix);
  const inBox = (x: number, y: number): boolean => {
    const [u, v] = transform(inverse, x, y);
    return u >= rim - 1e-6 && v >= rim - 1e-6 && u <= width - rim + 1e-6 && v <= height - rim + 1e-6;
  };
  const shapes = masks?.shapes.filter((shape) => !shape.muted) ?? [];
  if (!masks || shapes.length === 0) return inBox;
  // What fades somewhere is not looked at closer: it is a look, and no cover.
  if (blur > 0 || shapes.some(({ feather, opacity, grow }) => feather > 0 || opacity < 1 || grow !== 0))
    return () => false;
  const toMask = invert(masks.matrix);
  return (x, y) => inBox(x, y) && isShown(shapes, ...transform(toMask, x, y));
}

/** Copies of a layer can be many thousands, and no cover is looked for among them. */
const withoutCopies = (shot: Shot): Shot =>
  shot.layers.some((layer) => layer.repeat)
    ? { ...shot, layers: shot.layers.map((layer) => (layer.repeat ? { ...layer, repeat: null } : layer)) }
    : shot;

/** Source pixels of a picture's border that a blur leaves not quite opaque. */
const clearRim = (blur: number, [a, b, c, d]: Matrix): number => (blur * 2.5) / Math.sqrt(Math.abs(a * d - b * c));

/** What of a layer's box covers fully in every frame; null for layers without a box. */
function coveringBox(document: Document, shot: Shot, layer: Layer) {
  const box = boxOf(document, layer);
  const sharp = shot.camera.aperture === 0 && 'value' in layer.blur && layer.blur.value === 0;
  if (!box || sharp) return box;
  let rim = 0;
  for (let frame = 0; frame < shot.length; frame++) {
    const draw = evaluateFrame(document, shot, frame).draws.find((d) => d.layer === layer.id);
    if (draw) rim = Math.max(rim, clearRim(draw.blur, draw.matrix));
  }
  return { x: box.x + rim, y: box.y + rim, width: box.width - 2 * rim, height: box.height - 2 * rim };
}

/** Bare share of every frame of a shot. */
export function bareFrames(document: Document, shot: Shot): number[] {
  return Array.from({ length: shot.length }, (_, frame) => bareShare(document, shot, frame));
}

/** Stretches of bare frames, with the worst frame of each. */
export function bareStretches(bare: readonly number[]): { first: number; end: number; worst: number }[] {
  const out: { first: number; end: number; worst: number }[] = [];
  bare.forEach((share, frame) => {
    if (share <= 0) return;
    const last = out.at(-1);
    if (last?.end !== frame) out.push({ first: frame, end: frame + 1, worst: frame });
    else {
      last.end = frame + 1;
      if (share > bare[last.worst]!) last.worst = frame;
    }
  });
  return out;
}

/** The layer that is meant to fill the frame: the farthest whole picture that is shown. */
export function toBlame(shot: Shot, frame: number): Layer | null {
  const whole = farToNear(shot.layers, frame).filter(
    ({ source, hidden, opacity }) =>
      !hidden &&
      (source.kind === 'background' || source.kind === 'picture') &&
      !('value' in opacity && opacity.value < 1),
  );
  return whole[0] ?? null;
}

/**
 * The smallest factor by which `layer` must be enlarged about its pivot so that it covers the frame in every frame of the
 * shot; 1 when it already does. Exact for each frame: the frame's corners are taken back into the layer, where enlarging
 * by k shrinks their distance from the pivot by k.
 */
export function enlargementToCover(document: Document, shot: Shot, layer: Layer): number {
  const box = coveringBox(document, shot, layer);
  if (!box) return 1;
  let factor = 1;
  for (let frame = 0; frame < shot.length; frame++) {
    const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
    if (!matrix) continue;
    const [px, py] = layerValue(shot, layer, 'pivot', frame);
    const back = invert(matrix);
    for (const x of [0, document.frame.width]) {
      for (const y of [0, document.frame.height]) {
        const [u, v] = transform(back, x, y);
        const roomX = u < px ? px - box.x : box.x + box.width - px;
        const roomY = v < py ? py - box.y : box.y + box.height - py;
        if (roomX <= 0 || roomY <= 0) return Infinity;
        factor = Math.max(factor, Math.abs(u - px) / roomX, Math.abs(v - py) / roomY);
      }
    }
  }
  return factor;
}

/**
 * The shortest way by which `layer` must be moved so that it covers the frame in every frame of the shot, in frame
 * pixels at rest; null when no place does. Exact while its scale and rotation stand still.
 */
export function shiftToCover(document: Document, shot: Shot, layer: Layer): Point | null {
  const box = coveringBox(document, shot, layer);
  if (!box) return null;
  const [us, vs]: [number[], number[]] = [[], []];
  for (const [u, v] of frameCornersIn(document, shot, layer)) {
    us.push(u);
    vs.push(v);
  }
  const needed = (values: number[], start: number, length: number): number | null => {
    const [low, high] = [Math.min(...values), Math.max(...values)];
    if (high - low > length) return null;
    // A hair inside, so that rounding shows no line at the border.
    const room = Math.min(0.5, (length - (high - low)) / 2);
    if (low < start) return start - low + room;
    return high > start + length ? start + length - high - room : 0;
  };
  const du = needed(us, box.x, box.width);
  const dv = needed(vs, box.y, box.height);
  if (du === null || dv === null) return null;
  // The frame's corners must lie (du, dv) further in the picture, so the picture goes the other way.
  const [a, b, c, d] = restMatrix(document, shot, layer, 0);
  return [-(a * du + c * dv), -(b * du + d * dv)];
}
