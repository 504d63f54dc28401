import { z } from 'zod';
import { shapeSchema } from '../path/shapes.ts';
import { arrivalSchema, leaveSchema } from './arrival-setting.ts';
import { blendSchema } from './blend.ts';
import { plainSchemasOf, propertySchemasOf, type ValueOf } from '../settings/setting.ts';
import { layerSettings, ownSwaySettings, swaySettings } from './layer-settings.ts';
import { propSettingSchema } from './prop-setting.ts';
import { shapeSettingSchema } from './shape-setting.ts';
import { finishSchema, mostFinishes } from './finish-list.ts';
import { colourSchema, fileHash, id, name, pointSchema, strokeOfLine, strokeSchema } from './schema-parts.ts';
import { textSourceSchema } from './words.ts';

/** A gradient over the box of what it fills: across at `angle` degrees, or from the middle outwards. */
const gradientSchema = z.object({
  kind: z.enum(['linear', 'radial']),
  angle: z.number(),
  stops: z
    .array(z.object({ at: z.number().min(0).max(1), colour: colourSchema }))
    .min(2)
    .max(16),
});
export type Gradient = z.infer<typeof gradientSchema>;

const sourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('piece'), piece: id }),
  z.object({ kind: z.literal('background'), picture: id }),
  z.object({ kind: z.literal('picture'), picture: id }),
  /** Outlines filled with the layer's colour or a gradient: the layer's `points`, or `made` from a few numbers. */
  z.object({
    kind: z.literal('shape'),
    made: shapeSettingSchema.nullable().default(null),
    closed: z.boolean(),
    filled: z.boolean(),
    gradient: gradientSchema.nullable(),
    stroke: strokeOfLine.nullable(),
  }),
  textSourceSchema,
  /** A drawing of paths in its own pixels, or a part of one: which child of which child. */
  z.object({
    kind: z.literal('drawing'),
    file: fileHash,
    part: z.array(z.number().int().min(0).max(100_000)).max(60),
    box: z.object({ x: z.number(), y: z.number(), width: z.number().positive(), height: z.number().positive() }),
    /** Colours of the drawing that become others. */
    recolours: z.array(z.object({ from: z.tuple([z.number(), z.number(), z.number()]), to: colourSchema })).max(200),
  }),
  /**
   * Something made that no picture has, in a box of its own pixels. What lies between two distances does so from `near` to
   * `far`, as shares of the layer's own.
   */
  z.object({
    kind: z.literal('prop'),
    made: propSettingSchema,
    width: z.number().min(8).max(20_000),
    height: z.number().min(8).max(20_000),
    /** Whether it ends as it began. */
    loops: z.boolean(),
    near: z.number().min(0.05).max(1),
    far: z.number().min(1).max(50),
  }),
  /** One colour over the whole frame, whatever the distance. */
  z.object({ kind: z.literal('colour') }),
  /** Nothing to see: others are fastened to it. */
  z.object({ kind: z.literal('carrier') }),
  /** Nothing of its own: changes the look of everything behind it in its group by its finishes. */
  z.object({ kind: z.literal('grade') }),
  /** Layers with `group` set to this one; drawn together at its place in the order. */
  z.object({ kind: z.literal('group'), open: z.boolean() }),
]);
export type LayerSource = z.infer<typeof sourceSchema>;

/**
 * How a layer follows another from its place at fastening: `follow` of the other's way, sideways and up or down, `turn` of
 * its turning and `grow` of its growing, all about the other's pivot. As the other rises by the height of the frame, the
 * layer loses `fade` of its opacity and `shrink` of its size.
 */
const fastenedSchema = z.object({
  to: id,
  place: pointSchema,
  rotation: z.number(),
  scale: z.number().positive(),
  follow: pointSchema,
  turn: z.number().min(-10).max(10),
  grow: z.number().min(-10).max(10),
  fade: z.number().min(0).max(10),
  shrink: z.number().min(0).max(10),
  /** Whether it keeps touching the other in the view although it hangs at another distance. */
  touching: z.boolean(),
  /** A followed point of the other's clip that is meant instead of its pivot; with a second, how both lie turns and sizes. */
  point: id.nullable().default(null),
  second: id.nullable().default(null),
});
export type Fastening = z.infer<typeof fastenedSchema>;

