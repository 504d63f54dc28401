import type { Document, Picture, Piece } from '../document/document.ts';
import type { Layer, LayerSource } from '../document/layer.ts';
import { boxOfShape } from '../document/points.ts';
import { currentPlate } from '../document/plate.ts';
import type { Shot } from '../document/shot.ts';
import { clipMoment, type ClipMoment, type ClipRun } from './clip-time.ts';

/** What of a clip is shown, and the piece that is cut out of it; null shows the whole frame. */
export interface ClipFrame extends ClipMoment {
  file: string;
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
 * @param moment the frame of the shot, and how a clip runs
 */
export function pixelsOf(
  document: Document,
  source: LayerSource,
  moment: { frame: number; run?: ClipRun } = { frame: 0 },
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
  { frame, run }: { frame: number; run?: ClipRun },
): SourcePixels {
  const { index, mix } = clipMoment(picture.clip!, document.frame.rate, frame, run);
  const both = mix ? `${index}+${mix.index}*${mix.share}` : index;
  const file = `${picture.original}@${both}${piece ? `:${wayOf(piece, index)}` : ''}`;
  const { width, height } = picture;
  const clip = { file: picture.original, index, mix, piece };
  return { file, x: 0, y: 0, width, height, opaque: !piece && !picture.clip!.alpha, clip };
}

/** How a piece is found, in one word, made once for every state of it. */
const ways = new WeakMap<Piece, string>();

/** How a piece is found in a frame of its clip; of a figure that frame's own alpha says all. */
function wayOf(piece: Piece, index: number): string {
  const { recipe, care, marks } = piece;
  if (recipe.kind === 'figure') return JSON.stringify([recipe.mattes[index] ?? null, care, marks]);
  const known = ways.get(piece) ?? JSON.stringify([recipe, care, marks]);
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
