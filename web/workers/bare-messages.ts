import { z } from 'zod';
import { documentSchema } from '../../core/document/document.ts';

/** The frames of a shot to be looked at for bare places. */
export const bareRequestSchema = z.object({ document: documentSchema, shot: z.string() });
export type BareRequest = z.infer<typeof bareRequestSchema>;

export const bareAnswerSchema = z.object({
  shot: z.string(),
  /** Bare share of every frame. */
  bare: z.array(z.number()),
});
export type BareAnswer = z.infer<typeof bareAnswerSchema>;
