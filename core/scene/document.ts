import { z } from 'zod';
import { noCare } from '../cut/edge-care.ts';
import { easingSchema } from '../motion/easing.ts';
import { numberPropertySchema, pointPropertySchema } from '../motion/property.ts';
import { filesOfPlate, plateSchema, touchSchema } from './plate.ts';
import { filesOfRecipe } from './recipe-steps.ts';
import { alphaMarkSchema, careSchema, recipeSchema } from './recipe.ts';
import { fileHash, id, name, pointSchema, rectSchema, size } from './schema-parts.ts';
import { upgraded } from './upgrade.ts';

/** The version this code writes. */
export const documentVersion = 3;

export const limits = { edge: 8192, frames: 3600, rate: 120 } as const;

const pictureSchema = z.object({
  id,
  name,
  /** What was brought in, byte for byte. */
  original: fileHash,
  /** The same upright, in sRGB: what is worked on. */
  file: fileHash,
  width: size,
  height: size,
  /** For moving pictures: how many frames there are, and how many a second. `original` is the clip, `file` its first frame. */
  clip: z.object({ frames: z.number().int().min(1), rate: z.number().min(0.1).max(240) }).nullable(),
  /** The steps from the picture to its clean plate; null while there is nothing to show but the picture. */
  background: plateSchema.nullable(),
});

const pieceSchema = z.object({
  id,
  picture: id,
  name,
  recipe: recipeSchema,
  /** The cut itself, trimmed to `bounds` in picture pixels; null while it was never lifted. */
  cutout: z.object({ file: fileHash, bounds: rectSchema }).nullable(),
  care: careSchema,
  marks: z.array(alphaMarkSchema),
  /** Retouching of the piece itself, done again with every lift. */
  touches: z.array(touchSchema),
});

/** The blend modes of W3C Compositing and Blending, and its additive operator. */
export const blendModes = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
  'plus-lighter',
] as const;
const blendSchema = z.enum(blendModes);
export type BlendMode = z.infer<typeof blendSchema>;

const sourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('piece'), piece: id }),
  z.object({ kind: z.literal('background'), picture: id }),
  z.object({ kind: z.literal('picture'), picture: id }),
]);

/**
 * How a layer follows another: `follow` of the other's way from its place at fastening, sideways and up or down. As the
 * other rises by the height of the frame, the layer loses `fade` of its opacity and `shrink` of its size.
 */
const fastenedSchema = z.object({
  to: id,
  place: pointSchema,
  follow: pointSchema,
  fade: z.number().min(0).max(10),
  shrink: z.number().min(0).max(10),
});

const layerSchema = z.object({
  id,
  name,
  source: sourceSchema,
  /** Distance from the lens; larger is further. */
  depth: z.number().min(0.2).max(100),
  hidden: z.boolean(),
  locked: z.boolean(),
  /** The point of the source, in its pixels, that position names and rotation and scale keep in place. */
  pivot: z.tuple([z.number(), z.number()]),
  /** Where the pivot is at rest, in frame pixels from the centre of the frame. */
  position: pointPropertySchema,
  /** Frame pixels per source pixel. */
  scale: numberPropertySchema,
  /** Degrees, clockwise. */
  rotation: numberPropertySchema,
  /** 0..1 */
  opacity: numberPropertySchema,
  blend: blendSchema,
  fastened: fastenedSchema.nullable(),
});

const framingSchema = z.object({ x: z.number(), y: z.number(), size: z.number().min(0.05).max(4) });

const shotSchema = z.object({
  id,
  name,
  /** Number of frames. */
  length: z.number().int().min(1).max(limits.frames),
  camera: z.object({
    /** The plane on which the Framings are drawn. */
    depth: z.number().min(0.2).max(100),
    first: framingSchema,
    last: framingSchema,
    easing: easingSchema,
  }),
  /** Nearest first where depths are equal. */
  layers: z.array(layerSchema),
});

export const documentSchema = z
  .object({
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
  })
  .superRefine((document, context) => {
    const pictures = new Set(document.pictures.map((p) => p.id));
    const pieces = new Set(document.pieces.map((p) => p.id));
    const complain = (message: string) => context.addIssue({ code: 'custom', message });
    for (const piece of document.pieces) {
      if (!pictures.has(piece.picture)) complain(`piece ${piece.id} has no picture`);
      if (piece.recipe.kind === 'shadow' && !pieces.has(piece.recipe.of)) complain(`shadow ${piece.id} has no piece`);
    }
    for (const shot of document.shots) {
      const layers = new Set(shot.layers.map((l) => l.id));
      for (const { id: layer, source, fastened } of shot.layers) {
        if (fastened && (!layers.has(fastened.to) || fastened.to === layer))
          complain(`layer ${layer} is fastened to nothing`);
        const known = source.kind === 'piece' ? pieces.has(source.piece) : pictures.has(source.picture);
        if (!known) complain(`layer ${layer} has no source`);
      }
    }
    const ids = [
      ...document.pictures,
      ...document.pieces,
      ...document.shots,
      ...document.shots.flatMap((s) => s.layers),
    ].map((x) => x.id);
    if (new Set(ids).size !== ids.length) complain('two things have the same id');
  });

export type Document = z.infer<typeof documentSchema>;
export type Picture = z.infer<typeof pictureSchema>;
export type Piece = z.infer<typeof pieceSchema>;

/** What every new piece begins with beside its recipe. */
export const untouched = { cutout: null, care: noCare, marks: [], touches: [] };
export type Shot = z.infer<typeof shotSchema>;
export type Layer = z.infer<typeof layerSchema>;
export type LayerSource = z.infer<typeof sourceSchema>;
export type Framing = z.infer<typeof framingSchema>;

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
    shots: [
      {
        id: shotId,
        name: 'Shot 1',
        length: Math.max(1, Math.round(seconds * frame.rate)),
        camera: { depth: 3, first: { x: 0, y: 0, size: 1 }, last: { x: 0, y: 0, size: 1 }, easing: 'ease-in-out' },
        layers: [],
      },
    ],
  };
}

/** The files a document needs to be shown: originals, working pictures, cutouts and backgrounds. */
export function filesOf(document: Document): string[] {
  const files = new Set<string>();
  for (const picture of document.pictures) {
    files.add(picture.original);
    files.add(picture.file);
    if (picture.background) filesOfPlate(picture.background).forEach((file) => files.add(file));
  }
  for (const piece of document.pieces) {
    if (piece.cutout) files.add(piece.cutout.file);
    filesOfRecipe(piece.recipe).forEach((file) => files.add(file));
  }
  return [...files];
}
