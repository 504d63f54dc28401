import equal from 'fast-deep-equal';
import type { Easing } from '../motion/easing.ts';
import { withKeys, withKeysPasted, keysOf } from '../motion/keys.ts';
import { valueAt, type Key, type PropertyValue } from '../motion/property.ts';
import { defineEdit, find } from './edit.ts';
import type { Layer } from '../document/layer.ts';
import {
  isOwn,
  propertyAt,
  propertyPaths,
  putProperty,
  type AnyProperty,
  type PropertyPath,
} from '../document/properties.ts';
import { shotIn } from './layer-edits.ts';
import { heldFrame } from '../scene/values.ts';
import type { Arrangement, Pose, Shot } from '../document/shot.ts';

/** What a pose stores of every layer. */
const stored = ['position', 'depth', 'scale', 'rotation', 'opacity'] as const;
type Stored = (typeof stored)[number];

/** What else it stores of a layer: how it looks. Points, corners and pivots are the layer's own affair. */
const looksOf = (layer: Layer): PropertyPath[] =>
  propertyPaths(layer).filter((path) => !isOwn(path) || path === 'blur' || path === 'colour');

/** Layers as they are arranged at a frame; hidden ones, and those that cannot be seen, are not in it. */
export function arrangementAt(shot: Shot, frame: number): Arrangement[] {
  return shot.layers
    .filter((layer) => !layer.hidden && layer.source.kind !== 'carrier')
    .map((layer) => {
      const at = heldFrame(layer, frame);
      return {
        layer: layer.id,
        position: valueAt(layer.position, at),
        depth: valueAt<number>(layer.depth, at),
        scale: valueAt<number>(layer.scale, at),
        rotation: valueAt<number>(layer.rotation, at),
        opacity: valueAt<number>(layer.opacity, at),
        look: Object.fromEntries(
          looksOf(layer).map((path) => [path, valueAt(propertyOf(layer, path), at)]),
        ) as Arrangement['look'],
      };
    })
    .filter(({ opacity }) => opacity > 0);
}

/**
 * Stores the arrangement at a frame as a pose, or anew for the pose that is there already. The moves between all poses of
 * the shot are made again.
 */
export const storePose = defineEdit('Store pose', (draft, shotId: string, id: string, frame: number) => {
  const shot = shotIn(draft, shotId);
  const layers = arrangementAt(shot, frame);
  const there = shot.poses.find((pose) => pose.frame === frame);
  if (there) there.layers = layers;
  else {
    const name = `Pose ${String.fromCharCode(65 + (shot.poses.length % 26))}`;
    shot.poses.push({ id, name, frame, hold: 0, easing: 'ease-in-out', layers, becomes: [] });
    shot.poses.sort((a, b) => a.frame - b.frame);
  }
  makeMoves(shot);
});

export const changePose = defineEdit(
  'Change pose',
  (
    draft,
    shotId: string,
    poseId: string,
    change: { name?: string; frame?: number; hold?: number; easing?: Easing },
  ) => {
    const shot = shotIn(draft, shotId);
    const pose = find(shot.poses, 'pose', poseId);
    clearMoves(shot);
    Object.assign(pose, change);
    shot.poses.sort((a, b) => a.frame - b.frame);
    makeMoves(shot);
  },
);

export const removePose = defineEdit('Delete pose', (draft, shotId: string, poseId: string) => {
  const shot = shotIn(draft, shotId);
  find(shot.poses, 'pose', poseId);
  clearMoves(shot);
  shot.poses = shot.poses.filter((pose) => pose.id !== poseId);
  makeMoves(shot);
});

/** Corrects by hand which layer of a pose becomes which of the next; null lets the layers match by themselves again. */
export const matchLayers = defineEdit(
  'Match layers',
  (draft, shotId: string, poseId: string, layer: string, next: string | null) => {
    const shot = shotIn(draft, shotId);
    const pose = find(shot.poses, 'pose', poseId);
    pose.becomes = pose.becomes.filter((b) => b.layer !== layer && b.next !== next);
    if (next) pose.becomes.push({ layer, next });
    makeMoves(shot);
  },
);

/** What a move from one pose to the next does to each layer. */
export interface MoveList {
  travels: string[];
  stays: string[];
  appears: string[];
  disappears: string[];
  /** Pairs matched by hand: one turns into the other on the way. */
  becomes: { layer: string; next: string }[];
}

/** Says before playing what will travel, appear and disappear between two poses. */
export function moveList(from: Pose, to: Pose): MoveList {
  const list: MoveList = { travels: [], stays: [], appears: [], disappears: [], becomes: [] };
  const before = new Map(from.layers.map((a) => [a.layer, a]));
  const after = new Map(to.layers.map((a) => [a.layer, a]));
  list.becomes = from.becomes.filter(({ layer, next }) => before.has(layer) && after.has(next));
  const paired = new Set(list.becomes.flatMap(({ layer, next }) => [layer, next]));
  for (const [id, a] of before) {
    if (paired.has(id)) continue;
    const b = after.get(id);
    if (!b) list.disappears.push(id);
    else if (sameArrangement(a, b)) list.stays.push(id);
    else list.travels.push(id);
  }
  for (const id of after.keys()) if (!before.has(id) && !paired.has(id)) list.appears.push(id);
  return list;
}

