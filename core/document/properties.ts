import { finishKind } from '../finish/finishes.ts';
import type { Property, PropertyValue } from '../motion/property.ts';
import { isKeyed, type Setting } from '../settings/setting.ts';
import { animated, type Animated, type AnimatedValue, type Layer } from './layer.ts';

export type AnyProperty = Property<PropertyValue>;

/** Names a property of a layer: one of its own, or `finishes/<id of the finish>/<setting>`. */
export type PropertyPath = string;

/** What the property a path names holds. */
export type ValueAt<P extends PropertyPath> = P extends Animated ? AnimatedValue<P> : PropertyValue;

const ownNames: Record<Animated, string> = {
  position: 'Position',
  depth: 'Depth',
  scale: 'Scale',
  rotation: 'Rotation',
  pivot: 'Pivot',
  opacity: 'Opacity',
  blur: 'Blur',
  corners: 'Corners',
  colour: 'Colour',
  points: 'Points',
};

export const finishPath = (finish: string, setting: string): PropertyPath => `finishes/${finish}/${setting}`;

export const isOwn = (path: PropertyPath): path is Animated => path in ownNames;

/** The paths of everything about a layer that can have keys, its own first. */
export function propertyPaths(layer: Layer): PropertyPath[] {
  const own = animated.filter((name) => layer[name] !== null);
  const finishes = layer.finishes.flatMap((finish) =>
    Object.entries(finishKind(finish.kind)?.settings ?? {})
      .filter(([, setting]) => isKeyed(setting))
      .map(([key]) => finishPath(finish.id, key)),
  );
  return [...own, ...finishes];
}

/** The property a path names; null where the layer has none. */
export function propertyAt(layer: Layer, path: PropertyPath): AnyProperty | null {
  if (isOwn(path)) return layer[path] as AnyProperty | null;
  const [, finish, key] = path.split('/');
  return (layer.finishes.find((f) => f.id === finish)?.settings[key!] as AnyProperty | undefined) ?? null;
}

/** Puts a property in the place a path names; for drafts of edits. Nothing happens where that place is gone. */
export function putProperty(layer: Layer, path: PropertyPath, property: AnyProperty): void {
  if (isOwn(path)) (layer as unknown as Record<Animated, AnyProperty>)[path] = property;
  else {
    const [, finish, key] = path.split('/');
    const found = layer.finishes.find((f) => f.id === finish);
    if (found) found.settings[key!] = property;
  }
}

/** Changes every property of a layer; for drafts of edits. */
export function changeProperties(layer: Layer, change: (property: AnyProperty) => AnyProperty): void {
  for (const path of propertyPaths(layer)) putProperty(layer, path, change(propertyAt(layer, path)!));
}

/** What a finish's setting is; null for the layer's own properties. */
export function settingAt(layer: Layer, path: PropertyPath): Setting | null {
  const [, finish, key] = path.split('/');
  const found = layer.finishes.find((f) => f.id === finish);
  return (found && finishKind(found.kind)?.settings[key!]) ?? null;
}

/** How a property is called in the interface. */
export function propertyName(layer: Layer, path: PropertyPath): string {
  if (isOwn(path)) return ownNames[path];
  const [, finish] = path.split('/');
  const found = layer.finishes.find((f) => f.id === finish);
  const kind = found && finishKind(found.kind);
  return kind ? `${kind.name}: ${settingAt(layer, path)?.name ?? ''}` : 'Finish';
}
