import { z } from 'zod';

/* Small schemas the document is made of. */

export const id = z.string().regex(/^[a-z0-9-]{1,40}$/);
export const fileHash = z.string().regex(/^[0-9a-f]{64}$/);
/** Of names, in UTF-16 code units. */
export const longestName = 200;
export const name = z.string().trim().min(1).max(longestName);
export const size = z.number().int().min(1);
export const seed = z.number().int().min(0).max(1e9);

export const rectSchema = z.object({
  x: z.number(),
  y: z.number(),
  width: z.number().positive(),
  height: z.number().positive(),
});

export const pointSchema = z.tuple([z.number(), z.number()]);

export const strokeSchema = z.object({
  radius: z.number().positive().max(2000),
  points: z.array(pointSchema).min(1).max(20_000),
});

/** Red, green, blue 0..255 and alpha 0..1. */
export const colourSchema = z.tuple([z.number(), z.number(), z.number(), z.number()]);

/** A line of one colour around something. */
export const strokeOfLine = z.object({ width: z.number().min(0.1).max(500), colour: colourSchema });

/**
 * The schema of one of many kinds, told apart by a field. There are dozens of kinds with settings each, of which a document has
 * a few: their schemas are made when the first is read, so that nobody waits for them before.
 */
export const oneOfKinds = <Stored>(field: string, kinds: () => readonly z.ZodObject[]): z.ZodType<Stored> =>
  z.lazy(() =>
    z.discriminatedUnion(field, kinds() as [z.ZodObject, ...z.ZodObject[]]),
  ) as z.ZodType as z.ZodType<Stored>;
