import { z } from 'zod';
import type { Document } from '../../core/document/document.ts';
import { documentNewsSchema } from './followed-document.ts';

/** The frames of a shot to be looked at for bare places. */
export interface BareRequest {
  document: Document;
  shot: string;
}

export const bareMessageSchema = z.object({ news: documentNewsSchema, shot: z.string() });
export type BareMessage = z.infer<typeof bareMessageSchema>;

export const bareAnswerSchema = z.object({
  shot: z.string(),
  /** Bare share of every frame. */
  bare: z.array(z.number()),
});
export type BareAnswer = z.infer<typeof bareAnswerSchema>;
