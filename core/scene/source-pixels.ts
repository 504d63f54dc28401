import type { Document, Picture, Piece } from '../document/document.ts';
import type { Layer, LayerSource, Timing } from '../document/layer.ts';
import { boxOfShape } from '../document/points.ts';
import { currentPlate } from '../document/plate.ts';
import type { Shot } from '../document/shot.ts';

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

/** A rectangle in the pixels of a layer's source. */
export interface SourceBox {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * @param moment the frame of the shot and the timing that decide what a clip shows
 */
export function pixelsOf(
  document: Document,
  source: LayerSource,
  moment: { frame: number; timing?: Timing } = { frame: 0 },
): SourcePixels | null {
  if (source.kind === 'piece') {
    const piece = document.pieces.find((p) => p.id === source.piece);
    if (!piece?.cutout) return null;
    const picture = document.pictures.find((p) => p.id === piece.picture);
    if (picture?.clip) return clipPixels(document, picture, piece, moment);
    return { file: piece.cutout.file, ...piece.cutout.bounds, opaque: false, clip: null };
  }
  if (source.kind !== 'background' && source.kind !== 'picture') return null;
  const picture = document.pictures.find((p) => p.id === source.picture);
  if (!picture) return null;
  if (source.kind === 'background' && picture.background) {
    const { file, bounds } = currentPlate(picture.background);
    return { file, ...bounds, opaque: true, clip: null };
  }
  if (picture.clip) return clipPixels(document, picture, null, moment);
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

/** The box of what a layer shows, in its source's pixels; null for what has none (groups, carriers, colours). */
export function boxOf(document: Document, layer: Layer, frame = 0): SourceBox | null {
  const { source } = layer;
  if (source.kind === 'text') {
    const more = source.bubble?.padding ?? 0;
    return { x: -more, y: -more, width: source.box.width + 2 * more, height: source.box.height + 2 * more };
  }
  if (source.kind === 'prop') return { x: 0, y: 0, width: source.width, height: source.height };
  if (source.kind === 'drawing') return source.box;
  if (source.kind === 'shape') return boxOfShape(layer, source, frame);
  return pixelsOf(document, source, { frame });
}

function clipPixels(
  document: Document,
  picture: Picture,
  piece: Piece | null,
  { frame, timing }: { frame: number; timing?: Timing },
): SourcePixels {
  const { frames, rate } = picture.clip!;
  const index = clipIndex(frames, rate / document.frame.rate, frame, timing);
  const file = `${picture.original}@${index}${piece ? `:${wayOf(piece)}` : ''}`;
  const { width, height } = picture;
  const clip = { file: picture.original, index, rate, piece };
  return { file, x: 0, y: 0, width, height, opaque: !piece, clip };
}

/**
 * Which frame of a clip is shown: from where it slips, at its speed, and when it is over again, backwards, or its last.
 * @param pace frames of the clip for each frame of the shot at speed 1
 */
export function clipIndex(frames: number, pace: number, frame: number, timing?: Timing): number {
  if (timing?.freeze !== null && timing?.freeze !== undefined) return Math.min(frames - 1, timing.freeze);
  const { bar = null, slip = 0, speed = 1, ends = 'repeat' } = timing ?? {};
  // A hair more than exact: a frame that begins just now must not be missed by rounding.
  const passed = Math.floor((frame - (bar?.first ?? 0)) * pace * Math.abs(speed) + (slip - Math.floor(slip)) + 1e-6);
  const at = Math.floor(slip) + (speed < 0 ? frames - 1 - passed : passed);
  if (ends === 'hold') return Math.max(0, Math.min(frames - 1, at));
  const turn = Math.floor(at / frames);
  const within = at - turn * frames;
  return ends === 'swing' && turn % 2 !== 0 ? frames - 1 - within : within;
}

/** How a piece is found, in one word, made once for every state of it. */
const ways = new WeakMap<Piece, string>();
function wayOf(piece: Piece): string {
  const known = ways.get(piece) ?? JSON.stringify([piece.recipe, piece.care, piece.marks]);
  ways.set(piece, known);
  return known;
}

/** The bar in which a layer is there: its own, or that of the layer whose timing it has. */
export function barOf(shot: Shot, layer: Layer, seen = new Set<string>()): { first: number; end: number } {
  const like =
    layer.timing.like && !seen.has(layer.id) ? shot.layers.find((l) => l.id === layer.timing.like) : undefined;
  if (like) return barOf(shot, like, new Set(seen).add(layer.id));
  return layer.timing.bar ?? { first: 0, end: shot.length };
}
