import { cutName } from '../document/cut-name.ts';
import { untouched, type Document, type Picture, type Piece } from '../document/document.ts';
import { retime } from './retime.ts';
import { limits } from '../document/shot.ts';
import type { Layer } from '../document/layer.ts';
import { namesIn } from '../document/layer-names.ts';
import { propertyAt, propertyPaths } from '../document/properties.ts';
import { inverted, stepsOf } from '../document/recipe-steps.ts';
import type { Recipe, ShadowRecipe } from '../document/recipe.ts';
import { withEveryValue } from '../motion/keys.ts';
import type { Track } from '../document/track.ts';
import { valueAt, type Point } from '../motion/property.ts';
import { defineEdit, find } from './edit.ts';

export const renameProject = defineEdit('Rename project', (draft, name: string) => {
  draft.name = name.trim() || draft.name;
});

/** Another frame size keeps everything around its centre. */
export const setFrameSize = defineEdit('Change frame', (draft, width: number, height: number) => {
  const clamp = (v: number): number => Math.max(16, Math.min(limits.edge, Math.round(v)));
  const before = { ...draft.frame };
  draft.frame.width = clamp(width);
  draft.frame.height = clamp(height);
  // Guides are counted from the corner, which has gone away from the centre.
  const [dx, dy] = [(draft.frame.width - before.width) / 2, (draft.frame.height - before.height) / 2];
  for (const { guides } of draft.shots) {
    guides.x = guides.x.map((x) => x + dx);
    guides.y = guides.y.map((y) => y + dy);
  }
});

/** Another rate keeps the length in seconds; keys move with it. */
export const setFrameRate = defineEdit('Change frame rate', (draft, rate: number) => {
  const ratio = rate / draft.frame.rate;
  draft.frame.rate = rate;
  draft.ends.frames = Math.max(1, Math.min(600, Math.round(draft.ends.frames * ratio)));
  for (const shot of draft.shots) {
    shot.length = Math.max(1, Math.min(limits.frames, Math.round(shot.length * ratio)));
    retime(shot, ratio);
  }
});

/** How the clip goes on from its last frame into its first. */
export const setEnds = defineEdit('Change ends', (draft, change: Partial<Document['ends']>) => {
  Object.assign(draft.ends, change);
});

export const setShotLength = defineEdit('Change length', (draft, shotId: string, frames: number) => {
  find(draft.shots, 'shot', shotId).length = Math.max(1, Math.min(limits.frames, Math.round(frames)));
});

export const addPicture = defineEdit('Bring in picture', (draft, picture: Picture) => {
  draft.pictures.push(picture);
});

export const addPictures = defineEdit('Bring in picture', (draft, pictures: Picture[]) => {
  draft.pictures.push(...pictures);
});

/** Keeps a font with the project. */
export const addFont = defineEdit('Add font', (draft, font: { file: string; name: string }) => {
  if (!draft.fonts.some(({ file }) => file === font.file)) draft.fonts.push(font);
});

/** Removes a picture with everything made of it. */
export const removePicture = defineEdit('Remove picture', (draft, pictureId: string) => {
  find(draft.pictures, 'picture', pictureId);
  const pieces = new Set(draft.pieces.filter((p) => p.picture === pictureId).map((p) => p.id));
  draft.pictures = draft.pictures.filter((p) => p.id !== pictureId);
  draft.pieces = draft.pieces.filter((p) => !pieces.has(p.id));
  dropTracks(draft, (track) => track.picture === pictureId);
  dropLayers(draft, ({ source }) =>
    source.kind === 'piece' ? pieces.has(source.piece) : 'picture' in source && source.picture === pictureId,
  );
  // Plates that were taken from it keep their pixels, and would be rebuilt without it the next time.
  for (const { background } of draft.pictures)
    for (const step of background?.steps ?? [])
      if (step.kind === 'behind' && step.photo === pictureId) step.photo = null;
});

export const addPiece = defineEdit('New piece', (draft, piece: Piece) => {
  find(draft.pictures, 'picture', piece.picture);
  draft.pieces.push(piece);
});

export const renamePiece = defineEdit('Rename piece', (draft, pieceId: string, name: string) => {
  const piece = find(draft.pieces, 'piece', pieceId);
  piece.name = name.trim() || piece.name;
});

