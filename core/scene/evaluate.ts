import { cameraOfFraming, viewOfPlane, type Camera } from '../depth/camera.ts';
import { ease } from '../motion/easing.ts';
import { valueAt, type Point } from '../motion/property.ts';
import type { BlendMode, Document, Layer, LayerSource, Picture, Piece, Shot } from './document.ts';
import { compose, invert, transform, type Matrix } from './matrix.ts';
import { currentPlate } from './plate.ts';

/** One picture to draw: the source's pixels through `matrix` into frame pixels, origin at the frame's top left corner. */
export interface Draw {
  layer: string;
  /** Hash of the file whose pixels are drawn; for a frame of a clip a name of its own. */
  file: string;
  clip: ClipFrame | null;
  /** Maps pixels of the file to frame pixels. */
  matrix: Matrix;
  /** Size of the file in pixels. */
  width: number;
  height: number;
  opacity: number;
  blend: BlendMode;
  /** Whether every pixel hides what is behind it. */
  opaque: boolean;
}

/** A frame ready to be painted, far things first. */
export interface EvaluatedFrame {
  width: number;
  height: number;
  draws: Draw[];
}

/** One frame of a clip, and the piece that is cut out of it; null shows the whole frame. */
export interface ClipFrame {
  file: string;
  index: number;
  rate: number;
  piece: Piece | null;
}

/** Where a source's pixels come from and where they lie in the picture they belong to; null while it has none. */
export interface SourcePixels {
  file: string;
  x: number;
  y: number;
  width: number;
  height: number;
  opaque: boolean;
  clip: ClipFrame | null;
}

/** @param frame of the shot, which decides what a clip shows */
export function pixelsOf(document: Document, source: LayerSource, frame = 0): SourcePixels | null {
  if (source.kind === 'piece') {
    const piece = document.pieces.find((p) => p.id === source.piece);
    if (!piece?.cutout) return null;
    const picture = document.pictures.find((p) => p.id === piece.picture);
    if (picture?.clip) return clipPixels(document, picture, piece, frame);
    return { file: piece.cutout.file, ...piece.cutout.bounds, opaque: false, clip: null };
  }
  const picture = document.pictures.find((p) => p.id === source.picture);
  if (!picture) return null;
  if (source.kind === 'background' && picture.background) {
    const { file, bounds } = currentPlate(picture.background);
    return { file, ...bounds, opaque: true, clip: null };
  }
  if (picture.clip) return clipPixels(document, picture, null, frame);
  // Before anything was lifted the background is the picture itself.
  const { width, height, file } = picture;
  return { x: 0, y: 0, width, height, opaque: true, file, clip: null };
}

/** The stored still by which a source is recognised in lists; of a clip its first frame, or the piece as it was lifted. */
export function stillOf(document: Document, source: LayerSource): string | null {
  const pixels = pixelsOf(document, source);
  if (!pixels?.clip) return pixels?.file ?? null;
  if (pixels.clip.piece) return pixels.clip.piece.cutout!.file;
  return document.pictures.find((p) => p.original === pixels.clip!.file)!.file;
}

/** A clip runs from the first frame of the shot at its own rate, and begins again when it is over. */
function clipPixels(document: Document, picture: Picture, piece: Piece | null, frame: number): SourcePixels {
  const { frames, rate } = picture.clip!;
  // A hair more than exact: a frame that begins just now must not be missed by rounding.
  const index = Math.floor((frame * rate) / document.frame.rate + 1e-6) % frames;
  const file = `${picture.original}@${index}${piece ? `:${wayOf(piece)}` : ''}`;
  const { width, height } = picture;
  const clip = { file: picture.original, index, rate, piece };
  return { file, x: 0, y: 0, width, height, opaque: !piece, clip };
}

/** How a piece is found, in one word, made once for every state of it. */
const ways = new WeakMap<Piece, string>();
function wayOf(piece: Piece): string {
  const known = ways.get(piece) ?? JSON.stringify([piece.recipe, piece.care, piece.marks]);
  ways.set(piece, known);
  return known;
}

