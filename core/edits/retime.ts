import type { Property, PropertyValue } from '../motion/property.ts';
import { finishKind } from '../finish/finishes.ts';
import { propKind } from '../props/props.ts';
import { propertyAt, propertyPaths } from '../document/properties.ts';
import type { Layer } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { timesSettings } from './times-settings.ts';

/** Brings everything in a shot that is counted in frames to another frame rate; its length is not its matter. */
export function retime(shot: Shot, ratio: number): void {
  const moved = (frame: number): number => Math.round(frame * ratio);
  for (const layer of shot.layers) {
    for (const path of propertyPaths(layer)) retimeProperty(propertyAt(layer, path)!, ratio);
    for (const { kind, settings } of layer.finishes)
      timesSettings(finishKind(kind)?.settings, settings, 'frames', ratio);
    for (const sway of layer.sways) sway.period = Math.max(2, sway.period * ratio);
    if (layer.repeat) layer.repeat.delay = Math.max(-1000, Math.min(1000, layer.repeat.delay * ratio));
    const made = layer.source.kind === 'prop' ? layer.source.made : null;
    if (made) timesSettings(propKind(made.prop)?.settings, made.settings, 'frames', ratio);
    retimeWords(layer, (frames) => Math.max(1, moved(frames)));
    const { bar } = layer.timing;
    if (bar) {
      const first = moved(bar.first);
      layer.timing.bar = { first, end: Math.max(first + 1, moved(bar.end)) };
    }
  }
  retimeProperty(shot.camera.focus, ratio);
  if (shot.camera.shake) shot.camera.shake.period = Math.max(1, shot.camera.shake.period * ratio);
  for (const pose of shot.poses) [pose.frame, pose.hold] = [moved(pose.frame), moved(pose.hold)];
  for (const marker of shot.markers) marker.frame = moved(marker.frame);
  if (shot.workArea) {
    const first = moved(shot.workArea.first);
    shot.workArea = { first, end: Math.max(first + 1, moved(shot.workArea.end)) };
  }
  shot.transition.frames = Math.min(600, moved(shot.transition.frames));
}

function retimeWords({ arrive, leave, pen, source }: Layer, lasting: (frames: number) => number): void {
  if (arrive) arrive.length = lasting(arrive.length);
  if (leave) leave.length = lasting(leave.length);
  if (pen?.approach) pen.approach = lasting(pen.approach);
  const changes = source.kind === 'text' ? source.changes : null;
  if (changes?.kind === 'words') for (const word of changes.list) word.frames = lasting(word.frames);
  if (changes?.kind === 'number') {
    changes.begin = changes.begin && lasting(changes.begin);
    changes.length = lasting(changes.length);
  }
}

function retimeProperty<T extends PropertyValue>(property: Property<T>, ratio: number): void {
  if ('keys' in property) {
    // Two keys that fall on one frame at a lower rate would break the order: the later one gives way.
    const seen = new Set<number>();
    const keys = property.keys.map((key) => ({ ...key, frame: Math.round(key.frame * ratio) }));
    property.keys = keys.filter((key) => !seen.has(key.frame) && seen.add(key.frame));
  }
  const { drift, jitter, bob, follow } = property;
  if (drift !== undefined)
    property.drift = (typeof drift === 'number' ? drift / ratio : drift.map((v) => v / ratio)) as T;
  if (jitter) jitter.period = Math.max(1, jitter.period * ratio);
  if (bob) bob.period = Math.max(1, bob.period * ratio);
  if (follow) follow.delay *= ratio;
}