/** Puts the things a piece consists of in its place, each a piece with its own layer where the whole had one. */
export const splitPiece = defineEdit('Split by object', (draft, pieceId: string, parts: SplitPart[]) => {
  const whole = find(draft.pieces, 'piece', pieceId);
  const made = parts.map(({ id, file, alphaFile, bounds }, k): Piece => {
    const name = `${whole.name} ${k + 1}`;
    const recipe: Piece['recipe'] = { kind: 'mask', file: alphaFile, x: bounds.x, y: bounds.y };
    const of = cutName({ ...untouched, recipe });
    return { ...untouched, id, picture: whole.picture, name, recipe, cutout: { file, bounds, of } };
  });
  draft.pieces.splice(draft.pieces.indexOf(whole), 1, ...made);
  for (const { recipe } of draft.pieces)
    if (recipe.kind === 'shadow' && recipe.of === pieceId) recipe.of = parts[0]!.id;
  // Shown a second time, in another shot or a copy, the parts need further ids for their layers.
  let times = 0;
  for (const shot of draft.shots) {
    shot.layers = shot.layers.flatMap((layer) => {
      if (layer.source.kind !== 'piece' || layer.source.piece !== pieceId) return [layer];
      const suffix = times++ === 0 ? '' : `-${times}`;
      return splitLayer(layer, parts, whole.name, suffix);
    });
  }
  dropLayers(draft, () => false);
});

export interface SplitPart {
  id: string;
  layer: string;
  /** The part with its colours, and its alpha alone, both trimmed to `bounds`. */
  file: string;
  alphaFile: string;
  bounds: NonNullable<Piece['cutout']>['bounds'];
}

/** Each part turns about its own middle and lies where it lay in the whole. */
function splitLayer(layer: Layer, parts: SplitPart[], name: string, suffix: string): Layer[] {
  return parts.map(({ id, layer: layerId, bounds }, k) => {
    const pivot: [number, number] = [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2];
    const scale = valueAt(layer.scale, 0);
    const angle = (valueAt(layer.rotation, 0) * Math.PI) / 180;
    const [px, py] = valueAt(layer.pivot, 0);
    const [dx, dy] = [(pivot[0] - px) * scale, (pivot[1] - py) * scale];
    const [mx, my] = [dx * Math.cos(angle) - dy * Math.sin(angle), dx * Math.sin(angle) + dy * Math.cos(angle)];
    const position = withEveryValue<Point>(layer.position, ([x, y]) => [x + mx, y + my]);
    const source = { kind: 'piece' as const, piece: id };
    const own = `${layerId}${suffix}`.slice(0, 40);
    return { ...layer, id: own, name: `${name} ${k + 1}`, source, pivot: { value: pivot }, position, sways: [] };
  });
}

/** How a piece's edge is treated, and strokes directly on its alpha. */
export function setCare(step: string, pieceId: string, change: Partial<Pick<Piece, 'care' | 'marks'>>) {
  return defineEdit(step, (draft: Document) => {
    Object.assign(find(draft.pieces, 'piece', pieceId), change);
  })();
}

/** Another piece of the same picture: everything that a piece leaves over. */
export const addRest = defineEdit('Piece from the rest', (draft, pieceId: string, restId: string) => {
  const piece = find(draft.pieces, 'piece', pieceId);
  if (piece.recipe.kind === 'shadow') return;
  const recipe = inverted(piece.recipe);
  const { picture, care, marks } = piece;
  // What was restored to the piece is wiped away from the rest, and the other way round.
  const other = { restore: 'wipe', wipe: 'restore', soften: 'soften', refine: 'refine' } as const;
  const rest: Piece = {
    ...untouched,
    id: restId,
    picture,
    name: `${piece.name} rest`,
    recipe,
    care: { ...care, grow: 0 - care.grow },
    marks: marks.map((mark) => ({ ...mark, kind: other[mark.kind] })),
  };
  draft.pieces.splice(draft.pieces.indexOf(piece) + 1, 0, rest);
});

/** The same recipe on another picture of a series; stored masks only fit the picture they were made for. */
export const copyRecipe = defineEdit(
  'Copy recipe',
  (draft, pieceId: string, copy: { id: string; picture: string; name: string }) => {
    const piece = find(draft.pieces, 'piece', pieceId);
    find(draft.pictures, 'picture', copy.picture);
    if (!canBeCopied(piece)) return;
    draft.pieces.push({ ...untouched, ...copy, recipe: piece.recipe, care: piece.care });
  },
);

/** Whether a piece's recipe says something about other pictures too. */
export const canBeCopied = ({ recipe }: Piece): boolean =>
  recipe.kind !== 'shadow' && stepsOf(recipe).every((step) => step.recipe.kind !== 'mask');

