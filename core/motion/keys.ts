import { fitPath } from '../path/fit.ts';
import type { Easing } from './easing.ts';
import { mapped, plusTimes, valueAt, type Key, type Point, type Property, type PropertyValue } from './property.ts';
import { randomOf } from './wander.ts';
import { lengthOfWay } from './way.ts';

/* Changes to the keys of a property. Each gives a new property; what is not a key stays as it is. */

const wanderingOf = <T extends PropertyValue>({ drift, jitter, bob, follow }: Property<T>) => ({
  ...(drift === undefined ? {} : { drift }),
  ...(jitter ? { jitter } : {}),
  ...(bob ? { bob } : {}),
  ...(follow ? { follow } : {}),
});

/** The same property with other keys; without any it is the constant `value`. */
export function withKeys<T extends PropertyValue>(
  property: Property<T>,
  keys: readonly Key<T>[],
  value: T,
): Property<T> {
  if (keys.length === 0) return { value, ...wanderingOf(property) };
  const cycle = 'keys' in property && property.cycle ? { cycle: property.cycle } : {};
  return { keys: [...keys], ...cycle, ...wanderingOf(property) };
}

/** The property with every value it holds changed: its constant, or the one of each key. */
export function withEveryValue<T extends PropertyValue>(property: Property<T>, change: (value: T) => T): Property<T> {
  return 'value' in property
    ? { ...property, value: change(property.value) }
    : { ...property, keys: property.keys.map((key) => ({ ...key, value: change(key.value) })) };
}

export const keysOf = <T extends PropertyValue>(property: Property<T>): Key<T>[] =>
  'keys' in property ? property.keys : [];

/** The first value a property holds by itself. */
export const baseOf = <T extends PropertyValue>(property: Property<T>): T =>
  'keys' in property ? property.keys[0]!.value : property.value;

/**
 * The property showing `value` at a frame: a constant stays a constant, a property with keys gets one there or has the
 * one there changed, keeping its easing. What wanders keeps wandering around it.
 */
export function withValueAt<T extends PropertyValue>(property: Property<T>, frame: number, value: T): Property<T> {
  const wanders = plusTimes(valueAt(property, frame), valueAt(still(property), frame), -1);
  const own = plusTimes(value, wanders, -1);
  return 'value' in property ? { ...property, value: own } : withKey(property, frame, own);
}

/** The property as its keys alone have it. */
const still = <T extends PropertyValue>(property: Property<T>): Property<T> =>
  'keys' in property ? { keys: property.keys, cycle: property.cycle } : { value: property.value };

/** The property with a key at a frame; a constant becomes a property with that one key. */
export function withKey<T extends PropertyValue>(property: Property<T>, frame: number, value: T): Property<T> {
  const keys = keysOf(property);
  const before = keys.filter((key) => key.frame < frame);
  const there = keys.find((key) => key.frame === frame);
  const after = keys.filter((key) => key.frame > frame);
  const easing = there?.easing ?? before.at(-1)?.easing ?? 'ease-in-out';
  return withKeys(property, [...before, { ...there, frame, value, easing }, ...after], value);
}

/** The property without the key at a frame; the last key leaves its value behind as a constant. */
export function withoutKey<T extends PropertyValue>(property: Property<T>, frame: number): Property<T> {
  if ('value' in property) return property;
  return withKeys(
    property,
    property.keys.filter((key) => key.frame !== frame),
    property.keys[0]!.value,
  );
}

/**
 * The property with the keys at `frames` taken elsewhere in time; keys that are there already give way. Frames are made
 * whole and not below 0.
 */
export function withKeysMoved<T extends PropertyValue>(
  property: Property<T>,
  frames: readonly number[],
  where: (frame: number) => number,
): Property<T> {
  if ('value' in property) return property;
  const chosen = new Set(frames);
  const taken = new Map<number, Key<T>>();
  for (const key of property.keys) if (!chosen.has(key.frame)) taken.set(key.frame, key);
  for (const key of property.keys) {
    if (!chosen.has(key.frame)) continue;
    const frame = Math.max(0, Math.round(where(key.frame)));
    taken.set(frame, { ...key, frame });
  }
  return withKeys(property, inOrder([...taken.values()]), property.keys[0]!.value);
}

const inOrder = <T extends PropertyValue>(keys: Key<T>[]): Key<T>[] => keys.sort((a, b) => a.frame - b.frame);

/** Keys laid into a property `shift` frames later; those already at the same frames give way. */
export function withKeysPasted<T extends PropertyValue>(
  property: Property<T>,
  pasted: readonly Key<T>[],
  shift: number,
): Property<T> {
  const laid = new Map(keysOf(property).map((key) => [key.frame, key]));
  for (const key of pasted) {
    const frame = Math.max(0, Math.round(key.frame + shift));
    laid.set(frame, { ...key, frame });
  }
  return withKeys(property, inOrder([...laid.values()]), baseOf(property));
}