/** A look that only one of them knows, as a finish came between them, says nothing. */
function sameArrangement(a: Arrangement, b: Arrangement): boolean {
  const both = Object.keys(a.look).filter((path) => path in b.look);
  return stored.every((name) => equal(a[name], b[name])) && both.every((path) => equal(a.look[path], b.look[path]));
}

const propertyOf = (layer: Layer, path: PropertyPath): AnyProperty => propertyAt(layer, path)!;

/** The frames at which poses begin and end to be held. */
const poseFrames = (shot: Shot): Set<number> => new Set(shot.poses.flatMap(({ frame, hold }) => [frame, frame + hold]));

/** Takes the keys at the frames of all poses away, so that poses can be moved in time. */
function clearMoves(shot: Shot): void {
  const frames = poseFrames(shot);
  for (const layer of shot.layers) {
    for (const path of [...stored, ...looksOf(layer)]) {
      const property = propertyOf(layer, path);
      const keys = keysOf(property);
      const left = keys.filter((key) => !frames.has(key.frame));
      if (left.length < keys.length) putProperty(layer, path, withKeys(property, left, keys[0]!.value));
    }
  }
}

/** Writes the keys that run from pose to pose. What a pose does not have is clear there, at the place it has next. */
function makeMoves(shot: Shot): void {
  if (shot.poses.length < 2) return;
  const known = new Set(shot.poses.flatMap((pose) => pose.layers.map((a) => a.layer)));
  for (const layer of shot.layers) {
    if (!known.has(layer.id)) continue;
    layer.hidden = false;
    for (const path of [...stored, ...looksOf(layer)]) {
      const property = propertyOf(layer, path);
      const keys = shot.poses.flatMap((_, k) => keysAt(shot, layer, k, path));
      const differ = keys.some((key) => !equal(key.value, keys[0]!.value));
      // Looks that move by keys of their own between poses that are alike are left to them.
      const led = isStored(path) ? keysOf(property).length > 0 : hasKeyAt(property, poseFrames(shot));
      if (differ || led) putProperty(layer, path, withKeysPasted(property, keys, 0));
    }
  }
}

const isStored = (path: PropertyPath): path is Stored => (stored as readonly PropertyPath[]).includes(path);

const hasKeyAt = (property: AnyProperty, frames: ReadonlySet<number>): boolean =>
  keysOf(property).some((key) => frames.has(key.frame));

function keysAt(shot: Shot, layer: Layer, index: number, path: PropertyPath): Key<PropertyValue>[] {
  const pose = shot.poses[index]!;
  const value = isStored(path) ? valueIn(shot, layer.id, index, path) : lookIn(shot, layer, index, path);
  const key: Key<PropertyValue> = { frame: pose.frame, value, easing: pose.easing };
  return pose.hold > 0
    ? [
        { ...key, easing: 'hold' },
        { ...key, frame: pose.frame + pose.hold },
      ]
    : [key];
}

/**
 * What a layer has in a pose. A layer that is not in it is clear, and waits where the pose beside it has it, or where the
 * layer it becomes, or comes from, is.
 */
function valueIn(shot: Shot, layer: string, index: number, name: Stored): PropertyValue {
  const find = (k: number): Arrangement | undefined => shot.poses[k]?.layers.find((a) => a.layer === layer);
  const own = find(index);
  if (own) return own[name];
  if (name === 'opacity') return 0;
  const comes = shot.poses[index]?.becomes.find((b) => b.next === layer);
  const went = shot.poses[index - 1]?.becomes.find((b) => b.layer === layer);
  const partner = comes
    ? shot.poses[index]!.layers.find((a) => a.layer === comes.layer)
    : went && shot.poses[index]!.layers.find((a) => a.layer === went.next);
  // The size of another picture says nothing about this one's.
  if (partner && name !== 'scale') return partner[name];
  for (let away = 1; away < shot.poses.length; away++) {
    const near = find(index + away) ?? find(index - away);
    if (near) return near[name];
  }
  throw new Error('a layer of no pose was asked for');
}

/** How a layer looks in a pose; one stored before there was such a look has that of the pose next to it. */
function lookIn(shot: Shot, layer: Layer, index: number, path: PropertyPath): PropertyValue {
  const find = (k: number): PropertyValue | undefined =>
    shot.poses[k]?.layers.find((a) => a.layer === layer.id)?.look[path] as PropertyValue | undefined;
  for (let away = 0; away < shot.poses.length; away++) {
    const near = find(index + away) ?? find(index - away);
    if (near !== undefined) return near;
  }
  return valueAt(propertyOf(layer, path), shot.poses[index]!.frame);
}
