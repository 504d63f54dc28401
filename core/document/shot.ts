import { z } from 'zod';
import { easingSchema } from '../motion/easing.ts';
import { jitterSchema } from '../motion/wander.ts';
import { numberPropertySchema } from '../motion/property.ts';
import { plainSchemasOf } from '../settings/setting.ts';
import { framedPlane, framingSettings, lensSettings, shakeSettings } from './camera-settings.ts';
import { layerSchema } from './layer.ts';
import { id, name, pointSchema } from './schema-parts.ts';

export const limits = { edge: 8192, frames: 3600, rate: 120 } as const;

/** Focal length at rest: what a Framing without zoom has, in millimetres on a frame 36 mm wide. */
export const restFocal = framingSettings.focal.start;

const framingSchema = z.object(plainSchemasOf(framingSettings));
export type Framing = z.infer<typeof framingSchema>;

const cameraSchema = z.object({
  ...plainSchemasOf(framedPlane),
  first: framingSchema,
  last: framingSchema,
  easing: easingSchema,
  /** Whether it is at its last Framing in the middle of the shot and goes back from there, so that a loop has no seam. */
  returns: z.boolean().default(false),
  /** How differently near and far move: 1 as their distances say, 0 alike. */
  parallax: z.number().min(-4).max(8),
  /** Share of the sideways way taken back, so that near and far go opposite ways. */
  hold: z.number().min(0).max(2),
  /** Unsteady hand, in frame pixels and degrees. */
  shake: jitterSchema.extend({ roll: plainSchemasOf(shakeSettings).roll }).nullable(),
  /** Distance that is sharp. */
  focus: numberPropertySchema,
  ...plainSchemasOf(lensSettings),
});

/** How one layer was arranged when a pose was stored. */
const arrangementSchema = z.object({
  layer: id,
  position: pointSchema,
  depth: z.number(),
  scale: z.number(),
  rotation: z.number(),
  opacity: z.number(),
  /** What else about it can have keys, by its path: blur, colour, and the settings of finishes, props and shapes. */
  look: z.record(z.string(), z.union([z.number(), z.array(z.number())])).default({}),
});
export type Arrangement = z.infer<typeof arrangementSchema>;

/** A stored arrangement. From its frame on it is held for `hold` frames, then the move to the next pose begins. */
const poseSchema = z.object({
  id,
  name,
  frame: z.number().int().min(0),
  hold: z.number().int().min(0),
  easing: easingSchema,
  layers: z.array(arrangementSchema),
  /** Corrected by hand: a layer of this pose that becomes another layer of the next one. */
  becomes: z.array(z.object({ layer: id, next: id })),
});
export type Pose = z.infer<typeof poseSchema>;

/** How a shot goes over into the next one; both are seen for `frames`. */
export const transitions = ['cut', 'crossfade', 'wipe', 'pose-match'] as const;
const transitionSchema = z.object({
  kind: z.enum(transitions),
  frames: z.number().int().min(0).max(600),
  /** Of a wipe: degrees in which it travels, 0 to the right. */
  angle: z.number(),
});
export type Transition = z.infer<typeof transitionSchema>;

export const plainTransition: Transition = { kind: 'cut', frames: 0, angle: 0 };

export const shotSchema = z.object({
  id,
  name,
  /** Number of frames. */
  length: z.number().int().min(1).max(limits.frames),
  camera: cameraSchema,
  /** Nearest first where depths are equal. */
  layers: z.array(layerSchema),
  poses: z.array(poseSchema),
  markers: z.array(z.object({ frame: z.number().int().min(0), name })),
  /** Lines that dragged layers catch, in frame pixels from its left and top. */
  guides: z.object({ x: z.array(z.number()).max(100), y: z.array(z.number()).max(100) }),
  /** Whether the shot is meant to be partly empty: then bare frame is no fault. */
  bareMeant: z.boolean().default(false),
  /** How long the shutter is open, in degrees of a frame's time, and in how many moments that is looked at; null for none. */
  motionBlur: z
    .object({ angle: z.number().min(1).max(720), samples: z.number().int().min(2).max(32) })
    .nullable()
    .default(null),
  /** Frames that are played and exported when not the whole shot is. */
  workArea: z.object({ first: z.number().int().min(0), end: z.number().int().min(1) }).nullable(),
  transition: transitionSchema,
});
export type Shot = z.infer<typeof shotSchema>;

export const restFraming: Framing = { x: 0, y: 0, size: 1, roll: 0, focal: restFocal };

/** What every new shot begins with. */
export const plainShot = {
  camera: {
    depth: 3,
    first: restFraming,
    last: restFraming,
    easing: 'ease-in-out',
    returns: false,
    parallax: 1,
    hold: 0,
    shake: null,
    focus: { value: 3 },
    aperture: 0,
  },
  layers: [],
  poses: [],
  markers: [],
  guides: { x: [], y: [] },
  motionBlur: null,
  bareMeant: false,
  workArea: null,
  transition: plainTransition,
} satisfies Partial<Shot>;
