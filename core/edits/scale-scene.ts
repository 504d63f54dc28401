import { arrivalKind } from '../arrive/arrivals.ts';
import type { Layer } from '../document/layer.ts';
import { isOwn, propertyAt, propertyPaths, putProperty, settingAt, type AnyProperty } from '../document/properties.ts';
import type { Arrangement, Framing, Shot } from '../document/shot.ts';
import type { Property, PropertyValue } from '../motion/property.ts';
import { defineEdit } from './edit.ts';
import { timesSettings } from './times-settings.ts';

/**
 * Makes everything that hangs larger or smaller about the middle of the frame, with its moves, its looks and the lens: what is
 * seen is the same picture at another size. What is measured in the pixels of a layer's own source goes along by itself.
 */
export const scaleScene = defineEdit('Scale the scene', (draft, by: number) => {
  for (const shot of draft.shots) {
    for (const layer of shot.layers) scaleLayer(shot, layer, by);
    for (const framing of [shot.camera.first, shot.camera.last]) scaleFraming(framing, by);
    if (shot.camera.shake) shot.camera.shake.amount *= by;
    shot.camera.aperture *= by;
    for (const pose of shot.poses) for (const stored of pose.layers) scaleArrangement(shot, stored, by);
    const { width, height } = draft.frame;
    const about = (middle: number) => (at: number) => middle + (at - middle) * by;
    shot.guides = { x: shot.guides.x.map(about(width / 2)), y: shot.guides.y.map(about(height / 2)) };
  }
});

function scaleFraming(framing: Framing, by: number): void {
  framing.x *= by;
  framing.y *= by;
}

/** Whether a layer lies in frame pixels; one in a group lies in those of the group, which grows as a whole. */
const inFrame = ({ group }: Layer): boolean => group === null;

function scaleLayer(shot: Shot, layer: Layer, by: number): void {
  for (const path of propertyPaths(layer)) {
    if (!inFramePixels(layer, path)) continue;
    putProperty(layer, path, scaledProperty(shot, propertyAt(layer, path)!, by));
  }
  const owner = layer.fastened && shot.layers.find(({ id }) => id === layer.fastened!.to);
  if (layer.fastened && owner && inFrame(owner)) {
    const { place } = layer.fastened;
    layer.fastened.place = [place[0] * by, place[1] * by];
    layer.fastened.scale *= by;
  }
  if (layer.repeat) {
    const { step } = layer.repeat;
    layer.repeat.step = [step[0] * by, step[1] * by];
    layer.repeat.radius *= by;
  }
  if (layer.pen) layer.pen.lift *= by;
  for (const arrival of [layer.arrive, layer.leave])
    if (arrival) timesSettings(arrivalKind(arrival.kind)?.settings, arrival.settings, 'px', by);
}

/** Whether a property counts frame pixels, or how many of them a pixel of the layer takes. */
function inFramePixels(layer: Layer, path: string): boolean {
  if (path === 'position' || path === 'scale') return inFrame(layer);
  if (path === 'blur') return true;
  const setting = isOwn(path) || !path.startsWith('finishes/') ? null : settingAt(layer, path);
  return setting?.kind === 'number' && setting.unit === 'px';
}

const times = <T extends PropertyValue>(value: T, by: number): T =>
  (typeof value === 'number' ? value * by : value.map((v) => v * by)) as T;

/** A property all values of which, and all ways between them, are so many times as large. */
function scaledProperty(shot: Shot, property: AnyProperty, by: number): AnyProperty {
  const out = JSON.parse(JSON.stringify(property)) as Property<PropertyValue>;
  if ('value' in out) out.value = times(out.value, by);
  else
    out.keys = out.keys.map((key) => ({
      ...key,
      value: times(key.value, by),
      ...(key.in ? { in: times(key.in, by) } : {}),
      ...(key.out ? { out: times(key.out, by) } : {}),
    }));
  if (out.drift !== undefined) out.drift = times(out.drift, by);
  if (out.jitter) out.jitter.amount *= by;
  if (out.bob) out.bob.amount = times(out.bob.amount, by);
  // What is followed may grow itself.
  if (out.follow) out.follow.factor *= growsWithFrame(shot, out.follow) ? 1 : by;
  return out;
}

function growsWithFrame(shot: Shot, { layer, of }: NonNullable<AnyProperty['follow']>): boolean {
  const other = shot.layers.find(({ id }) => id === layer);
  return of === 'blur' || (['x', 'y', 'scale'].includes(of) && !!other && inFrame(other));
}

function scaleArrangement(shot: Shot, stored: Arrangement, by: number): void {
  const layer = shot.layers.find(({ id }) => id === stored.layer);
  if (!layer) return;
  if (inFrame(layer)) {
    stored.position = times(stored.position, by);
    stored.scale *= by;
  }
  for (const [path, value] of Object.entries(stored.look))
    if (inFramePixels(layer, path)) stored.look[path] = times(value, by);
}
