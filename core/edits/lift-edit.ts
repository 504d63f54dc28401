import { cutName } from '../document/cut-name.ts';
import { enlargementToCover } from '../scene/bare.ts';
import type { Document, Picture, Piece } from '../document/document.ts';
import type { Layer, LayerSource } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { defineEdit, find } from './edit.ts';
import { placeAt } from '../scene/place.ts';
import { plainLayer } from '../document/layer.ts';
import { restFraming } from '../document/shot.ts';
import { fitMove } from './first-moves.ts';
import { valueAt } from '../motion/property.ts';
import type { PlateStep } from '../document/plate.ts';

export interface LiftResult {
  /** What was cut: the piece, and the shadows lifted with it. `layer` is an id for a layer that may have to be made. */
  pieces: { piece: string; cutout: NonNullable<Piece['cutout']>; layer: string }[];
  /** The plate behind, step by step; empty where nothing is rebuilt. */
  steps: PlateStep[];
  backgroundLayer: string;
}

/** Where the first piece and its background hang, and the gentle move that shows the depth between them. */
const pieceDepth = 3;
const backgroundDepth = 6;
const gentleMove = { sideways: 0.03, from: 0.93, to: 0.86 } as const;

/** A shadow follows sideways, stays on the ground, and grows fainter and smaller as its piece rises. */
const shadowFastening = {
  follow: [1, 0] as [number, number],
  turn: 0,
  grow: 0,
  rotation: 0,
  scale: 1,
  fade: 1.4,
  shrink: 0.5,
  touching: false,
  point: null,
  second: null,
};

/**
 * Stores cut pieces and the plate behind them. Layers that show them already follow by themselves; the first lift of
 * a picture also hangs both in the first shot's depth and starts a camera move.
 */
export const liftOut = defineEdit('Lift out', (draft, result: LiftResult) => {
  const first = find(draft.pieces, 'piece', result.pieces[0]!.piece);
  const picture = find(draft.pictures, 'picture', first.picture);
  const shot = draft.shots[0]!;
  const still = shot.layers.length === 0;
  for (const { piece: id, cutout, layer } of result.pieces) {
    const piece = find(draft.pieces, 'piece', id);
    // What was lifted may have been changed since: then it says itself of which cut it is.
    piece.cutout = { of: cutName(piece), ...cutout };
    if (!showing(shot, { kind: 'piece', piece: id })) hangPiece(draft, shot, picture, piece, layer);
    blendAsFound(draft, piece);
  }
  // What was keyed stood before a screen or on black: there is nothing behind it worth rebuilding.
  if (result.steps.length === 0) return;
  picture.background = { steps: result.steps };
  showBackground(draft, picture, result.backgroundLayer);
  if (still) startGentleMove(draft, shot, shot.layers.find(showsPiece(first.id))?.id ?? null);
});

/** A piece that is its whole picture shows through its blend mode alone. */
function blendAsFound(document: Document, { id, recipe }: Piece): void {
  if (recipe.kind !== 'whole') return;
  for (const layer of document.shots.flatMap((shot) => shot.layers))
    if (layer.source.kind === 'piece' && layer.source.piece === id) layer.blend = recipe.blend;
}

/** The document as if a piece had been lifted with all of its picture: how it will look on the Stage. */
export function asHung(document: Document, pieceId: string): Document {
  const layer = document.shots[0]!.layers.find((l) => l.source.kind === 'piece' && l.source.piece === pieceId);
  if (layer && !layer.hidden) return document;
  return hang(pieceId).apply(document);
}

const hang = defineEdit('Hang up', (draft, pieceId: string) => {
  const piece = find(draft.pieces, 'piece', pieceId);
  const picture = find(draft.pictures, 'picture', piece.picture);
  const shot = draft.shots[0]!;
  const there = showing(shot, { kind: 'piece', piece: pieceId });
  if (there) {
    there.hidden = false;
    return;
  }
  const bounds = { x: 0, y: 0, width: picture.width, height: picture.height };
  piece.cutout ??= { file: picture.file, bounds };
  hangPiece(draft, shot, picture, piece, `hung-${pieceId}`.slice(0, 40));
});

function showing(shot: Shot, source: LayerSource): Layer | undefined {
  const wanted = JSON.stringify(source);
  return shot.layers.find((layer) => JSON.stringify(layer.source) === wanted);
}

/** A layer in front for a piece; for a shadow one right behind its piece, fastened to it. */
function hangPiece(document: Document, shot: Shot, picture: Picture, piece: Piece, id: string): void {
  const { bounds } = piece.cutout!;
  const pivot: [number, number] = [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2];
  const source: LayerSource = { kind: 'piece', piece: piece.id };
  const owner = piece.recipe.kind === 'shadow' ? showing(shot, { kind: 'piece', piece: piece.recipe.of }) : undefined;
  const layer = layerOf(document, picture, source, id, piece.name, owner ? valueAt(owner.depth, 0) : pieceDepth, pivot);
  if (!owner) {
    shot.layers.unshift(layer);
    return;
  }
  layer.fastened = { to: owner.id, place: placeAt(owner, 0), ...shadowFastening };
  shot.layers.splice(shot.layers.indexOf(owner) + 1, 0, layer);
}

