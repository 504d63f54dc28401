import { z } from 'zod';
import {
  listPropertySchema,
  numberPropertySchema,
  numbersPropertySchema,
  pointPropertySchema,
  valueAt,
  type Point,
  type Property,
  type PropertyValue,
} from '../motion/property.ts';

/** What a number counts: frame pixels, shares shown as per cent, degrees, frames, frames shown as seconds, millimetres, or nothing. */
export type Unit = 'px' | '%' | '°' | 'frames' | 's' | 'mm' | '';

interface Named {
  /** As the interface calls it. */
  name: string;
  /** It counts, and is shown, only while these other settings have one of these values. */
  only?: Readonly<Record<string, readonly unknown[]>>;
  /** What it is in documents from before it came; as it starts where nothing is said. */
  before?: unknown;
}

/** How a number is shown where it is not as its unit and its limits say. */
interface Shown {
  digits?: number;
  /** What an arrow key adds. */
  step?: number;
}

/** One thing that can be set. From these descriptions schema, value at a frame, keys, fields and documentation follow. */
export type Setting =
  | (Named & Shown & { kind: 'number'; unit: Unit; least: number; most: number; start: number })
  /** Degrees, clockwise, without limits so that it can turn on. */
  | (Named & Shown & { kind: 'angle'; start: number })
  /** Two numbers of pixels, each under a name of its own. */
  | (Named & Shown & { kind: 'point'; axes: readonly [string, string]; start: Point })
  /** Numbers that are set by hand in the view. */
  | (Named & { kind: 'numbers'; count: number | null; start: number[] })
  /** Red, green, blue 0..255 and alpha 0..1. */
  | (Named & { kind: 'colour'; start: [number, number, number, number] })
  /** A place in the layer's box, as shares of its width and height. */
  | (Named & { kind: 'place'; start: Point })
  | (Named & { kind: 'choice'; options: readonly [string, ...string[]]; start: string })
  | (Named & { kind: 'switch'; start: boolean })
  | (Named & { kind: 'seed'; start: number })
  /** Points of a curve from 0..1 to 0..1, left to right. */
  | (Named & { kind: 'curve'; start: Point[] })
  /** Another layer of the shot, by its id, and what is taken of it: its outline as a path, its pivot, or the edge it is seen with; '' for none. */
  | (Named & { kind: 'layer'; gives: LayerGift; start: '' })
  /** Marks of a brush in the layer's box. */
  | (Named & { kind: 'strokes'; start: BrushStroke[] });

export type LayerGift = 'path' | 'place' | 'edge';

/** One mark of a brush: points as shares of the box, the width as a share of its height. */
export interface BrushStroke {
  points: Point[];
  width: number;
  /** Whether it takes away what others marked. */
  erases: boolean;
}

export type SettingKind = Setting['kind'];
export type Settings = Record<string, Setting>;

interface Values1 {
  number: number;
  angle: number;
  point: Point;
  numbers: number[];
  colour: number[];
  place: Point;
  choice: string;
  switch: boolean;
  seed: number;
  curve: Point[];
  layer: string;
  strokes: BrushStroke[];
}

/** The value of a setting at one frame. */
export type ValueOf<S extends Setting> = S extends { kind: 'choice'; options: readonly (infer O)[] }
  ? O
  : Values1[S['kind']];
/** The values of settings at one frame. */
export type Values<S extends Settings> = { -readonly [K in keyof S]: ValueOf<S[K]> };

/** What each kind stores, and how it comes to a value. Keyed kinds are stored as properties. */
type KindTable = {
  [K in SettingKind]: {
    keyed: boolean;
    schema(setting: Extract<Setting, { kind: K }>): z.ZodType;
    value(setting: Extract<Setting, { kind: K }>, stored: unknown, frame: number): Values1[K];
  };
};

const seed = z.number().int().min(0).max(1e9);
const layerId = z.string().regex(/^[a-z0-9-]{0,40}$/);
const share = z.number().min(0).max(1);

