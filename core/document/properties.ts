import { finishKind } from '../finish/finishes.ts';
import type { Property, PropertyValue } from '../motion/property.ts';
import { propKind } from '../props/props.ts';
import { isKeyed, type Setting, type Settings, type StoredSettings } from '../settings/setting.ts';
import { shapeKind } from '../shapes/shape-kinds.ts';
import { layerSettings } from './layer-settings.ts';
import { animated, type Animated, type AnimatedValue, type Layer } from './layer.ts';

export type AnyProperty = Property<PropertyValue>;

/**
 * Names a property of a layer: one of its own, `finishes/<id of the finish>/<setting>`, or `prop/<setting>` or
 * `shape/<setting>` of what it shows.
 */
export type PropertyPath = string;

/** What the property a path names holds. */
export type ValueAt<P extends PropertyPath> = P extends Animated ? AnimatedValue<P> : PropertyValue;

export const finishPath = (finish: string, setting: string): PropertyPath => `finishes/${finish}/${setting}`;

export const propPath = (setting: string): PropertyPath => `prop/${setting}`;

export const shapePath = (setting: string): PropertyPath => `shape/${setting}`;

export const isOwn = (path: PropertyPath): path is Animated => path in layerSettings;

/** The paths of everything about a layer that can have keys, its own first. */
export function propertyPaths(layer: Layer): PropertyPath[] {
  const own = animated.filter((name) => layer[name] !== null);
  const finishes = layer.finishes.flatMap((finish) =>
    Object.entries(finishKind(finish.kind)?.settings ?? {})
      .filter(([, setting]) => isKeyed(setting))
      .map(([key]) => finishPath(finish.id, key)),
  );
  const made = madeOf(layer);
  const settings = Object.keys(made?.settings ?? {}).filter((key) => isKeyed(made!.settings[key]!));
  return [...own, ...settings.map((key) => `${made!.list}/${key}`), ...finishes];
}

/** What can be set about the prop or the shape a layer shows, and how it is; null where it shows none. */
function madeOf({ source }: Layer): { list: 'prop' | 'shape'; settings: Settings; stored: StoredSettings } | null {
  if ((source.kind !== 'prop' && source.kind !== 'shape') || !source.made) return null;
  const { made } = source;
  const kind = 'prop' in made ? propKind(made.prop) : shapeKind(made.shape);
  return kind ? { list: source.kind, settings: kind.settings, stored: made.settings } : null;
}

const isMade = (list: string | undefined): boolean => list === 'prop' || list === 'shape';

/** The property a path names; null where the layer has none. */
export function propertyAt(layer: Layer, path: PropertyPath): AnyProperty | null {
  if (isOwn(path)) return layer[path] as AnyProperty | null;
  const [list, finish, key] = path.split('/');
  if (isMade(list)) return (madeOf(layer)?.stored[finish!] as AnyProperty | undefined) ?? null;
  return (layer.finishes.find((f) => f.id === finish)?.settings[key!] as AnyProperty | undefined) ?? null;
}

/** Puts a property in the place a path names; for drafts of edits. Nothing happens where that place is gone. */
export function putProperty(layer: Layer, path: PropertyPath, property: AnyProperty): void {
  if (isOwn(path)) (layer as unknown as Record<Animated, AnyProperty>)[path] = property;
  else {
    const [list, finish, key] = path.split('/');
    const made = isMade(list) ? madeOf(layer) : null;
    if (made) made.stored[finish!] = property;
    const found = layer.finishes.find((f) => f.id === finish);
    if (found) found.settings[key!] = property;
  }
}

/** Changes every property of a layer; for drafts of edits. */
export function changeProperties(layer: Layer, change: (property: AnyProperty) => AnyProperty): void {
  for (const path of propertyPaths(layer)) putProperty(layer, path, change(propertyAt(layer, path)!));
}

/** What a path names can be set to; null where the layer has no such thing. */
export function settingAt(layer: Layer, path: PropertyPath): Setting | null {
  if (isOwn(path)) return layerSettings[path];
  const [list, finish, key] = path.split('/');
  if (isMade(list)) return madeOf(layer)?.settings[finish!] ?? null;
  const found = layer.finishes.find((f) => f.id === finish);
  return (found && finishKind(found.kind)?.settings[key!]) ?? null;
}

/** How a property is called in the interface. */
export function propertyName(layer: Layer, path: PropertyPath): string {
  if (isOwn(path)) return layerSettings[path].name;
  const [list, finish] = path.split('/');
  if (isMade(list)) return settingAt(layer, path)?.name ?? (list === 'prop' ? 'Prop' : 'Shape');
  const found = layer.finishes.find((f) => f.id === finish);
  const kind = found && finishKind(found.kind);
  return kind ? `${kind.name}: ${settingAt(layer, path)?.name ?? ''}` : 'Finish';
}
