import { z } from 'zod';

const samples = z.instanceof(Float32Array);
const times = z.array(z.number());

export const soundRequestSchema = z.object({ mono: samples, rate: z.number().positive() });
export type SoundRequest = z.infer<typeof soundRequestSchema>;

export const soundAnswerSchema = z.object({
  /** The loudest of each stretch, `peakRate` a second. */
  peaks: samples,
  /** When loud things start, and when beats fall, in seconds of the file. */
  starts: times,
  beats: times,
  /** Beats a minute; null where there are none. */
  tempo: z.number().nullable(),
});
export type SoundFacts = z.infer<typeof soundAnswerSchema>;

/** Stretches a second that are told the loudness of. */
export const peakRate = 200;
