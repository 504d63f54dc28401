import { z } from 'zod';
import { ease, easingSchema, type Easing } from './easing.ts';

/** A value that may change over time: a constant, or keys in order of their frame. */
export type Property<T> = { value: T } | { keys: Key<T>[] };

export interface Key<T> {
  frame: number;
  value: T;
  /** How the way to the next key is travelled. */
  easing: Easing;
}

export type Point = [number, number];

const frame = z.number().int().min(0).max(100_000);

function propertySchema<T extends z.ZodType>(value: T) {
  const keys = z
    .array(z.object({ frame, value, easing: easingSchema }))
    .min(1)
    .refine(
      (list) => list.every((key, i) => i === 0 || list[i - 1]!.frame < key.frame),
      'keys are in order of their frame',
    );
  return z.union([z.object({ value }), z.object({ keys })]);
}

export const numberPropertySchema = propertySchema(z.number());
export const pointPropertySchema = propertySchema(z.tuple([z.number(), z.number()]));

/** The value at a frame (fractions allowed): held before the first and after the last key, eased in between. */
export function valueAt<T extends number | Point>(property: Property<T>, frameNumber: number): T {
  if ('value' in property) return property.value;
  const { keys } = property;
  let index = keys.length - 1;
  while (index > 0 && keys[index]!.frame > frameNumber) index--;
  const from = keys[index]!;
  const to = keys[index + 1];
  if (!to || frameNumber <= from.frame) return from.value;
  const share = ease(from.easing, (frameNumber - from.frame) / (to.frame - from.frame));
  return between(from.value, to.value, share);
}

function between<T extends number | Point>(a: T, b: T, share: number): T {
  if (typeof a === 'number') return (a + ((b as number) - a) * share) as T;
  const [ax, ay] = a;
  const [bx, by] = b as Point;
  return [ax + (bx - ax) * share, ay + (by - ay) * share] as T;
}

/**
 * The property with `value` at a frame: a constant stays a constant, a property with keys gets one there or has the one
 * there changed, keeping its easing.
 */
export function withValueAt<T extends number | Point>(
  property: Property<T>,
  frameNumber: number,
  value: T,
): Property<T> {
  return 'value' in property ? { value } : withKey(property, frameNumber, value);
}

/** The property with a key at a frame; a constant becomes a property with that one key. */
export function withKey<T extends number | Point>(property: Property<T>, frameNumber: number, value: T): Property<T> {
  if ('value' in property) return { keys: [{ frame: frameNumber, value, easing: 'ease-in-out' }] };
  const before = property.keys.filter((key) => key.frame < frameNumber);
  const there = property.keys.find((key) => key.frame === frameNumber);
  const after = property.keys.filter((key) => key.frame > frameNumber);
  const easing = there?.easing ?? before.at(-1)?.easing ?? 'ease-in-out';
  return { keys: [...before, { frame: frameNumber, value, easing }, ...after] };
}

/** The property without the key at a frame; the last key leaves its value behind as a constant. */
export function withoutKey<T extends number | Point>(property: Property<T>, frameNumber: number): Property<T> {
  if ('value' in property) return property;
  const rest = property.keys.filter((key) => key.frame !== frameNumber);
  return rest.length > 0 ? { keys: rest } : { value: property.keys[0]!.value };
}

/** The property with the key at `from` moved to `to`; a key already there gives way. */
export function withKeyMoved<T extends number | Point>(property: Property<T>, from: number, to: number): Property<T> {
  if ('value' in property || from === to) return property;
  const moved = property.keys.find((key) => key.frame === from);
  if (!moved) return property;
  const rest = property.keys.filter((key) => key.frame !== from && key.frame !== to);
  return { keys: [...rest, { ...moved, frame: to }].sort((a, b) => a.frame - b.frame) };
}
