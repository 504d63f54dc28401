import type { Easing } from '../motion/easing.ts';
import {
  atEvenSpeed,
  keysOf,
  keysOfDrawing,
  sampledKeys,
  scattered,
  staggered,
  withKeys,
  withKeysMirrored,
  withKeysMoved,
  withKeysPasted,
  type DrawnPoint,
} from '../motion/keys.ts';
import { valueAt, type Cycle, type Key, type Point, type PropertyValue } from '../motion/property.ts';
import type { Document } from '../document/document.ts';
import { defineEdit, type Edit } from './edit.ts';
import type { Layer } from '../document/layer.ts';
import {
  changeProperties,
  propertyAt,
  propertyPaths,
  putProperty,
  type AnyProperty,
  type PropertyPath,
} from '../document/properties.ts';
import { changeProperty, layerIn, shotIn } from './layer-edits.ts';
import { layerValue } from '../scene/values.ts';
import type { Shot } from '../document/shot.ts';

/** Names one key of one layer. */
export interface KeyRef {
  layer: string;
  property: PropertyPath;
  frame: number;
}

/** Keys taken out of a document, to be laid in elsewhere; frames count from the earliest of them. */
export interface CopiedKeys {
  layer: string;
  property: PropertyPath;
  keys: Key<PropertyValue>[];
}

/** Changes every property that has one of the keys, with the frames of its chosen keys. */
function changeKeys(
  name: string,
  shotId: string,
  refs: readonly KeyRef[],
  change: (property: AnyProperty, frames: number[]) => AnyProperty,
): Edit {
  return defineEdit(name, (draft: Document) => {
    const chosen = new Map<string, number[]>();
    for (const { layer, property, frame } of refs) {
      const at = `${layer} ${property}`;
      chosen.set(at, [...(chosen.get(at) ?? []), frame]);
    }
    for (const [at, frames] of chosen) {
      const [layer, property] = at.split(' ') as [string, PropertyPath];
      const found = layerIn(draft, shotId, layer);
      const before = propertyAt(found, property);
      if (before) putProperty(found, property, change(before, frames));
    }
  })();
}

export const moveKeys = (shot: string, refs: readonly KeyRef[], by: number): Edit =>
  changeKeys('Move keyframes', shot, refs, (property, frames) => withKeysMoved(property, frames, (f) => f + by));

export const stretchKeys = (shot: string, refs: readonly KeyRef[], from: number, factor: number): Edit =>
  changeKeys('Stretch keyframes', shot, refs, (property, frames) =>
    withKeysMoved(property, frames, (f) => from + (f - from) * factor),
  );

export const mirrorKeys = (shot: string, refs: readonly KeyRef[]): Edit =>
  changeKeys('Mirror in time', shot, refs, withKeysMirrored);

export const removeKeys = (shot: string, refs: readonly KeyRef[]): Edit =>
  changeKeys('Delete keyframes', shot, refs, (property, frames) => {
    const keys = keysOf(property);
    const gone = new Set(frames);
    return withKeys(
      property,
      keys.filter((key) => !gone.has(key.frame)),
      keys[0]!.value,
    );
  });

export const easeKeys = (shot: string, refs: readonly KeyRef[], easing: Easing): Edit =>
  changeKeys('Change easing', shot, refs, (property, frames) =>
    'value' in property
      ? property
      : { ...property, keys: property.keys.map((key) => (frames.includes(key.frame) ? { ...key, easing } : key)) },
  );

/** What pasting will lay in: keys of the chosen refs, by layer and property. */
export function copiedKeys(shot: Shot, refs: readonly KeyRef[]): CopiedKeys[] {
  const first = Math.min(...refs.map((ref) => ref.frame));
  const out: CopiedKeys[] = [];
  for (const layer of shot.layers) {
    for (const property of propertyPaths(layer)) {
      const frames = refs.filter((r) => r.layer === layer.id && r.property === property).map((r) => r.frame);
      const keys = keysOf(propertyAt(layer, property)!).filter((key) => frames.includes(key.frame));
      if (keys.length > 0)
        out.push({ layer: layer.id, property, keys: keys.map((key) => ({ ...key, frame: key.frame - first })) });
    }
  }
  return out;
}

/**
 * Lays copied keys in at a frame: keys of one layer into every layer of `onto`, keys of several back into their own.
 * Nothing happens where a layer has no such property.
 */
export function pasteKeys(shotId: string, copied: readonly CopiedKeys[], onto: readonly string[], frame: number): Edit {
  return defineEdit('Paste keyframes', (draft: Document) => {
    const several = new Set(copied.map((c) => c.layer)).size > 1;
    for (const { layer, property, keys } of copied) {
      for (const target of several || onto.length === 0 ? [layer] : onto) {
        const found = layerIn(draft, shotId, target);
        const before = propertyAt(found, property);
        if (before) putProperty(found, property, withKeysPasted(before, keys, frame));
      }
    }
  })();
}

/** A property with every key moved in time. */
function withFrames(property: AnyProperty, move: (frame: number) => number): AnyProperty {
  if (!('keys' in property)) return property;
  const frames = property.keys.map((key) => key.frame);
  return withKeysMoved(property, frames, move);
}

/**
 * Moves all keys and the bar of a layer in time. One that is there all the time and arrives then comes later, and stays as
 * long as it did.
 */
function shiftLayer(shot: Shot, layer: Layer, frames: number): void {
  changeProperties(layer, (property) => withFrames(property, (f) => f + frames));
  const { bar } = layer.timing;
  if (!bar) {
    if (layer.arrive && frames > 0) layer.timing.bar = { first: frames, end: Math.max(frames + 1, shot.length) };
    return;
  }
  const first = Math.max(0, bar.first + frames);
  layer.timing.bar = { first, end: Math.max(first + 1, bar.end + frames) };
}

