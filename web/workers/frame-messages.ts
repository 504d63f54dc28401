import { z } from 'zod';
import { exportOrderSchema, type ExportOrder } from './export-messages.ts';

/** What the frames of an export are painted from. */
export const framesOrderSchema = exportOrderSchema
  .omit({ kind: true, sound: true, limit: true })
  /** The frame of the result that counts as the first here: an estimate paints stretches of it. */
  .extend({ begins: z.number().int().min(0) });
export type FramesOrder = z.infer<typeof framesOrderSchema>;

/** What painting needs of an export's order; its sound, above all, need not go along. */
export const framesOrderOf = (
  { document, first, end, format, width, height, rate, only, clear }: ExportOrder,
  begins: number,
): FramesOrder => ({ document, first, end, format, width, height, rate, only, clear, begins });

const frameKindSchema = z.enum(['pixels', 'png']);
export type FrameKind = z.infer<typeof frameKindSchema>;

export const frameRequestSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('begin'), order: framesOrderSchema }),
  z.object({ kind: z.literal('frame'), index: z.number().int().min(0), as: frameKindSchema }),
]);
export type FrameRequest = z.infer<typeof frameRequestSchema>;

/** Frames are answered in the order they were asked for. */
export const frameAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('frame'), data: z.instanceof(Uint8ClampedArray<ArrayBuffer>) }),
  z.object({ kind: z.literal('failed'), message: z.string() }),
]);
export type FrameAnswer = z.infer<typeof frameAnswerSchema>;
