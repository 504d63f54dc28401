import { z } from 'zod';
import { ease, easingSchema, type Easing } from './easing.ts';
import { bobAt, bobSchema, jitterAt, jitterSchema, type Bob, type Jitter } from './wander.ts';
import { alongWay } from './way.ts';

export type Point = [number, number];
/** What a property can hold: a number, a point, or a longer list of numbers such as a colour or four corners. */
export type PropertyValue = number | number[];

/** Motion without keys, added to what a property holds. Times are frames. */
export interface Wandering<T> {
  /** Added every frame; on a rotation this is a spin. */
  drift?: T | undefined;
  /** Seeded smooth noise. */
  jitter?: Jitter | undefined;
  /** There and back like a sine. */
  bob?: Bob<T> | undefined;
  /** Another layer's property, times a factor, some frames later. */
  follow?: Follow | undefined;
}

/** A value that may change over time: a constant, or keys in order of their frame, perhaps in a cycle. */
export type Property<T extends PropertyValue> = Wandering<T> &
  ({ value: T } | { keys: Key<T>[]; cycle?: Cycle | undefined });

export interface Key<T extends PropertyValue> {
  frame: number;
  value: T;
  /** How the way to the next key is travelled. */
  easing: Easing;
  /** Handles of a curved way, as offsets from a point: towards the key before and the key after. */
  in?: Point | undefined;
  out?: Point | undefined;
}

/** What goes on outside the first and last key: again, there and back, or on from where it ended. */
export const cycles = ['repeat', 'swing', 'carry-on'] as const;
const cycleSchema = z.enum(cycles);
export type Cycle = z.infer<typeof cycleSchema>;

const frame = z.number().int().min(0).max(100_000);
const point = z.tuple([z.number(), z.number()]);

/** What may be followed: one number of another layer. */
export const followed = ['x', 'y', 'depth', 'scale', 'rotation', 'opacity', 'blur'] as const;
const followSchema = z.object({
  layer: z.string().regex(/^[a-z0-9-]{1,40}$/),
  of: z.enum(followed),
  factor: z.number().min(-1e6).max(1e6),
  /** Frames later. */
  delay: z.number().min(0).max(100_000),
});
export type Follow = z.infer<typeof followSchema>;

function propertySchema<T extends z.ZodType>(value: T) {
  const keys = z
    .array(z.object({ frame, value, easing: easingSchema, in: point.optional(), out: point.optional() }))
    .min(1)
    .refine(
      (list) => list.every((key, i) => i === 0 || list[i - 1]!.frame < key.frame),
      'keys are in order of their frame',
    );
  const wandering = {
    drift: value.optional(),
    jitter: jitterSchema.optional(),
    bob: bobSchema(value).optional(),
    follow: followSchema.optional(),
  };
  return z.union([z.object({ value, ...wandering }), z.object({ keys, cycle: cycleSchema.optional(), ...wandering })]);
}

export const numberPropertySchema = propertySchema(z.number());
export const pointPropertySchema = propertySchema(point);
const madeListSchema = (count: number) => propertySchema(z.array(z.number()).length(count));
const listSchemas = new Map<number, ReturnType<typeof madeListSchema>>();
/** A property of a fixed count of numbers: every value in it has as many. Many settings share one: each takes a millisecond. */
export function listPropertySchema(count: number): ReturnType<typeof madeListSchema> {
  const schema = listSchemas.get(count) ?? madeListSchema(count);
  listSchemas.set(count, schema);
  return schema;
}
export const numbersPropertySchema = propertySchema(z.array(z.number()).min(1).max(60_000)).refine(
  (property) => !('keys' in property) || property.keys.every((k) => k.value.length === property.keys[0]!.value.length),
  'keys have one length',
);

/**
 * The value at a frame (fractions allowed), with everything but what is followed: held before the first and after the
 * last key unless a cycle says otherwise, eased in between, and wandering added.
 */
export function valueAt<T extends PropertyValue>(property: Property<T>, frameNumber: number): T {
  const base = 'value' in property ? property.value : cycled(property.keys, property.cycle, frameNumber);
  const { drift, jitter, bob } = property;
  if (drift === undefined && !jitter && !bob) return base;
  return mapped(base, (v, k) => {
    const steady = drift === undefined ? 0 : part(drift, k) * frameNumber;
    const shaken = jitter ? jitterAt(jitter, k, frameNumber) : 0;
    return v + steady + shaken + (bob ? part(bob.amount, k) * bobAt(bob, frameNumber) : 0);
  });
}

const part = (value: PropertyValue, k: number): number => (typeof value === 'number' ? value : value[k]!);

/** The same kind of value with every number of it changed. */
export function mapped<T extends PropertyValue>(value: T, change: (v: number, k: number) => number): T {
  return (typeof value === 'number' ? change(value, 0) : value.map(change)) as T;
}

/** a + b * factor, number by number. */
export const plusTimes = <T extends PropertyValue>(a: T, b: T, factor: number): T =>
  mapped(a, (v, k) => v + part(b, k) * factor);

function cycled<T extends PropertyValue>(keys: readonly Key<T>[], cycle: Cycle | undefined, frameNumber: number): T {
  const [first, last] = [keys[0]!, keys.at(-1)!];
  const length = last.frame - first.frame;
  if (!cycle || length === 0) return keyed(keys, frameNumber);
  const turns = Math.floor((frameNumber - first.frame) / length);
  const within = frameNumber - first.frame - turns * length;
  if (cycle === 'swing') return keyed(keys, first.frame + (turns % 2 === 0 ? within : length - within));
  const value = keyed(keys, first.frame + within);
  if (cycle === 'repeat') return value;
  return mapped(value, (v, k) => v + turns * (part(last.value, k) - part(first.value, k)));
}

function keyed<T extends PropertyValue>(keys: readonly Key<T>[], frameNumber: number): T {
  let index = keys.length - 1;
  while (index > 0 && keys[index]!.frame > frameNumber) index--;
  const from = keys[index]!;
  const to = keys[index + 1];
  if (!to || frameNumber <= from.frame) return from.value;
  const share = ease(from.easing, (frameNumber - from.frame) / (to.frame - from.frame));
  if (from.out || to.in) {
    const [a, b] = [from, to] as unknown as [Key<Point>, Key<Point>];
    return alongWay(a, b, share) as PropertyValue as T;
  }
  return plusTimes(from.value, plusTimes(to.value, from.value, -1), share);
}

/** Whether a property changes by itself or by keys. */
export const moves = (property: Property<PropertyValue>): boolean =>
  'keys' in property || !!property.drift || !!property.jitter || !!property.bob || !!property.follow;