const kinds: KindTable = {
  number: {
    keyed: true,
    schema: () => numberPropertySchema,
    // Between keys an easing may overshoot what the setting allows.
    value: ({ least, most }, stored, frame) => {
      const value = valueAt(stored as Property<number>, frame);
      return value < least ? least : value > most ? most : value;
    },
  },
  angle: {
    keyed: true,
    schema: () => numberPropertySchema,
    value: (_, stored, frame) => valueAt(stored as Property<number>, frame),
  },
  point: {
    keyed: true,
    schema: () => pointPropertySchema,
    value: (_, stored, frame) => valueAt(stored as Property<Point>, frame),
  },
  numbers: {
    keyed: true,
    schema: ({ count }) => (count === null ? numbersPropertySchema : listPropertySchema(count)),
    value: (_, stored, frame) => valueAt(stored as Property<number[]>, frame),
  },
  colour: {
    keyed: true,
    schema: () => listPropertySchema(4),
    value: (_, stored, frame) => valueAt(stored as Property<number[]>, frame),
  },
  place: {
    keyed: true,
    schema: () => pointPropertySchema,
    value: (_, stored, frame) => valueAt(stored as Property<Point>, frame),
  },
  choice: { keyed: false, schema: ({ options }) => z.enum(options), value: (_, stored) => stored as string },
  switch: { keyed: false, schema: () => z.boolean(), value: (_, stored) => stored as boolean },
  seed: {
    keyed: false,
    schema: () => seed,
    value: (_, stored) => stored as number,
  },
  curve: {
    keyed: false,
    schema: () =>
      z
        .array(z.tuple([share, share]))
        .min(2)
        .max(16)
        .refine(
          (points) => points.every((p, k) => k === 0 || points[k - 1]![0] < p[0]),
          'points go from left to right',
        ),
    value: (_, stored) => stored as Point[],
  },
  layer: {
    keyed: false,
    schema: () => layerId,
    value: (_, stored) => stored as string,
  },
  strokes: {
    keyed: false,
    schema: () =>
      z
        .array(
          z.object({
            points: z
              .array(z.tuple([z.number(), z.number()]))
              .min(1)
              .max(2000),
            width: z.number().min(0.0001).max(4),
            erases: z.boolean(),
          }),
        )
        .max(300),
    value: (_, stored) => stored as BrushStroke[],
  },
};

const kindOf = (setting: Setting) => kinds[setting.kind] as KindTable['number'];

/** Whether a setting can have keys, and is therefore stored as a property. */
export const isKeyed = (setting: Setting): boolean => kindOf(setting).keyed;

/** Whether a setting counts beside the values of the others. */
const isAsked = ({ only }: Setting, values: Record<string, unknown>): boolean =>
  Object.entries(only ?? {}).every(([key, wanted]) => wanted.includes(values[key]));

/** The settings that count beside these values, each with its key; what is shown of them. */
export const askedOf = (settings: Settings, values: Record<string, unknown>): [string, Setting][] =>
  Object.entries(settings).filter(([, setting]) => isAsked(setting, values));

/** The schema of stored settings; one that came later than a document is in it as before it came. */
export function schemaOf(settings: Settings): z.ZodObject {
  return z.object(
    Object.fromEntries(
      Object.entries(settings).map(([key, one]) => {
        const missing = one.before ?? one.start;
        const start = isKeyed(one) ? { value: missing } : missing;
        return [
          key,
          kindOf(one)
            .schema(one as never)
            .default(() => JSON.parse(JSON.stringify(start)) as never),
        ];
      }),
    ),
  );
}

/** Numbers, choices and switches of something that has no keys: stored as they are. */
export type PlainSettings = Record<string, Extract<Setting, { kind: 'number' | 'angle' | 'choice' | 'switch' }>>;

function within(least: number, most: number): z.ZodNumber {
  const above = Number.isFinite(least) ? z.number().min(least) : z.number();
  return Number.isFinite(most) ? above.max(most) : above;
}

/** The schemas of plain settings, to be parts of an object's. */
export function plainSchemasOf<S extends PlainSettings>(settings: S): { [K in keyof S]: z.ZodType<ValueOf<S[K]>> } {
  const schemaFor = (setting: PlainSettings[string]): z.ZodType => {
    switch (setting.kind) {
      case 'number':
        return within(setting.least, setting.most);
      case 'angle':
        return z.number();
      case 'choice':
        return z.enum(setting.options);
      case 'switch':
        return z.boolean();
    }
  };
  return Object.fromEntries(Object.entries(settings).map(([key, one]) => [key, schemaFor(one)])) as never;
}

type PropertySchemaOf<S extends Setting> = S extends { kind: 'number' | 'angle' }
  ? typeof numberPropertySchema
  : S extends { kind: 'point' | 'place' }
    ? typeof pointPropertySchema
    : typeof numbersPropertySchema;

/** The schemas of settings that can have keys, to be parts of an object's. */
export function propertySchemasOf<S extends Settings>(settings: S): { [K in keyof S]: PropertySchemaOf<S[K]> } {
  return Object.fromEntries(
    Object.entries(settings).map(([key, one]) => [key, kindOf(one).schema(one as never)]),
  ) as never;
}

/** Settings as they are stored. */
export type StoredSettings = Record<
  string,
  Property<PropertyValue> | string | number | boolean | Point[] | BrushStroke[]
>;

/** What new settings are stored as, some of them with a value of their own. */
export function storedFrom(settings: Settings, values: Record<string, unknown> = {}): StoredSettings {
  return Object.fromEntries(
    Object.entries(settings).map(([key, one]) => {
      const value = values[key] ?? one.start;
      return [key, (isKeyed(one) ? { value } : value) as StoredSettings[string]];
    }),
  );
}

/** Settings at a frame. */
export function valuesAt<S extends Settings>(settings: S, stored: StoredSettings, frame: number): Values<S> {
  return Object.fromEntries(
    Object.entries(settings).map(([key, one]) => [key, kindOf(one).value(one as never, stored[key], frame)]),
  ) as Values<S>;
}
