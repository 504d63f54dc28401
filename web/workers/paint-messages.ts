import { z } from 'zod';
import { documentNewsSchema } from './followed-document.ts';

export const paintRequestSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('canvas'), canvas: z.instanceof(OffscreenCanvas) }),
  /** Its room was left: it waits for another canvas, and lets go of what takes room. */
  z.object({ kind: z.literal('rest') }),
  z.object({ kind: z.literal('document'), news: documentNewsSchema, shot: z.string() }),
  z.object({
    kind: z.literal('paint'),
    request: z.number(),
    frame: z.number(),
    /** Size of the surface in device pixels, and where the frame lies on it. */
    width: z.number(),
    height: z.number(),
    scale: z.number(),
    x: z.number(),
    y: z.number(),
    /** As it looks at rest, without the camera. */
    atRest: z.boolean(),
    /** While it plays, what was painted is kept and the picture may be coarser. */
    playing: z.boolean(),
    light: z.boolean(),
    onion: z.array(z.string()),
    /** Frames of all shots that are played as a clip, through which the frame counts; null to count in the shot. */
    loop: z.object({ first: z.number(), end: z.number() }).nullable(),
  }),
]);
export type PaintRequest = z.infer<typeof paintRequestSchema>;

export const paintAnswerSchema = z.object({
  kind: z.literal('painted'),
  request: z.number(),
  frame: z.number(),
  milliseconds: z.number(),
  /** Share of the surface's own resolution it was painted at. */
  quality: z.number(),
  problem: z.string().nullable(),
});
export type PaintAnswer = z.infer<typeof paintAnswerSchema>;
