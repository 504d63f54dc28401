import { z } from 'zod';
import { howSchema, shapeSchema } from '../path/shapes.ts';
import { fileHash, id, rectSchema, strokeSchema } from './schema-parts.ts';

/* How pieces are found. A recipe holds everything needed to find the same piece again. */

/**
 * A Keep or Drop stroke. Where it stays within edges, a broad brush marks no more than what its middle runs along; of a thin line
 * that was followed it has the line's own radius at every point. `turn` says in which order strokes were drawn, over both kinds.
 */
const teachingStroke = strokeSchema
  .extend({
    withinEdges: z.boolean().optional(),
    radii: z.array(z.number().positive().max(2000)).optional(),
    turn: z.number().int().nonnegative().optional(),
  })
  .refine(({ points, radii }) => !radii || radii.length === points.length, {
    message: 'A line needs a radius at every point.',
  });

/** By what stands out. */
export const subjectRecipeSchema = z.object({
  kind: z.literal('subject'),
  answer: z.enum(['foreground', 'subject']),
  keep: z.array(teachingStroke),
  drop: z.array(teachingStroke),
  box: rectSchema.nullable(),
  /** Where it was pressed on, in pixels of the picture: the thing there and no other. Absent: what stands out. */
  at: z.tuple([z.number(), z.number()]).optional(),
});

/** By outlines: any number of paths, each added, taken away or kept within. */
const shapeRecipeSchema = z.object({ kind: z.literal('shape'), shapes: z.array(shapeSchema).max(200) });

/** A soft shadow, lifted off the ground inside a generously painted region. */
const shadowRecipeSchema = z.object({
  kind: z.literal('shadow'),
  /** The piece that throws it. */
  of: id,
  region: z.array(strokeSchema).min(1),
});

const byte = z.number().min(0).max(255);

/** By colour: what differs from a screen. */
const chromaRecipeSchema = z.object({
  kind: z.literal('chroma'),
  /** Samples of the screen; found by itself when empty. */
  colours: z.array(z.tuple([byte, byte, byte])).max(12),
  core: z.number().min(0).max(200),
  edge: z.number().min(1).max(220),
  spill: z.number().min(0).max(1),
});

/** By brightness: the dark or the light side is taken away. */
const lumaRecipeSchema = z.object({
  kind: z.literal('luma'),
  drop: z.enum(['dark', 'light']),
  low: byte,
  high: byte,
});

/** Light on black as colour and alpha. */
const unveilRecipeSchema = z.object({ kind: z.literal('unveil'), black: z.number().min(0).max(128) });

/** All of the picture as it is; its layer is blended so that black goes. */
const wholeRecipeSchema = z.object({ kind: z.literal('whole'), blend: z.enum(['screen', 'lighten']) });

/** What differs from a still ground, kept as a picture: for clips without a screen. */
const differenceRecipeSchema = z.object({
  kind: z.literal('difference'),
  ground: fileHash,
  low: z.number().min(0).max(200),
  high: z.number().min(1).max(220),
});

/** A stored alpha, lying at (x, y) of the picture: one of several things split apart, a mask brought in, or another piece. */
const maskRecipeSchema = z.object({
  kind: z.literal('mask'),
  file: fileHash,
  x: z.number().int(),
  y: z.number().int(),
  /** The piece it was taken from, as that was lifted then. */
  of: id.optional(),
});

/** A frame in which a figure was found, or put right by strokes. */
const figureKeySchema = subjectRecipeSchema.omit({ kind: true }).extend({
  frame: z.number().int().min(0),
  /** The alpha that had been carried to this frame, which its strokes correct; null where the figure was found in it. */
  base: fileHash.nullable(),
});

/** A figure of a clip: found in some frames, and carried to all others. */
export const figureRecipeSchema = z.object({
  kind: z.literal('figure'),
  keys: z.array(figureKeySchema).min(1).max(500),
  /** The alpha of each frame, a grey PNG; null while it was not cut. */
  mattes: z.array(fileHash.nullable()).max(20_000),
  /** By which share of its area each frame left what was carried to it; null while it was not cut. */
  changed: z.array(z.number().min(0).nullable()).max(20_000),
  /** Frames to be cut: from the first up to, but not with, the second; null while all of them are as the keys have it. */
  due: z.tuple([z.number().int().min(0), z.number().int().min(0)]).nullable(),
});

const singleRecipes = [
  subjectRecipeSchema,
  shapeRecipeSchema,
  chromaRecipeSchema,
  lumaRecipeSchema,
  unveilRecipeSchema,
  wholeRecipeSchema,
  differenceRecipeSchema,
  maskRecipeSchema,
  figureRecipeSchema,
] as const;

/** One way of finding a piece. */
export const singleRecipeSchema = z.discriminatedUnion('kind', singleRecipes);

/** One of several ways that make a piece together. */
export const recipeStepSchema = z.object({ id, how: howSchema, muted: z.boolean(), recipe: singleRecipeSchema });

/** Several ways in order, each adding, taking away, or keeping within; in the end perhaps the other way round. */
const combinedRecipeSchema = z.object({
  kind: z.literal('combined'),
  steps: z.array(recipeStepSchema).min(1).max(24),
  inverted: z.boolean(),
});

/** What a piece is found by in the Cut room. */
export const cutRecipeSchema = z.discriminatedUnion('kind', [...singleRecipes, combinedRecipeSchema]);

export const recipeSchema = z.discriminatedUnion('kind', [...singleRecipes, combinedRecipeSchema, shadowRecipeSchema]);

export type Recipe = z.infer<typeof recipeSchema>;
export type CutRecipe = z.infer<typeof cutRecipeSchema>;
export type SingleRecipe = z.infer<typeof singleRecipeSchema>;
export type RecipeStep = z.infer<typeof recipeStepSchema>;
export type SubjectRecipe = z.infer<typeof subjectRecipeSchema>;
export type FigureRecipe = z.infer<typeof figureRecipeSchema>;
export type FigureKey = FigureRecipe['keys'][number];
export type ShadowRecipe = z.infer<typeof shadowRecipeSchema>;

/** How a piece's edge is treated after it was found; see core/cut/edge-care. */
export const careSchema = z.object({
  grow: z.number().min(-60).max(60),
  soften: z.number().min(0).max(200),
  smooth: z.number().min(0).max(40),
  clean: z.number().min(0).max(1),
});

/** A stroke of a brush on the piece's edge. */
export const alphaMarkSchema = z.object({
  kind: z.enum(['restore', 'wipe', 'soften', 'refine']),
  stroke: strokeSchema,
  soft: z.number().min(0).max(1),
});
export type AlphaMark = z.infer<typeof alphaMarkSchema>;
