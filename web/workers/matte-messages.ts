import { z } from 'zod';

const numbers = z.instanceof(Float32Array);

/** A frame's alpha to be made of its picture and its soft mask, and stored as a file. */
export const matteRequestSchema = z.object({
  request: z.number(),
  width: z.number(),
  height: z.number(),
  picture: z.instanceof(Uint8ClampedArray),
  soft: z.object({ width: z.number(), height: z.number(), data: numbers }),
});
export type MatteRequest = z.infer<typeof matteRequestSchema>;

export const matteAnswerSchema = z.object({ request: z.number(), matte: z.instanceof(Blob) });
export type MatteAnswer = z.infer<typeof matteAnswerSchema>;
