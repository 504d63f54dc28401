import { z } from 'zod';
import { fileHash, id, name } from './schema-parts.ts';

/** A sound under the shots. Times are seconds, so that another frame rate leaves it where it is. */
export const soundSchema = z.object({
  id,
  name,
  file: fileHash,
  /** How long the whole file is. */
  seconds: z.number().positive().max(36_000),
  /** When it begins to be heard, in the time of all shots one after the other. */
  at: z.number().min(-36_000).max(36_000),
  /** Where in the file that is, and how much of it is heard. */
  from: z.number().min(0).max(36_000),
  length: z.number().positive().max(36_000),
  /** How loud: 1 as it is. */
  level: z.number().min(0).max(4),
  fadeIn: z.number().min(0).max(600),
  fadeOut: z.number().min(0).max(600),
  muted: z.boolean().default(false),
});
export type Sound = z.infer<typeof soundSchema>;