/** A clip is moved so that a followed point of it stays where it is in its first frame; with a second, also turned and sized. */
const steadySchema = z.object({ point: id, second: id.nullable() });
export type Steady = z.infer<typeof steadySchema>;

/** Seen only inside, or outside, another layer's alpha or brightness; beyond the `free` line it is always seen. */
const windowSchema = z.object({
  to: id,
  how: z.enum(['inside', 'outside']),
  by: z.enum(['alpha', 'brightness']),
  /**
   * A line through a point of the other's source, in its pixels. Free is what lies on the side its `angle` points to
   * (degrees, 0 to the right, 90 down), fading in over `soft` pixels.
   */
  free: z.object({ at: pointSchema, angle: z.number(), soft: z.number().min(0).max(2000) }).nullable(),
});
export type LayerWindow = z.infer<typeof windowSchema>;

/** Settings are its own, or those of the sway `like` on any layer of the shot; the phase is always its own. */
export const swaySchema = z.object({
  id,
  ...plainSchemasOf(ownSwaySettings),
  like: id.nullable(),
  /** The part that waves, in pixels of the source; null for all of it. */
  region: z
    .object({
      form: z.enum(['rectangle', 'ellipse']),
      x: z.number(),
      y: z.number(),
      width: z.number().positive(),
      height: z.number().positive(),
    })
    .nullable(),
  ...plainSchemasOf(swaySettings),
});
export type Sway = z.infer<typeof swaySchema>;

/** When a layer is there, and how its clip runs. */
const timingSchema = z.object({
  /** Frames in which it is there: from `first` up to, but not with, `end`; null for the whole shot. */
  bar: z
    .object({ first: z.number().int().min(0), end: z.number().int().min(1) })
    .refine(({ first, end }) => first < end, 'a bar has a length')
    .nullable(),
  /** Another layer whose bar is used instead. */
  like: id.nullable(),
  /** Frame of the clip shown where the bar begins. */
  slip: z.number(),
  /** Negative runs backwards. */
  speed: z.number().min(-20).max(20),
  ends: z.enum(['repeat', 'swing', 'hold']),
  /** The only frame of the clip to be shown. */
  freeze: z.number().int().min(0).nullable(),
  /** Everything of the layer is held for this many frames: 2 is on twos. */
  steps: z.number().int().min(1).max(60),
  /** What is shown between two frames of a clip: the one that came last, or both, the next fading in. */
  between: z.enum(['nearest', 'blend']).default('nearest'),
  /** Frames of a repeated clip over which its end fades into its beginning. */
  crossfade: z.number().int().min(0).max(10_000).default(0),
});
export type Timing = z.infer<typeof timingSchema>;

/** A depth map for a whole picture: each of its pixels hangs between two distances, as shares of the layer's own. */
export const reliefSchema = z.object({
  /** Grey PNG with the source's proportions, white nearest; null until strokes were spread. */
  file: fileHash.nullable(),
  near: z.number().min(0.05).max(1),
  far: z.number().min(1).max(50),
  /** What the map was drawn with, in source pixels; empty for a map from elsewhere. */
  strokes: z.array(strokeSchema.extend({ closeness: z.number().min(0).max(1) })).max(500),
  /** What comes to light behind its steps, rebuilt for one picture and one map, and its own map; null until asked for. */
  behind: z
    .object({ picture: fileHash, depth: fileHash, of: z.object({ picture: fileHash, map: fileHash }) })
    .nullable()
    .default(null),
});
export type Relief = z.infer<typeof reliefSchema>;

/**
 * Follows the writing edge of a layer that is written or wiped on: comes from beyond the frame in `approach` frames from
 * a direction (degrees, 0 to the right, 90 down), follows exactly as long, and leaves to another.
 */
const penSchema = z.object({
  to: id,
  approach: z.number().int().min(0).max(10_000),
  from: z.number(),
  away: z.number(),
  /** How far it is lifted between words, frame pixels. */
  lift: z.number().min(0).max(2000),
});
export type Pen = z.infer<typeof penSchema>;

export const repeatForms = ['row', 'grid', 'ring', 'path'] as const;

