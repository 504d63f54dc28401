import { mapped, valueAt } from '../motion/property.ts';
import type { Layer } from '../document/layer.ts';
import { propertyAt, type PropertyPath, type ValueAt } from '../document/properties.ts';
import type { Shot } from '../document/shot.ts';

/** Things that follow one another in a ring stop after this many. */
const mostSteps = 12;

/** The frame whose values a layer shows: everything of it may be held for some frames. */
export const heldFrame = (layer: Layer, frame: number): number =>
  layer.timing.steps > 1 ? Math.floor(frame / layer.timing.steps) * layer.timing.steps : frame;

/** The value of a layer's property at a frame, with what it follows. */
export function layerValue<P extends PropertyPath>(
  shot: Shot,
  layer: Layer,
  property: P,
  frame: number,
  steps = 0,
): ValueAt<P> {
  const own = propertyAt(layer, property)!;
  const held = heldFrame(layer, frame);
  const value = valueAt(own, held);
  const { follow } = own;
  const other = follow && steps < mostSteps ? shot.layers.find((l) => l.id === follow.layer) : undefined;
  if (!follow || !other) return value as ValueAt<P>;
  const theirs = (at: number): number => {
    const name = follow.of === 'x' || follow.of === 'y' ? 'position' : follow.of;
    const found = layerValue(shot, other, name, at, steps + 1);
    return typeof found === 'number' ? found : found[follow.of === 'y' ? 1 : 0]!;
  };
  const change = follow.factor * (theirs(Math.max(0, held - follow.delay)) - theirs(0));
  const component = follow.of === 'y' ? 1 : 0;
  return mapped(value, (v, k) => (typeof value === 'number' || k === component ? v + change : v)) as ValueAt<P>;
}
