import { z } from 'zod';
import { documentSchema } from '../../core/document/document.ts';
import { rectSchema, strokeSchema } from '../../core/document/schema-parts.ts';
import { pieceTouchSchema, type PlateOrder } from '../../core/document/plate.ts';

const bitmap = z.instanceof(ImageBitmap);
const blob = z.instanceof(Blob);
/** Orders are written by this application's own code from a checked document; the worker only has to know the kind. */
const order = z.custom<PlateOrder>((value) => typeof value === 'object' && value !== null && 'kind' in value);

const about = { request: z.number(), document: documentSchema, picture: z.string() };

/** What a plate worker is asked. */
export const plateRequestSchema = z.discriminatedUnion('kind', [
  /** Makes one step on the plate after `index` steps; with `whole` false only the part that it changes is given back. */
  z.object({ kind: z.literal('make'), ...about, order, index: z.number(), whole: z.boolean() }),
  /** Makes the steps from `from` on again, for what changed in them or before them. */
  z.object({ kind: z.literal('again'), ...about, from: z.number() }),
  /** Looks for the shadow of a lifted piece. */
  z.object({ kind: z.literal('shadow'), ...about, piece: z.string() }),
  /** The things a lifted piece consists of. */
  z.object({ kind: z.literal('split'), ...about, piece: z.string() }),
  /** One mark of a retouching brush on a lifted piece. */
  z.object({ kind: z.literal('touch'), ...about, piece: z.string(), touch: pieceTouchSchema }),
  /** Turns the working picture and continues its corners. */
  z.object({ kind: z.literal('level'), ...about, degrees: z.number() }),
  z.object({ kind: z.literal('cancel'), request: z.number() }),
]);
export type PlateRequest = z.infer<typeof plateRequestSchema>;

const part = z.object({ pixels: blob, bounds: rectSchema });
export const madeStepSchema = z.object({
  plate: blob.nullable(),
  bounds: rectSchema,
  take: part.nullable(),
  share: z.number().nullable(),
});
export type MadeStepFile = z.infer<typeof madeStepSchema>;

export const plateAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), request: z.number(), doing: z.string(), share: z.number() }),
  /** The whole plate as it stands, coarse first. */
  z.object({ kind: z.literal('preview'), request: z.number(), picture: bitmap }),
  z.object({ kind: z.literal('made'), request: z.number(), steps: z.array(madeStepSchema) }),
  z.object({ kind: z.literal('shadow'), request: z.number(), region: z.array(strokeSchema).nullable() }),
  z.object({
    kind: z.literal('split'),
    request: z.number(),
    parts: z.array(z.object({ cutout: blob, alpha: blob, bounds: rectSchema })),
  }),
  z.object({ kind: z.literal('picture'), request: z.number(), picture: blob, width: z.number(), height: z.number() }),
  z.object({ kind: z.literal('cancelled'), request: z.number() }),
  z.object({ kind: z.literal('failed'), request: z.number(), message: z.string() }),
]);
export type PlateAnswer = z.infer<typeof plateAnswerSchema>;
