import { z } from 'zod';

const place = z.tuple([z.number(), z.number()]);

/** A point of a clip to be followed from frame `from` up to, but not with, `to`. */
export const followRequestSchema = z.object({
  file: z.string(),
  marks: z.array(z.object({ frame: z.number().int(), at: place })).min(1),
  radius: z.number(),
  from: z.number().int(),
  to: z.number().int(),
});
export type FollowRequest = z.infer<typeof followRequestSchema>;

export const followAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), share: z.number() }),
  /** x, y and doubt for each frame. */
  z.object({ kind: z.literal('followed'), points: z.array(z.number()) }),
  z.object({ kind: z.literal('failed'), message: z.string() }),
]);
export type FollowAnswer = z.infer<typeof followAnswerSchema>;