export const shiftLayers = defineEdit('Shift in time', (draft, shotId: string, layers: string[], frames: number) => {
  for (const layer of layers) shiftLayer(shotIn(draft, shotId), layerIn(draft, shotId, layer), frames);
});

/** Each layer starts some frames after the one before it, in the given order. */
export const staggerLayers = defineEdit('Stagger', (draft, shotId: string, layers: string[], frames: number) => {
  layers.forEach((layer, n) => shiftLayer(shotIn(draft, shotId), layerIn(draft, shotId, layer), staggered(n, frames)));
});

/** Each layer starts up to `frames` later, at random by a seed. */
export const scatterLayers = defineEdit(
  'Scatter in time',
  (draft, shotId: string, layers: string[], frames: number, seed: number) => {
    layers.forEach((layer, n) =>
      shiftLayer(shotIn(draft, shotId), layerIn(draft, shotId, layer), Math.abs(scattered(n, frames, seed))),
    );
  },
);

/** Slower or faster: the layer's keys are stretched about its first one, at all properties alike. */
export const changePace = defineEdit('Change pace', (draft, shotId: string, layerId: string, factor: number) => {
  const layer = layerIn(draft, shotId, layerId);
  const all = propertyPaths(layer).flatMap((path) => keysOf(propertyAt(layer, path)!).map((key) => key.frame));
  const first = Math.min(...all);
  changeProperties(layer, (property) => withFrames(property, (f) => first + (f - first) / factor));
});

export const evenSpeed = (shot: string, layer: string): Edit =>
  changeProperty('Even speed', shot, layer, 'position', (before) => atEvenSpeed(before));

export function setCycle(shot: string, layer: string, property: PropertyPath, cycle: Cycle | null): Edit {
  return changeProperty('Change cycle', shot, layer, property, (before) => {
    if ('value' in before) return before;
    const rest = { ...before };
    delete rest.cycle;
    return cycle ? { ...rest, cycle } : rest;
  });
}

/** Sets what a property does without keys; null takes it away. */
export function setWandering<K extends 'drift' | 'jitter' | 'bob' | 'follow'>(
  shot: string,
  layer: string,
  property: PropertyPath,
  kind: K,
  value: AnyProperty[K] | null,
): Edit {
  const names = { drift: 'Drift', jitter: 'Jitter', bob: 'Bob', follow: 'Follow' };
  return changeProperty(names[kind], shot, layer, property, (before) => {
    const rest = { ...before };
    delete rest[kind];
    return (value === null ? rest : { ...rest, [kind]: value }) as typeof before;
  });
}

/** Handles of a curved way at a key of the position; null makes that side straight. */
export function setKeyHandles(
  shot: string,
  layer: string,
  frame: number,
  handles: { in?: Point | null; out?: Point | null },
): Edit {
  return changeProperty('Bend path', shot, layer, 'position', (before) => {
    if ('value' in before) return before;
    const keys = before.keys.map((key) => {
      if (key.frame !== frame) return key;
      const next = { ...key };
      for (const side of ['in', 'out'] as const) {
        const handle = handles[side];
        if (handle === null) delete next[side];
        else if (handle) next[side] = handle;
      }
      return next;
    });
    return { ...before, keys };
  });
}

/** The way a layer goes as it was drawn by hand, in place of the keys that were there in that time. */
export function setDrawnPath(shot: string, layer: string, drawn: readonly DrawnPoint[], smoothing: number): Edit {
  return changeProperty('Draw path', shot, layer, 'position', (before) => {
    const keys = keysOfDrawing(drawn, smoothing);
    if (keys.length === 0) return before;
    const [first, last] = [keys[0]!.frame, keys.at(-1)!.frame];
    const rest = keysOf(before).filter((key) => key.frame < first || key.frame > last);
    return withKeysPasted(withKeys(before, rest, keys[0]!.value), keys, 0);
  });
}

/** How near sampled keys stay to what they replace. */
const tolerance: Partial<Record<PropertyPath, number>> = {
  position: 0.2,
  depth: 0.002,
  scale: 0.0005,
  rotation: 0.05,
  pivot: 0.2,
  opacity: 0.002,
  blur: 0.05,
  corners: 0.2,
  colour: 0.3,
  points: 0.2,
};

/** Turns whatever a property does over the shot (cycle, drift, jitter, bob, follow) into keyframes that say the same. */
export function turnIntoKeys(shotId: string, layerId: string, property: PropertyPath): Edit {
  return defineEdit('Turn into keyframes', (draft: Document) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    if (!propertyAt(layer, property)) return;
    const at = (frame: number): PropertyValue => layerValue(shot, layer, property, frame);
    const keys = sampledKeys(at, 0, shot.length - 1, tolerance[property] ?? 0.002);
    putProperty(layer, property, { keys });
  })();
}

/** Frames at which a layer has keys, in order. */
export function keyFramesOf(layer: Layer): number[] {
  const frames = propertyPaths(layer).flatMap((path) => keysOf(propertyAt(layer, path)!).map((k) => k.frame));
  return [...new Set(frames)].sort((a, b) => a - b);
}

/** Speed of a property at each frame, in its units a second: the length of its change between two frames. */
export function speedsOf(property: AnyProperty, frames: number, rate: number): number[] {
  return Array.from({ length: frames }, (_, f) => {
    const [a, b] = [valueAt(property, f - 0.5), valueAt(property, f + 0.5)];
    if (typeof a === 'number') return ((b as number) - a) * rate;
    return Math.hypot(...a.map((v, k) => (b as number[])[k]! - v)) * rate;
  });
}