/** The camera at a frame: on its way from the first Framing to the last. */
export function cameraAt(shot: Shot, frame: number): Camera {
  const { first, last, easing, depth } = shot.camera;
  const share = ease(easing, shot.length > 1 ? frame / (shot.length - 1) : 0);
  const mix = (a: number, b: number): number => a + (b - a) * share;
  return cameraOfFraming({ x: mix(first.x, last.x), y: mix(first.y, last.y), size: mix(first.size, last.size) }, depth);
}

/** Where a layer's own position property puts its pivot at a frame. */
export const placeAt = (layer: Layer, frame: number): Point => valueAt(layer.position, frame);

/** What following another layer adds to a layer at a frame. */
interface Following {
  move: Point;
  scale: number;
  opacity: number;
}

const alone: Following = { move: [0, 0], scale: 1, opacity: 1 };

/** Follows chains of fastened layers; a ring of them stops where it closes. */
export function followingAt(
  shot: Shot,
  layer: Layer,
  frame: number,
  height: number,
  seen = new Set<string>(),
): Following {
  const { fastened } = layer;
  const owner = fastened && !seen.has(layer.id) ? shot.layers.find((l) => l.id === fastened.to) : undefined;
  if (!fastened || !owner) return alone;
  const theirs = followingAt(shot, owner, frame, height, new Set(seen).add(layer.id));
  const [x, y] = placeAt(owner, frame);
  const way: Point = [x + theirs.move[0] - fastened.place[0], y + theirs.move[1] - fastened.place[1]];
  const risen = Math.max(0, -way[1] / height);
  return {
    move: [way[0] * fastened.follow[0], way[1] * fastened.follow[1]],
    scale: Math.max(0.02, 1 - fastened.shrink * risen),
    opacity: Math.max(0, 1 - fastened.fade * risen),
  };
}

/** Maps picture pixels of a layer's source to frame pixels around the frame's centre, as it looks at rest. */
export function restMatrix(layer: Layer, frame: number, following = alone): Matrix {
  const place = valueAt(layer.position, frame);
  const x = place[0] + following.move[0];
  const y = place[1] + following.move[1];
  const scale = valueAt(layer.scale, frame) * following.scale;
  const angle = (valueAt(layer.rotation, frame) * Math.PI) / 180;
  const cos = Math.cos(angle) * scale;
  const sin = Math.sin(angle) * scale;
  return compose([cos, sin, -sin, cos, x, y], [1, 0, 0, 1, -layer.pivot[0], -layer.pivot[1]]);
}

/** Maps picture pixels of a layer's source to frame pixels from the top left; null when it is at or behind the lens. */
export function layerMatrix(
  document: Document,
  shot: Shot,
  layer: Layer,
  camera: Camera,
  frame: number,
): Matrix | null {
  const view = viewOfPlane(camera, layer.depth);
  if (!view) return null;
  const { width, height } = document.frame;
  const seen: Matrix = [view.scale, 0, 0, view.scale, view.x + width / 2, view.y + height / 2];
  return compose(seen, restMatrix(layer, frame, followingAt(shot, layer, frame, height)));
}

/** Layers from far to near; of equal depths the one listed first is nearer. */
export function farToNear(layers: readonly Layer[]): Layer[] {
  return [...layers].reverse().sort((a, b) => b.depth - a.depth);
}

/** What a shot looks like at a frame. Same document and frame, same draws. */
export function evaluateFrame(
  document: Document,
  shot: Shot,
  frame: number,
  camera = cameraAt(shot, frame),
): EvaluatedFrame {
  const draws: Draw[] = [];
  for (const layer of farToNear(shot.layers)) {
    if (layer.hidden) continue;
    const following = followingAt(shot, layer, frame, document.frame.height);
    const opacity = Math.max(0, Math.min(1, valueAt(layer.opacity, frame) * following.opacity));
    const pixels = pixelsOf(document, layer.source, frame);
    const matrix = layerMatrix(document, shot, layer, camera, frame);
    if (!pixels || !matrix || opacity === 0) continue;
    draws.push({
      layer: layer.id,
      file: pixels.file,
      clip: pixels.clip,
      matrix: compose(matrix, [1, 0, 0, 1, pixels.x, pixels.y]),
      width: pixels.width,
      height: pixels.height,
      opacity,
      blend: layer.blend,
      opaque: pixels.opaque && layer.blend === 'normal',
    });
  }
  return { width: document.frame.width, height: document.frame.height, draws };
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
