import { z } from 'zod';
import { recipeSchema } from '../../core/scene/document.ts';

const rect = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });

/** What the cut worker is asked. Requests are numbered; answers carry the number. */
export const cutRequestSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('open'), request: z.number(), url: z.string() }),
  z.object({ kind: z.literal('solve'), request: z.number(), recipe: recipeSchema }),
  z.object({
    kind: z.literal('lift'),
    request: z.number(),
    recipe: recipeSchema,
    others: z.array(z.object({ url: z.string(), x: z.number(), y: z.number() })),
    seed: z.number(),
  }),
  z.object({ kind: z.literal('cancel'), request: z.number() }),
]);
export type CutRequest = z.infer<typeof cutRequestSchema>;

const bitmap = z.instanceof(ImageBitmap);

export const cutAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('opened'), request: z.number(), width: z.number(), height: z.number() }),
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
  z.object({ kind: z.literal('solved'), request: z.number(), bounds: rect.nullable(), share: z.number() }),
  z.object({ kind: z.literal('preview'), request: z.number(), picture: bitmap }),
  z.object({
    kind: z.literal('lifted'),
    request: z.number(),
    cutout: z.instanceof(Blob),
    bounds: rect,
    background: z.instanceof(Blob),
  }),
  z.object({ kind: z.literal('cancelled'), request: z.number() }),
  z.object({ kind: z.literal('failed'), request: z.number(), message: z.string() }),
]);
export type CutAnswer = z.infer<typeof cutAnswerSchema>;
