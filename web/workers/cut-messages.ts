import { z } from 'zod';
import { documentSchema } from '../../core/document/document.ts';
import { alphaMarkSchema, careSchema, cutRecipeSchema } from '../../core/document/recipe.ts';
import { madeStepSchema } from './plate-messages.ts';

const place = z.tuple([z.number(), z.number()]);
const rect = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });

/** What the cut worker is asked. Requests are numbered; answers carry the number. */
export const cutRequestSchema = z.discriminatedUnion('kind', [
  /** A stored picture, or one frame of a stored clip. */
  z.object({
    kind: z.literal('open'),
    request: z.number(),
    file: z.string(),
    frame: z.object({ file: z.string(), index: z.number() }).nullable(),
  }),
  /** The ground of a clip without what moves before it: the median of its frames, or `only` one of them. */
  z.object({
    kind: z.literal('ground'),
    request: z.number(),
    file: z.string(),
    frames: z.number(),
    only: z.number().nullable(),
  }),
  z.object({
    kind: z.literal('solve'),
    request: z.number(),
    recipe: cutRecipeSchema,
    care: careSchema,
    marks: z.array(alphaMarkSchema),
    /** The step whose facts are wanted; the last one where it is not among them. */
    open: z.string().nullable(),
  }),
  /** The way along edges between two places. */
  z.object({
    kind: z.literal('wire'),
    request: z.number(),
    from: place,
    to: place,
    strength: z.number().min(0).max(1),
  }),
  /** The thin line past some places. @see thinLine */
  z.object({
    kind: z.literal('line'),
    request: z.number(),
    way: z.array(place).min(2),
    widest: z.number().positive(),
  }),
  /** Cuts a piece and makes the plate behind it, with all steps that follow; `alone` without any of that. */
  z.object({
    kind: z.literal('lift'),
    request: z.number(),
    document: documentSchema,
    piece: z.string(),
    alone: z.boolean(),
  }),
  /** Looks the piece that is shown through for holes, specks, leftovers and fringes. */
  z.object({ kind: z.literal('check'), request: z.number() }),
  z.object({ kind: z.literal('cancel'), request: z.number() }),
  /** Nobody looks for now: what is shown is kept, if it is not yet, and nothing is done beforehand. */
  z.object({ kind: z.literal('rest') }),
  /** Nobody will look at this again soon: what is shown is kept, if it is not yet, and all that is open is let go. */
  z.object({ kind: z.literal('forget') }),
  /** Nothing more will be asked: what is shown is kept first, if it is not yet, and the worker then ends. */
  z.object({ kind: z.literal('leave') }),
]);
export type CutRequest = z.infer<typeof cutRequestSchema>;
/** What is answered; the rest only tells the worker how to go on. */
export type CutOrder = Exclude<CutRequest, { kind: 'cancel' | 'rest' | 'forget' | 'leave' }>;

const bitmap = z.instanceof(ImageBitmap);

export const cutAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('opened'), request: z.number(), picture: bitmap }),
  z.object({ kind: z.literal('ground'), request: z.number(), ground: z.instanceof(Blob) }),
  z.object({ kind: z.literal('progress'), request: z.number(), doing: z.string(), share: z.number() }),
  /** A part of the piece's alpha, and once known of its cleaned colours, to be put at (x, y). */
  z.object({
    kind: z.literal('part'),
    request: z.number(),
    stage: z.enum(['mask', 'alpha']),
    x: z.number(),
    y: z.number(),
    alpha: bitmap,
    cutout: bitmap.nullable(),
    milliseconds: z.number(),
  }),
  z.object({
    kind: z.literal('solved'),
    request: z.number(),
    bounds: rect.nullable(),
    share: z.number(),
    /** For keys: how the picture's pixels lie in what the key looks at. */
    histogram: z.object({ most: z.number(), shares: z.array(z.number()) }).nullable(),
    /** The screen's colour as it was sampled or found. */
    screen: z.tuple([z.number(), z.number(), z.number()]).nullable(),
  }),
  z.object({
    kind: z.literal('lifted'),
    request: z.number(),
    /** The piece first, then the shadows lifted with it. */
    pieces: z.array(
      z.object({
        piece: z.string(),
        cutout: z.instanceof(Blob),
        bounds: rect,
        /** Share of a shadow under which nothing of the ground could be seen. */
        lost: z.number(),
      }),
    ),
    steps: z.array(madeStepSchema),
  }),
  z.object({
    kind: z.literal('checked'),
    request: z.number(),
    findings: z.array(
      z.object({
        kind: z.enum(['hole', 'speck', 'frame', 'fringe']),
        bounds: rect,
        size: z.number(),
        marks: z.array(alphaMarkSchema),
      }),
    ),
  }),
  z.object({ kind: z.literal('wire'), request: z.number(), way: z.array(place) }),
  z.object({
    kind: z.literal('line'),
    request: z.number(),
    line: z.object({ points: z.array(place), radii: z.array(z.number()) }).nullable(),
  }),
  z.object({ kind: z.literal('cancelled'), request: z.number() }),
  z.object({
    kind: z.literal('failed'),
    request: z.number(),
    message: z.string(),
    /** Whether the piece leaves too little of its picture to rebuild what is behind it. */
    nothingBehind: z.boolean(),
  }),
]);
export type CutAnswer = z.infer<typeof cutAnswerSchema>;
