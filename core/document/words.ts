import { z } from 'zod';
import { easingSchema } from '../motion/easing.ts';
import { bubbleForms } from '../path/bubble.ts';
import { faces } from '../text/faces.ts';
import { colourSchema, fileHash, id, pointSchema, strokeOfLine } from './schema-parts.ts';

/** A face that ships with the application, or one's own by the hash of its file. */
const faceSchema = z.union([z.enum(faces), fileHash]);

/** What is different about some letters, counted in UTF-16 code units from `from` up to, but not with, `to`. */
const spanSchema = z.object({
  from: z.number().int().min(0).max(2000),
  to: z.number().int().min(0).max(2000),
  colour: colourSchema.optional(),
  /** Factor on the size; above the baseline, and space added behind, as shares of the size. */
  size: z.number().min(0.05).max(20).optional(),
  lift: z.number().min(-5).max(5).optional(),
  spacing: z.number().min(-0.5).max(3).optional(),
});
export type Span = z.infer<typeof spanSchema>;

/** What words are set along: lengths in their own pixels, angles in degrees. */
const alongSchema = z.discriminatedUnion('form', [
  z.object({ form: z.literal('arc'), bend: z.number().min(-720).max(720) }),
  z.object({
    form: z.literal('circle'),
    radius: z.number().min(4).max(20_000),
    start: z.number(),
    inside: z.boolean(),
  }),
  z.object({
    form: z.literal('wave'),
    height: z.number().min(-5000).max(5000),
    length: z.number().min(10).max(20_000),
    shift: z.number(),
  }),
  /** The outline of a shape layer, from a share of its length. */
  z.object({ form: z.literal('layer'), layer: id, start: z.number(), inside: z.boolean() }),
]);
export type TextAlong = z.infer<typeof alongSchema>;

/** Words that change by themselves: a number that counts, or a list of words, each as long as said. */
const changesSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('number'),
    from: z.number().min(-1e12).max(1e12),
    to: z.number().min(-1e12).max(1e12),
    decimals: z.number().int().min(0).max(6),
    /** Whether thousands are set apart. */
    grouped: z.boolean(),
    /** Frames after the layer's bar begins, and frames it takes. */
    begin: z.number().int().min(0).max(100_000),
    length: z.number().int().min(1).max(100_000),
    easing: easingSchema,
  }),
  z.object({
    kind: z.literal('words'),
    list: z
      .array(z.object({ text: z.string().max(400), frames: z.number().int().min(1).max(100_000) }))
      .min(1)
      .max(200),
    /** Whether the list begins again when it is over; else its last word stays. */
    repeats: z.boolean(),
  }),
]);
export type TextChanges = z.infer<typeof changesSchema>;

/** A bubble around words, as large as they ask for; lengths are pixels of the words. */
const bubbleSchema = z.object({
  form: z.enum(bubbleForms),
  padding: z.number().min(0).max(2000),
  colour: colourSchema,
  stroke: strokeOfLine.nullable(),
  /** Ends at a point: of another layer's source, which it follows, or of the words' own pixels. */
  tail: z.object({ to: id.nullable(), at: pointSchema, width: z.number().min(1).max(2000) }).nullable(),
});
export type Bubble = z.infer<typeof bubbleSchema>;

/** Lines of text in the layer's colour; `box` is the room they take in their own pixels. */
export const textSourceSchema = z.object({
  kind: z.literal('text'),
  text: z.string().max(2000),
  face: faceSchema,
  size: z.number().min(4).max(2000),
  align: z.enum(['left', 'centre', 'right', 'justified']),
  /** Between lines, as a factor of the size; between letters, as a share of it. */
  leading: z.number().min(0.5).max(4),
  tracking: z.number().min(-0.5).max(3),
  stroke: strokeOfLine.nullable(),
  box: z.object({ width: z.number().positive(), height: z.number().positive() }),
  /** The width at which lines are broken; null for as wide as they are. */
  wrap: z.number().min(1).max(20_000).nullable().default(null),
  spans: z.array(spanSchema).max(500).default([]),
  along: alongSchema.nullable().default(null),
  changes: changesSchema.nullable().default(null),
  bubble: bubbleSchema.nullable().default(null),
});

/** What new words begin with beside themselves and their face. */
export const plainWords = {
  kind: 'text',
  align: 'centre',
  leading: 1.15,
  tracking: 0,
  stroke: null,
  wrap: null,
  spans: [],
  along: null,
  changes: null,
  bubble: null,
} satisfies Partial<z.infer<typeof textSourceSchema>>;
