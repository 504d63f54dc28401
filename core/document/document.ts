import { z } from 'zod';
import { noCare } from '../cut/edge-care.ts';
import { namesIn, pointsNamedIn } from './layer-names.ts';
import { filesOfPlate, pieceTouchSchema, plateSchema } from './plate.ts';
import { filesOfRecipe } from './recipe-steps.ts';
import { alphaMarkSchema, careSchema, recipeSchema } from './recipe.ts';
import { fileHash, id, name, rectSchema, size } from './schema-parts.ts';
import { soundSchema } from './sound.ts';
import { trackSchema } from './track.ts';
import { limits, plainShot, shotSchema, type Shot } from './shot.ts';
import { upgraded } from './upgrade.ts';

/** Ways in which a clip begins again. */
export const endings = ['as-is', 'crossfade', 'back-again'] as const;
export type Ending = (typeof endings)[number];
const plainEnds: { kind: Ending; frames: number } = { kind: 'as-is', frames: 15 };

/** The version this code writes. */
export const documentVersion = 4;

export const pictureSchema = z.object({
  id,
  name,
  /** What was brought in, byte for byte. */
  original: fileHash,
  /** The same upright, in sRGB: what is worked on. */
  file: fileHash,
  width: size,
  height: size,
  /** For moving pictures: how many frames there are, and how many a second. `original` is the clip, `file` its first frame. */
  clip: z
    .object({
      frames: z.number().int().min(1),
      rate: z.number().min(0.1).max(240),
      /** Whether something can be seen through its frames. */
      alpha: z.boolean().optional(),
    })
    .nullable(),
  /** The steps from the picture to its clean plate; null while there is nothing to show but the picture. */
  background: plateSchema.nullable(),
});

export const pieceSchema = z.object({
  id,
  picture: id,
  name,
  recipe: recipeSchema,
  /** The cut itself, trimmed to `bounds` in picture pixels; null while it was never lifted. */
  cutout: z
    .object({
      file: fileHash,
      bounds: rectSchema,
      /** Name of the cut it was made of, see cut-name; absent where that was not noted. */
      of: z.string().max(20).optional(),
    })
    .nullable(),
  care: careSchema,
  marks: z.array(alphaMarkSchema),
  /** Retouching of the piece itself, done again with every lift. */
  touches: z.array(pieceTouchSchema),
});

const documentFields = z.object({
  version: z.literal(documentVersion),
  name,
  frame: z.object({
    width: size.max(limits.edge),
    height: size.max(limits.edge),
    rate: z.number().min(1).max(limits.rate),
  }),
  pictures: z.array(pictureSchema),
  pieces: z.array(pieceSchema),
  shots: z.array(shotSchema).min(1),
  /** Points followed through clips. */
  tracks: z.array(trackSchema).max(200).default([]),
  /** Fonts of one's own. */
  fonts: z
    .array(z.object({ file: fileHash, name }))
    .max(200)
    .default([]),
  /** How the clip goes on from its last frame into its first: as it is, by a crossfade of so many `frames`, or back again. */
  ends: z.object({ kind: z.enum(endings), frames: z.number().int().min(1).max(600) }).default(plainEnds),
  /** What is heard under the shots. */
  sounds: z.array(soundSchema).max(100).default([]),
});

/** The document without its lists. */
export const headSchema = documentFields.omit({ pictures: true, pieces: true, shots: true });

export const documentSchema = documentFields.superRefine((document, context) => {
  for (const message of danglingIn(document)) context.addIssue({ code: 'custom', message });
});

/** What a document names that is not there, or has twice; empty for a sound one. */
export function danglingIn(document: z.infer<typeof documentFields>): string[] {
  const found: string[] = [];
  const complain = (message: string): void => void found.push(message);
  const pictures = new Set(document.pictures.map((p) => p.id));
  const pieces = new Set(document.pieces.map((p) => p.id));
  for (const piece of document.pieces) {
    if (!pictures.has(piece.picture)) complain(`piece ${piece.id} has no picture`);
    if (piece.recipe.kind === 'shadow' && !pieces.has(piece.recipe.of)) complain(`shadow ${piece.id} has no piece`);
  }
  const clips = new Set(document.pictures.flatMap((p) => (p.clip ? [p.id] : [])));
  for (const { id, picture } of document.tracks) if (!clips.has(picture)) complain(`point ${id} is in no clip`);
  for (const shot of document.shots) {
    checkShot(shot, pictures, pieces, complain);
    for (const layer of shot.layers)
      for (const point of pointsNamedIn(layer))
        if (!document.tracks.some((t) => t.id === point)) complain(`layer ${layer.id} follows nothing`);
  }
  const ids = [
    ...document.pictures,
    ...document.pieces,
    ...document.tracks,
    ...document.sounds,
    ...document.shots,
    ...document.shots.flatMap((s) => [...s.layers, ...s.layers.flatMap((l) => l.sways), ...s.poses]),
  ].map((x) => x.id);
  if (new Set(ids).size !== ids.length) complain('two things have the same id');
  return found;
}