/** Keys in mirrored order of time between their first and last; easings and handles are turned round with them. */
export function withKeysMirrored<T extends PropertyValue>(
  property: Property<T>,
  frames: readonly number[],
): Property<T> {
  if ('value' in property || frames.length < 2) return property;
  const chosen = property.keys.filter((key) => frames.includes(key.frame));
  const [first, last] = [chosen[0]!.frame, chosen.at(-1)!.frame];
  const turned = chosen.map((key, k): Key<T> => {
    const before = chosen[k - 1];
    return {
      frame: first + last - key.frame,
      value: key.value,
      easing: before ? turnedRound(before.easing) : key.easing,
      ...(key.out ? { in: key.out } : {}),
      ...(key.in ? { out: key.in } : {}),
    };
  });
  const rest = property.keys.filter((key) => !frames.includes(key.frame));
  return withKeysPasted(withKeys(property, rest, property.keys[0]!.value), turned, 0);
}

/** The easing that shows the same way backwards. */
export function turnedRound(easing: Easing): Easing {
  if (typeof easing !== 'string') return [1 - easing[2], 1 - easing[3], 1 - easing[0], 1 - easing[1]];
  const pairs: Partial<Record<string, Easing>> = {
    'ease-in': 'ease-out',
    'ease-out': 'ease-in',
    ease: [0.75, 0, 0.75, 0.9],
    overshoot: 'wind-up',
    'wind-up': 'overshoot',
  };
  return pairs[easing] ?? easing;
}

/** Frames by which the n-th of several things is later: n steps, or at random within `steps` either way by a seed. */
export const staggered = (n: number, frames: number): number => n * frames;
export const scattered = (n: number, frames: number, seed: number): number => Math.round(randomOf(seed, 7, n) * frames);

/** Keys moved so that a curved way through all of them is travelled at one speed from the first to the last. */
export function atEvenSpeed(property: Property<Point>): Property<Point> {
  if ('value' in property || property.keys.length < 3) return property;
  const { keys } = property;
  const lengths = keys.slice(1).map((key, k) => lengthOfWay(keys[k]!, key));
  const total = lengths.reduce((a, b) => a + b, 0);
  if (total === 0) return property;
  const [first, last] = [keys[0]!.frame, keys.at(-1)!.frame];
  let way = 0;
  let before = first - 1;
  const moved = keys.map((key, k) => {
    if (k > 0) way += lengths[k - 1]!;
    const room = last - (keys.length - 1 - k);
    const frame = Math.min(room, Math.max(before + 1, Math.round(first + (way / total) * (last - first))));
    before = frame;
    return { ...key, frame, easing: 'linear' as const };
  });
  return withKeys(property, moved, keys[0]!.value);
}

/** One sample of a way drawn by hand. */
export interface DrawnPoint {
  frame: number;
  at: Point;
}

/**
 * Keys for a way that was drawn while it played: a few curves (Schneider 1990) that stay within `smoothing` pixels of
 * it, with a key at each joint at the moment the hand was there.
 */
export function keysOfDrawing(drawn: readonly DrawnPoint[], smoothing: number): Key<Point>[] {
  if (drawn.length === 0) return [];
  const first = drawn[0]!;
  const last = drawn.at(-1)!;
  if (drawn.length === 1 || last.frame === first.frame)
    return [{ frame: first.frame, value: last.at, easing: 'linear' }];
  const { points } = fitPath(
    drawn.map((d) => d.at),
    Math.max(0.5, smoothing),
    false,
    75,
  );
  const keys: Key<Point>[] = [];
  let from = 0;
  points.forEach((joint, k) => {
    // Joints come in the order of the drawing, so each is looked for after the one before.
    let nearest = from;
    const distance = (n: number): number => Math.hypot(drawn[n]!.at[0] - joint.at[0], drawn[n]!.at[1] - joint.at[1]);
    for (let n = from; n < drawn.length; n++) if (distance(n) < distance(nearest)) nearest = n;
    if (k === points.length - 1) nearest = drawn.length - 1;
    from = nearest;
    const frame = drawn[nearest]!.frame;
    if (keys.at(-1)?.frame === frame) return;
    const curve = { ...(joint.in ? { in: joint.in } : {}), ...(joint.out ? { out: joint.out } : {}) };
    keys.push({ frame, value: joint.at, easing: 'linear', ...curve });
  });
  return keys;
}

/**
 * Keys that say what `at` says at every frame from first to last, as few as stay within `tolerance` of it (Ramer 1972,
 * Douglas & Peucker 1973, over time).
 */
export function sampledKeys<T extends PropertyValue>(
  at: (frame: number) => T,
  first: number,
  last: number,
  tolerance: number,
): Key<T>[] {
  const values = Array.from({ length: last - first + 1 }, (_, k) => at(first + k));
  const kept = new Set([0, values.length - 1]);
  const split = (a: number, b: number): void => {
    let [worst, where] = [tolerance, -1];
    for (let k = a + 1; k < b; k++) {
      const straight = plusTimes(values[a]!, plusTimes(values[b]!, values[a]!, -1), (k - a) / (b - a));
      let away = 0;
      mapped(straight, (v, n) => {
        const own = values[k]!;
        away = Math.max(away, Math.abs(v - (typeof own === 'number' ? own : own[n]!)));
        return v;
      });
      if (away > worst) [worst, where] = [away, k];
    }
    if (where < 0) return;
    kept.add(where);
    split(a, where);
    split(where, b);
  };
  split(0, values.length - 1);
  return [...kept].sort((a, b) => a - b).map((k) => ({ frame: first + k, value: values[k]!, easing: 'linear' }));
}
