import { z } from 'zod';
import { figureRecipeSchema } from '../../core/document/recipe.ts';

/** A figure to be carried through its clip, from frame `from` up to, but not with, `to`. */
export const figureRequestSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('carry'),
    file: z.string(),
    recipe: figureRecipeSchema,
    from: z.number().int(),
    to: z.number().int(),
  }),
  /** The ground without the figure, from the frames in which it was seen; one alpha for each frame. */
  z.object({ kind: z.literal('ground'), file: z.string(), mattes: z.array(z.string().nullable()) }),
  z.object({ kind: z.literal('cancel') }),
]);
export type FigureRequest = z.infer<typeof figureRequestSchema>;

export const figureAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), share: z.number(), doing: z.string() }),
  /** One frame's alpha, and by which share of its area it left what was carried to it. */
  z.object({ kind: z.literal('cut'), frame: z.number(), matte: z.instanceof(Blob), changed: z.number() }),
  /** The ground, its first pixel lying at (x, y) of the first frame, and the share of it that no frame showed. */
  z.object({
    kind: z.literal('ground'),
    picture: z.instanceof(Blob),
    bounds: z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() }),
    filled: z.number(),
  }),
  z.object({ kind: z.literal('finished'), cancelled: z.boolean() }),
  z.object({ kind: z.literal('failed'), message: z.string() }),
]);
export type FigureAnswer = z.infer<typeof figureAnswerSchema>;
