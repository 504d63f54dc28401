import { enlargementToCover } from './bare.ts';
import type { Document, Layer, LayerSource, Picture, Piece, Shot } from './document.ts';
import { defineEdit, find } from './edit.ts';

export interface LiftResult {
  piece: string;
  cutout: NonNullable<Piece['cutout']>;
  background: NonNullable<Picture['background']>;
  /** Ids for layers that may have to be made. */
  pieceLayer: string;
  backgroundLayer: string;
}

/** Where the first piece and its background hang, and the gentle move that shows the depth between them. */
const pieceDepth = 3;
const backgroundDepth = 6;
const gentleMove = { sideways: 0.03, from: 0.93, to: 0.86 } as const;

/**
 * Stores a cut piece and the background behind it. Layers that show them already follow by themselves; the first lift of
 * a picture also hangs both in the first shot's depth and starts a camera move.
 */
export const liftOut = defineEdit('Lift out', (draft, result: LiftResult) => {
  const piece = find(draft.pieces, 'piece', result.piece);
  const picture = find(draft.pictures, 'picture', piece.picture);
  piece.cutout = result.cutout;
  picture.background = result.background;
  const shot = draft.shots[0]!;
  const still = shot.layers.length === 0;
  const shows = (source: LayerSource): boolean =>
    shot.layers.some((l) => l.source.kind === source.kind && JSON.stringify(l.source) === JSON.stringify(source));
  const background: LayerSource = { kind: 'background', picture: picture.id };
  const front: LayerSource = { kind: 'piece', piece: piece.id };
  if (!shows(front)) {
    const { bounds } = result.cutout;
    const pivot: [number, number] = [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2];
    shot.layers.unshift(layerOf(draft, picture, front, result.pieceLayer, piece.name, pieceDepth, pivot));
  }
  if (!shows(background)) {
    const pivot: [number, number] = [picture.width / 2, picture.height / 2];
    const name = `${picture.name} background`;
    shot.layers.push(layerOf(draft, picture, background, result.backgroundLayer, name, backgroundDepth, pivot));
  }
  if (still) startGentleMove(draft, shot);
});

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
    id,
    name: freeName(document, name),
    source,
    depth,
    hidden: false,
    locked: false,
    pivot,
    position: { value: [(pivot[0] - picture.width / 2) * scale, (pivot[1] - picture.height / 2) * scale] },
    scale: { value: scale },
    rotation: { value: 0 },
    opacity: { value: 1 },
  };
}

/** Two layers of one name are a classic mix-up; the second gets a number. */
function freeName(document: Document, wanted: string): string {
  const taken = new Set(document.shots.flatMap((shot) => shot.layers.map((layer) => layer.name)));
  if (!taken.has(wanted)) return wanted;
  for (let n = 2; ; n++) if (!taken.has(`${wanted} ${n}`)) return `${wanted} ${n}`;
}

function startGentleMove(document: Document, shot: Shot): void {
  const x = document.frame.width * gentleMove.sideways;
  shot.camera = {
    depth: pieceDepth,
    first: { x: -x, y: 0, size: gentleMove.from },
    last: { x, y: 0, size: gentleMove.to },
    easing: 'ease-in-out',
  };
  const background = shot.layers.at(-1)!;
  const factor = enlargementToCover(document, shot, background);
  if (factor > 1 && Number.isFinite(factor) && 'value' in background.scale) background.scale.value *= factor * 1.002;
}