export type Document = z.infer<typeof documentSchema>;
export type Picture = z.infer<typeof pictureSchema>;
export type Piece = z.infer<typeof pieceSchema>;

/** What every new piece begins with beside its recipe. */
export const untouched = { cutout: null, care: noCare, marks: [], touches: [] };

/** Says what a shot's layers name that is not there. */
function checkShot(
  shot: Shot,
  pictures: ReadonlySet<string>,
  pieces: ReadonlySet<string>,
  complain: (message: string) => void,
): void {
  const layers = new Map(shot.layers.map((l) => [l.id, l]));
  const sways = new Set(shot.layers.flatMap((l) => l.sways.map((s) => s.id)));
  for (const one of shot.layers) {
    const { id: layer, source, group, sways: own, points, colour } = one;
    for (const { to, does } of namesIn(one))
      if (!layers.has(to) || to === layer) complain(`layer ${layer} ${does} nothing`);
    if (group && layers.get(group)?.source.kind !== 'group') complain(`layer ${layer} is in no group`);
    if (inRing(layers, layer)) complain(`group ${layer} is inside itself`);
    for (const sway of own) if (sway.like && !sways.has(sway.like)) complain(`sway ${sway.id} is like nothing`);
    if (source.kind === 'piece' && !pieces.has(source.piece)) complain(`layer ${layer} has no source`);
    if ((source.kind === 'picture' || source.kind === 'background') && !pictures.has(source.picture))
      complain(`layer ${layer} has no source`);
    if ((source.kind === 'shape' && !source.made) !== (points !== null)) complain(`layer ${layer} has no points`);
    if (['shape', 'text', 'colour'].includes(source.kind) && !colour) complain(`layer ${layer} has no colour`);
  }
}

function inRing(layers: ReadonlyMap<string, { group: string | null }>, id: string): boolean {
  const seen = new Set<string>();
  for (let at: string | null | undefined = id; at; at = layers.get(at)?.group) {
    if (seen.has(at)) return true;
    seen.add(at);
  }
  return false;
}

/** Thrown when a stored or received value is not a document this version can open. */
export class UnreadableDocument extends Error {
  constructor(readonly detail: string) {
    super('This project cannot be opened: it was made by a newer Clyvo or is damaged.');
    this.name = 'UnreadableDocument';
  }
}

/** Checks a value from outside; documents of older versions are brought up to date first. */
export function readDocument(value: unknown): Document {
  const parsed = documentSchema.safeParse(upgraded(value));
  if (!parsed.success) throw new UnreadableDocument(z.prettifyError(parsed.error));
  return parsed.data;
}

/** A new project: one empty shot of `seconds`. */
export function emptyDocument(
  projectName: string,
  frame: Document['frame'],
  seconds: number,
  shotId: string,
): Document {
  return {
    version: documentVersion,
    name: projectName,
    frame,
    pictures: [],
    pieces: [],
    tracks: [],
    fonts: [],
    sounds: [],
    ends: plainEnds,
    shots: [
      {
        id: shotId,
        name: 'Shot 1',
        length: Math.max(1, Math.round(seconds * frame.rate)),
        ...plainShot,
      },
    ],
  };
}

/** The files a document needs to be shown and heard: originals, working pictures, cutouts, backgrounds, fonts and sounds. */
export function filesOf(document: Document): string[] {
  const files = new Set<string>();
  for (const picture of document.pictures) {
    files.add(picture.original);
    files.add(picture.file);
    if (picture.background) filesOfPlate(picture.background).forEach((file) => files.add(file));
  }
  for (const { relief } of document.shots.flatMap((shot) => shot.layers)) {
    if (relief?.file) files.add(relief.file);
    if (relief?.behind) [relief.behind.picture, relief.behind.depth].forEach((file) => files.add(file));
  }
  for (const piece of document.pieces) {
    if (piece.cutout) files.add(piece.cutout.file);
    filesOfRecipe(piece.recipe).forEach((file) => files.add(file));
    for (const touch of piece.touches) if (touch.kind === 'behind') files.add(touch.file);
  }
  for (const { file } of [...document.fonts, ...document.sounds]) files.add(file);
  for (const file of drawingsOf(document)) files.add(file);
  return [...files];
}

/** The files of all drawings in a document. */
export const drawingsOf = (document: Document): string[] => [
  ...new Set(
    document.shots.flatMap((s) => s.layers.flatMap(({ source }) => (source.kind === 'drawing' ? [source.file] : []))),
  ),
];

/** The faces of all words in a document. */
export const facesOf = (document: Document): string[] => [
  ...new Set(
    document.shots.flatMap((s) => s.layers.flatMap(({ source }) => (source.kind === 'text' ? [source.face] : []))),
  ),
];
