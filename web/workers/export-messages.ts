import { z } from 'zod';
import { documentSchema } from '../../core/document/document.ts';
import { exportFormatIds } from '../../core/formats/exports.ts';

export const exportOrderSchema = z.object({
  /** Whether the file is made, or only told how large it will be. */
  kind: z.enum(['export', 'estimate']),
  document: documentSchema,
  /** Frames of the whole project, all its shots one after the other, from `first` up to, but not with, `end`. */
  first: z.number().int().min(0),
  end: z.number().int().min(1),
  format: z.enum(exportFormatIds),
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  /** Frames a second of the result; GIFs are made slower than the shot. */
  rate: z.number().positive(),
  /** Only this frame of the clip, for a poster. */
  only: z.number().nullable(),
  /** Whether a format keeps what is transparent that does not by itself. */
  clear: z.boolean(),
  /** Bytes the file may have at most, for formats that can be made to fit. */
  limit: z.number().positive().nullable(),
  /** What is heard in these frames; null for nothing, and for formats without sound. */
  sound: z
    .object({
      rate: z.number().positive(),
      channels: z.array(z.custom<Float32Array>((value) => value instanceof Float32Array)).min(1),
    })
    .nullable(),
});

export const exportRequestSchema = z.discriminatedUnion('kind', [
  exportOrderSchema,
  z.object({ kind: z.literal('cancel') }),
  /** What was read for the order before is let go. */
  z.object({ kind: z.literal('forget') }),
]);
export type ExportRequest = z.infer<typeof exportRequestSchema>;
export type ExportOrder = z.infer<typeof exportOrderSchema>;

export const exportAnswerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), pass: z.number(), done: z.number(), total: z.number() }),
  z.object({
    kind: z.literal('finished'),
    data: z.instanceof(Blob),
    frames: z.number(),
    width: z.number(),
    height: z.number(),
    rate: z.number(),
  }),
  /** Bytes a file would have about. */
  z.object({ kind: z.literal('estimated'), bytes: z.number() }),
  z.object({ kind: z.literal('cancelled') }),
  z.object({ kind: z.literal('failed'), message: z.string() }),
]);
export type ExportAnswer = z.infer<typeof exportAnswerSchema>;
