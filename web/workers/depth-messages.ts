import { z } from 'zod';
import { reliefSchema } from '../../core/document/layer.ts';

const strokes = reliefSchema.shape.strokes;

export const depthRequestSchema = z.discriminatedUnion('kind', [
  /** Spreads strokes over a picture. */
  z.object({ kind: z.literal('draw'), file: z.string(), strokes }),
  /** Guesses it from the picture alone. */
  z.object({ kind: z.literal('guess'), file: z.string() }),
  /** Takes in a map from elsewhere. */
  z.object({ kind: z.literal('read'), bytes: z.instanceof(ArrayBuffer) }),
  z.object({
    kind: z.literal('slice'),
    file: z.string(),
    map: z.string(),
    count: z.number().int().min(2).max(8),
    /** Whether what a gentle move does not uncover may be continued coarsely. */
    quick: z.boolean(),
  }),
  /** Rebuilds what comes to light behind the steps of a map. */
  z.object({ kind: z.literal('behind'), file: z.string(), map: z.string() }),
]);
export type DepthRequest = z.infer<typeof depthRequestSchema>;

const blob = z.instanceof(Blob);
export const depthAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), doing: z.string(), share: z.number() }),
  z.object({
    kind: z.literal('map'),
    map: blob,
    width: z.number(),
    height: z.number(),
    /** Where the ground ends, as a share of the height; of guesses only. */
    horizon: z.number().nullable(),
  }),
  z.object({
    kind: z.literal('sliced'),
    slices: z.array(z.object({ picture: blob, alpha: blob, closeness: z.number() })),
    background: blob,
    closeness: z.number(),
    width: z.number(),
    height: z.number(),
  }),
  /** Null where nothing stands before anything. */
  z.object({ kind: z.literal('behind'), behind: z.object({ picture: blob, depth: blob }).nullable() }),
  /** `nothingBehind`: what is to be taken off leaves nothing to continue from. */
  z.object({ kind: z.literal('failed'), message: z.string(), nothingBehind: z.boolean() }),
]);
export type DepthAnswer = z.infer<typeof depthAnswerSchema>;
