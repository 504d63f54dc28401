import { z } from 'zod';
import type { Change } from './difference.ts';

const step = z.union([z.string(), z.number(), z.object({ id: z.string() })]);
const path = z.array(step);

/** A change as it is stored and sent; what its values are is known once it was laid onto a document. */
export const changeSchema: z.ZodType<Change> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('set'), path, value: z.unknown() }),
  z.object({ kind: z.literal('unset'), path }),
  z.object({
    kind: z.literal('insert'),
    path,
    value: z.looseObject({ id: z.string() }),
    after: z.string().nullable(),
  }),
  z.object({ kind: z.literal('take'), path, id: z.string() }),
  z.object({ kind: z.literal('order'), path, ids: z.array(z.string()) }),
  z.object({
    kind: z.literal('splice'),
    path,
    at: z.number(),
    removed: z.array(z.unknown()),
    values: z.array(z.unknown()),
  }),
]);

/** How a change came about: what steps of undo are made of when a project is opened. */
export const originSchema = z.object({
  /** Changes of one gesture that follow each other are one step. */
  gesture: z.string().max(200).nullable(),
  /** Whether it undid the step before, or did the one after it again. */
  travel: z.enum(['undo', 'redo']).nullable(),
});
export type Origin = z.infer<typeof originSchema>;

/** A change that was stored, with the changes that lead back from it. */
export const storedStepSchema = originSchema.extend({
  revision: z.number(),
  name: z.string(),
  back: z.array(changeSchema),
});
export type StoredStep = z.infer<typeof storedStepSchema>;

/** The longest list of steps that is asked for at once. */
export const mostStoredSteps = 300;
