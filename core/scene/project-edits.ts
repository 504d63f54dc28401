import { limits, type Document, type Picture, type Piece, type Recipe } from './document.ts';
import { defineEdit, find } from './edit.ts';

export const renameProject = defineEdit('Rename project', (draft, name: string) => {
  draft.name = name.trim() || draft.name;
});

/** Another frame size keeps everything around its centre. */
export const setFrameSize = defineEdit('Change frame', (draft, width: number, height: number) => {
  const clamp = (v: number): number => Math.max(16, Math.min(limits.edge, Math.round(v)));
  draft.frame.width = clamp(width);
  draft.frame.height = clamp(height);
});

/** Another rate keeps the length in seconds; keys move with it. */
export const setFrameRate = defineEdit('Change frame rate', (draft, rate: number) => {
  const ratio = rate / draft.frame.rate;
  draft.frame.rate = rate;
  for (const shot of draft.shots) {
    shot.length = Math.max(1, Math.min(limits.frames, Math.round(shot.length * ratio)));
    for (const layer of shot.layers) {
      for (const property of [layer.position, layer.scale, layer.rotation, layer.opacity]) {
        if (!('keys' in property)) continue;
        // Two keys that fall on one frame at a lower rate would break the order: the later one gives way.
        const seen = new Set<number>();
        const keys = property.keys.map((key) => ({ ...key, frame: Math.round(key.frame * ratio) }));
        (property as { keys: unknown[] }).keys = keys.filter((key) => !seen.has(key.frame) && seen.add(key.frame));
      }
    }
  }
});

export const setShotLength = defineEdit('Change length', (draft, shotId: string, frames: number) => {
  find(draft.shots, 'shot', shotId).length = Math.max(1, Math.min(limits.frames, Math.round(frames)));
});

export const addPicture = defineEdit('Bring in picture', (draft, picture: Picture) => {
  draft.pictures.push(picture);
});

/** Removes a picture with everything made of it. */
export const removePicture = defineEdit('Remove picture', (draft, pictureId: string) => {
  find(draft.pictures, 'picture', pictureId);
  const pieces = new Set(draft.pieces.filter((p) => p.picture === pictureId).map((p) => p.id));
  draft.pictures = draft.pictures.filter((p) => p.id !== pictureId);
  draft.pieces = draft.pieces.filter((p) => !pieces.has(p.id));
  for (const shot of draft.shots) {
    shot.layers = shot.layers.filter(({ source }) =>
      source.kind === 'piece' ? !pieces.has(source.piece) : source.picture !== pictureId,
    );
  }
});

export const addPiece = defineEdit('New piece', (draft, piece: Piece) => {
  find(draft.pictures, 'picture', piece.picture);
  draft.pieces.push(piece);
});

export const renamePiece = defineEdit('Rename piece', (draft, pieceId: string, name: string) => {
  const piece = find(draft.pieces, 'piece', pieceId);
  piece.name = name.trim() || piece.name;
});

/** `step` names what the user did, for the undo button. */
export function setRecipe(step: string, pieceId: string, recipe: Recipe) {
  return defineEdit(step, (draft: Document) => {
    find(draft.pieces, 'piece', pieceId).recipe = recipe;
  })();
}

/** Removes a piece and its layers. */
export const removePiece = defineEdit('Remove piece', (draft, pieceId: string) => {
  find(draft.pieces, 'piece', pieceId);
  draft.pieces = draft.pieces.filter((p) => p.id !== pieceId);
  for (const shot of draft.shots) {
    shot.layers = shot.layers.filter(({ source }) => source.kind !== 'piece' || source.piece !== pieceId);
  }
});
