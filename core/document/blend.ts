import { z } from 'zod';

/** The blend modes of W3C Compositing and Blending, and its additive operator. */
export const blendModes = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
  'plus-lighter',
] as const;
export const blendSchema = z.enum(blendModes);
export type BlendMode = z.infer<typeof blendSchema>;