/** Makes sure that the first shot shows a picture's background. */
export function showBackground(document: Document, picture: Picture, id: string): void {
  const shot = document.shots[0]!;
  const source: LayerSource = { kind: 'background', picture: picture.id };
  if (showing(shot, source)) return;
  const pivot: [number, number] = [picture.width / 2, picture.height / 2];
  // A picture of which nothing was lifted is simply itself.
  const name = picture.background ? `${picture.name} background` : picture.name;
  shot.layers.push(layerOf(document, picture, source, id, name, backgroundDepth, pivot));
}

/** Hangs a picture as it is, or its rebuilt background, at the back of the first shot. */
export const hangPicture = defineEdit('Hang on the Stage', (draft, pictureId: string, layer: string) => {
  showBackground(draft, find(draft.pictures, 'picture', pictureId), layer);
});

/** What can be hung once more: a piece that was lifted, the background of a picture, or a picture as it came. */
export interface Hangable {
  kind: 'piece' | 'background' | 'picture';
  id: string;
  name: string;
}

/** Everything that was brought in or lifted, pieces first. */
export const hangables = ({ pieces, pictures }: Document): Hangable[] => [
  ...pieces.flatMap(({ id, name, cutout }): Hangable[] => (cutout ? [{ kind: 'piece', id, name }] : [])),
  ...pictures.flatMap(({ id, name, background }): Hangable[] =>
    // A picture of which nothing was rebuilt is its own background.
    background
      ? [
          { kind: 'background', id, name: `${name} background` },
          { kind: 'picture', id, name },
        ]
      : [{ kind: 'background', id, name }],
  ),
];

/** Hangs a piece or a background in a shot, where it lies in its picture. */
export const hangInShot = defineEdit(
  'Hang in this shot',
  (draft: Document, shotId: string, { kind, id, name }: Hangable, layer: string) => {
    const shot = find(draft.shots, 'shot', shotId);
    if (kind === 'piece') {
      const piece = find(draft.pieces, 'piece', id);
      if (piece.cutout) hangPiece(draft, shot, find(draft.pictures, 'picture', piece.picture), piece, layer);
      return;
    }
    const picture = find(draft.pictures, 'picture', id);
    const middle: [number, number] = [picture.width / 2, picture.height / 2];
    const hung = layerOf(draft, picture, { kind, picture: id }, layer, name, backgroundDepth, middle);
    // What was just hung is to be seen: before others that hang as far.
    const behind = shot.layers.findIndex(({ depth }) => valueAt(depth, 0) >= backgroundDepth);
    shot.layers.splice(behind < 0 ? shot.layers.length : behind, 0, hung);
  },
);

/** A layer that shows a source as large as its picture lies when it just covers the frame. */
function layerOf(
  document: Document,
  picture: Picture,
  source: LayerSource,
  id: string,
  name: string,
  depth: number,
  pivot: [number, number],
): Layer {
  const { width, height } = document.frame;
  const scale = Math.max(width / picture.width, height / picture.height);
  return {
    ...plainLayer,
    id,
    name: freeName(document, name),
    source,
    depth: { value: depth },
    pivot: { value: pivot },
    position: { value: [(pivot[0] - picture.width / 2) * scale, (pivot[1] - picture.height / 2) * scale] },
    scale: { value: scale },
  };
}

/** Two layers of one name are a classic mix-up; the second gets a number, or the next one where it had a number. */
export function freeName(document: Document, wanted: string): string {
  const taken = new Set(document.shots.flatMap((shot) => shot.layers.map((layer) => layer.name)));
  if (!taken.has(wanted)) return wanted;
  // The layer of a piece has its name, and another piece's is not for a copy of it.
  for (const piece of document.pieces) taken.add(piece.name);
  const [, base, number] = /^(.*?)(?: (\d{1,3}))?$/s.exec(wanted)!;
  for (let n = Number(number ?? 1) + 1; ; n++) if (!taken.has(`${base} ${n}`)) return `${base} ${n}`;
}

const showsPiece =
  (piece: string) =>
  ({ source }: Layer): boolean =>
    source.kind === 'piece' && source.piece === piece;

/** A slow slide and push, as strong as it keeps what was lifted whole. */
function startGentleMove(document: Document, shot: Shot, subject: string | null): void {
  const x = document.frame.width * gentleMove.sideways;
  shot.camera = { ...shot.camera, depth: pieceDepth, easing: 'ease-in-out' };
  const at = (strength: number) => ({
    first: { ...restFraming, x: -x * strength, size: 1 - (1 - gentleMove.from) * strength },
    last: { ...restFraming, x: x * strength, size: 1 - (1 - gentleMove.to) * strength },
  });
  fitMove(document, shot, at, subject, true);
  const background = shot.layers.at(-1)!;
  const factor = enlargementToCover(document, shot, background);
  if (factor > 1 && Number.isFinite(factor) && 'value' in background.scale) background.scale.value *= factor * 1.002;
}