/** A shadow of a piece, or another region for the one there is. */
export const addShadow = defineEdit(
  'Lift shadow',
  (draft, shadow: { id: string; name: string; of: string; region: ShadowRecipe['region'] }) => {
    const owner = find(draft.pieces, 'piece', shadow.of);
    const recipe = { kind: 'shadow' as const, of: shadow.of, region: shadow.region };
    const there = draft.pieces.find((p) => p.id === shadow.id);
    if (there) there.recipe = recipe;
    else
      draft.pieces.push({
        id: shadow.id,
        picture: owner.picture,
        name: shadow.name,
        recipe,
        ...untouched,
      });
  },
);

/** `step` names what the user did, for the undo button. */
export function setRecipe(step: string, pieceId: string, recipe: Recipe) {
  return defineEdit(step, (draft: Document) => {
    const piece = find(draft.pieces, 'piece', pieceId);
    const before = piece.recipe;
    piece.recipe = recipe;
    // What was only blended away is now cut out: its layers show it plainly again.
    if (before.kind !== 'whole' || recipe.kind === 'whole') return;
    for (const layer of draft.shots.flatMap((shot) => shot.layers))
      if (layer.source.kind === 'piece' && layer.source.piece === pieceId && layer.blend === before.blend)
        layer.blend = 'normal';
  })();
}

/** Removes a piece with its shadows and their layers. */
export const removePiece = defineEdit('Remove piece', (draft, pieceId: string) => {
  find(draft.pieces, 'piece', pieceId);
  const gone = new Set(
    draft.pieces
      .filter((p) => p.id === pieceId || (p.recipe.kind === 'shadow' && p.recipe.of === pieceId))
      .map((p) => p.id),
  );
  draft.pieces = draft.pieces.filter((p) => !gone.has(p.id));
  dropLayers(draft, ({ source }) => source.kind === 'piece' && gone.has(source.piece));
});

/** Takes followed points out of a document, and lets go of what followed them. */
export function dropTracks(document: Document, drop: (track: Track) => boolean): void {
  const gone = new Set(document.tracks.filter(drop).map((track) => track.id));
  document.tracks = document.tracks.filter((track) => !gone.has(track.id));
  for (const layer of document.shots.flatMap((shot) => shot.layers)) {
    const { fastened, steady } = layer;
    if (fastened?.point && gone.has(fastened.point)) layer.fastened = null;
    else if (fastened?.second && gone.has(fastened.second)) fastened.second = null;
    if (steady && gone.has(steady.point)) layer.steady = null;
    else if (steady?.second && gone.has(steady.second)) steady.second = null;
  }
}

/** Takes layers out of all shots, and lets go of what was fastened to them. */
export function dropLayers(document: Document, drop: (layer: Layer) => boolean): void {
  for (const shot of document.shots) {
    shot.layers = shot.layers.filter((layer) => !drop(layer));
    const left = new Set(shot.layers.map((layer) => layer.id));
    const sways = new Set(shot.layers.flatMap((layer) => layer.sways.map((sway) => sway.id)));
    for (const layer of shot.layers) letGo(layer, left, sways);
    for (const pose of shot.poses) {
      pose.layers = pose.layers.filter(({ layer }) => left.has(layer));
      pose.becomes = pose.becomes.filter(({ layer, next }) => left.has(layer) && left.has(next));
    }
  }
}

/** Whatever of a layer names one that is gone is let go. */
function letGo(layer: Layer, left: ReadonlySet<string>, sways: ReadonlySet<string>): void {
  for (const { to, put } of namesIn(layer)) if (!left.has(to)) put(null);
  if (layer.group && !left.has(layer.group)) layer.group = null;
  for (const sway of layer.sways) if (sway.like && !sways.has(sway.like)) sway.like = null;
  for (const path of propertyPaths(layer)) {
    const found = propertyAt(layer, path);
    if (found?.follow && !left.has(found.follow.layer)) delete found.follow;
  }
}

/** One more mark of a retouching brush on a lifted piece, and the cutout as it looks with it. */
export const setTouchedCutout = defineEdit(
  'Retouch piece',
  (draft, pieceId: string, touches: Piece['touches'], file: string) => {
    const piece = find(draft.pieces, 'piece', pieceId);
    piece.touches = touches;
    if (piece.cutout) piece.cutout.file = file;
  },
);