/** Copies of a layer, each a step further than the one before. */
const repeatSchema = z.object({
  form: z.enum(repeatForms),
  /** How many in the row, in a row of the grid, or round the ring; and rows of the grid. */
  count: z.number().int().min(1).max(500),
  rows: z.number().int().min(1).max(500),
  /** Frame pixels from one to the next. */
  step: pointSchema,
  /** Of the ring, frame pixels; and whether its copies stand upright instead of turning with it. */
  radius: z.number().min(0).max(20_000),
  upright: z.boolean(),
  /** A shape layer along whose outline they stand. */
  path: id.nullable().default(null),
  /** Degrees by which the hue of each is turned on. */
  hue: z.number().min(-3600).max(3600).default(0),
  /** For each step: degrees more, and what size and opacity are multiplied by. */
  turn: z.number().min(-3600).max(3600),
  scale: z.number().min(0.05).max(4),
  opacity: z.number().min(0).max(1),
  /** Frames later for each step. */
  delay: z.number().min(-1000).max(1000),
  /** Whether every other one is mirrored. */
  mirrored: z.boolean(),
});
export type Repeat = z.infer<typeof repeatSchema>;

export const joinKinds = ['its colours', 'own colour', 'cut out'] as const;
const joinedSchema = z.object({ to: id, how: z.enum(joinKinds) });

const own = propertySchemasOf(layerSettings);

export const layerSchema = z.object({
  id,
  name,
  source: sourceSchema,
  /** The group it is in. */
  group: id.nullable(),
  hidden: z.boolean(),
  locked: z.boolean(),
  /** While any layer is solo, only those are seen. */
  solo: z.boolean(),
  ...own,
  /** Null keeps the rectangle. */
  corners: own.corners.nullable(),
  /** Of shapes, text and colour layers. */
  colour: own.colour.nullable(),
  points: own.points.nullable(),
  /** Null lets a clip run by its slip and its speed. */
  clipTime: own.clipTime.nullable().default(null),
  flip: z.object({ sideways: z.boolean(), upright: z.boolean() }),
  /** Whether it turns with the direction in which it travels. */
  oriented: z.boolean(),
  blend: blendSchema,
  fastened: fastenedSchema.nullable(),
  steady: steadySchema.nullable().default(null),
  window: windowSchema.nullable(),
  /** Outlines in source pixels that show only part of it. */
  masks: z.array(shapeSchema).max(64),
  sways: z.array(swaySchema).max(16),
  relief: reliefSchema.nullable(),
  /** Changes of its look, in the order they are applied. */
  finishes: z.array(finishSchema).max(mostFinishes).default([]),
  /** Whether it is smeared by its motion where the shot has motion blur. */
  motionBlur: z.boolean().default(true),
  timing: timingSchema,
  /** How it comes at the beginning of its bar, and goes at the end. */
  arrive: arrivalSchema.nullable().default(null),
  leave: leaveSchema.nullable().default(null),
  /** The pen of a layer of words: its pivot is where the writing has got to. */
  pen: penSchema.nullable().default(null),
  repeat: repeatSchema.nullable().default(null),
  /** Of shapes: the layer it is one with, and whether it goes on in its colours or its own, or is cut out of it. */
  joined: joinedSchema.nullable().default(null),
});
export type Layer = z.infer<typeof layerSchema>;

/** What every new layer begins with beside its name, its source and its place. */
export const plainLayer = {
  group: null,
  hidden: false,
  locked: false,
  solo: false,
  scale: { value: 1 },
  rotation: { value: 0 },
  opacity: { value: 1 },
  blur: { value: 0 },
  corners: null,
  colour: null,
  points: null,
  clipTime: null,
  flip: { sideways: false, upright: false },
  oriented: false,
  blend: 'normal',
  fastened: null,
  steady: null,
  window: null,
  masks: [],
  sways: [],
  relief: null,
  finishes: [],
  motionBlur: true,
  arrive: null,
  leave: null,
  pen: null,
  repeat: null,
  joined: null,
  timing: {
    bar: null,
    like: null,
    slip: 0,
    speed: 1,
    ends: 'repeat',
    freeze: null,
    steps: 1,
    between: 'nearest',
    crossfade: 0,
  },
} satisfies Partial<Layer>;

/** The properties of a layer that can have keys. */
export type Animated = keyof typeof layerSettings;
export const animated = Object.keys(layerSettings) as Animated[];
export type AnimatedValue<P extends Animated> = ValueOf<(typeof layerSettings)[P]>;
