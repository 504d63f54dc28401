import { z } from 'zod';
import { documentNewsSchema } from './followed-document.ts';

/**
 * One frame of a shot, painted small; `x` and `y` say where the frame lies on the picture. Of its document is told what is
 * different from the one of the order before: most are the same one at another frame, or with another thing in it.
 */
export const stillOrderSchema = z.object({
  kind: z.literal('paint'),
  request: z.number(),
  news: documentNewsSchema,
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
