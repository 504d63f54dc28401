import { z } from 'zod';
import { documentSchema } from '../../core/document/document.ts';

/** One frame of a shot, painted small; `x` and `y` say where the frame lies on the picture. */
export const stillOrderSchema = z.object({
  kind: z.literal('paint'),
  request: z.number(),
  document: documentSchema,
  shot: z.string(),
  frame: z.number(),
  width: z.number().int(),
  height: z.number().int(),
  scale: z.number(),
  x: z.number(),
  y: z.number(),
});
export type StillOrder = z.infer<typeof stillOrderSchema>;

export const stillRequestSchema = z.discriminatedUnion('kind', [
  stillOrderSchema,
  // Orders that nobody waits for any more.
  z.object({ kind: z.literal('forget'), requests: z.array(z.number()) }),
]);
export type StillRequest = z.infer<typeof stillRequestSchema>;

export const stillAnswerSchema = z.object({
  request: z.number(),
  /** Null when it could not be painted. */
  picture: z.instanceof(ImageBitmap).nullable(),
});
export type StillAnswer = z.infer<typeof stillAnswerSchema>;
