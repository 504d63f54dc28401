import { finishKind } from '../finish/finishes.ts';
import type { Property, PropertyValue } from '../motion/property.ts';
import type { PropKind } from '../props/prop.ts';
import { propKind } from '../props/props.ts';
import { isKeyed, type Setting, type StoredSettings } from '../settings/setting.ts';
import { animated, type Animated, type AnimatedValue, type Layer } from './layer.ts';

export type AnyProperty = Property<PropertyValue>;

/**
 * Names a property of a layer: one of its own, `finishes/<id of the finish>/<setting>`, or `prop/<setting>` of what it
 * shows.
 */
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

export const propPath = (setting: string): PropertyPath => `prop/${setting}`;

export const isOwn = (path: PropertyPath): path is Animated => path in ownNames;

/** The paths of everything about a layer that can have keys, its own first. */
export function propertyPaths(layer: Layer): PropertyPath[] {
  const own = animated.filter((name) => layer[name] !== null);
  const finishes = layer.finishes.flatMap((finish) =>
    Object.entries(finishKind(finish.kind)?.settings ?? {})
      .filter(([, setting]) => isKeyed(setting))
      .map(([key]) => finishPath(finish.id, key)),
  );
  const made = settingsOfProp(layer);
  const prop = Object.keys(made?.settings ?? {}).filter((key) => isKeyed(made!.kind.settings[key]!));
  return [...own, ...prop.map(propPath), ...finishes];
}

/** What kind of prop a layer shows and how it is set; null where it shows none. */
function settingsOfProp({ source }: Layer): { kind: PropKind; settings: StoredSettings } | null {
  if (source.kind !== 'prop') return null;
  const kind = propKind(source.made.prop);
  return kind ? { kind, settings: source.made.settings } : null;
}

/** The property a path names; null where the layer has none. */
export function propertyAt(layer: Layer, path: PropertyPath): AnyProperty | null {
  if (isOwn(path)) return layer[path] as AnyProperty | null;
  const [list, finish, key] = path.split('/');
  if (list === 'prop') return (settingsOfProp(layer)?.settings[finish!] as AnyProperty | undefined) ?? null;
  return (layer.finishes.find((f) => f.id === finish)?.settings[key!] as AnyProperty | undefined) ?? null;
}

/** Puts a property in the place a path names; for drafts of edits. Nothing happens where that place is gone. */
export function putProperty(layer: Layer, path: PropertyPath, property: AnyProperty): void {
  if (isOwn(path)) (layer as unknown as Record<Animated, AnyProperty>)[path] = property;
  else {
    const [list, finish, key] = path.split('/');
    const made = list === 'prop' ? settingsOfProp(layer) : null;
    if (made) made.settings[finish!] = property;
    const found = layer.finishes.find((f) => f.id === finish);
    if (found) found.settings[key!] = property;
  }
}

/** Changes every property of a layer; for drafts of edits. */
export function changeProperties(layer: Layer, change: (property: AnyProperty) => AnyProperty): void {
  for (const path of propertyPaths(layer)) putProperty(layer, path, change(propertyAt(layer, path)!));
}

/** What the setting of a finish or a prop is; null for the layer's own properties. */
export function settingAt(layer: Layer, path: PropertyPath): Setting | null {
  const [list, finish, key] = path.split('/');
  if (list === 'prop') return settingsOfProp(layer)?.kind.settings[finish!] ?? null;
  const found = layer.finishes.find((f) => f.id === finish);
  return (found && finishKind(found.kind)?.settings[key!]) ?? null;
}

/** How a property is called in the interface. */
export function propertyName(layer: Layer, path: PropertyPath): string {
  if (isOwn(path)) return ownNames[path];
  const [list, finish] = path.split('/');
  if (list === 'prop') return settingAt(layer, path)?.name ?? 'Prop';
  const found = layer.finishes.find((f) => f.id === finish);
  const kind = found && finishKind(found.kind);
  return kind ? `${kind.name}: ${settingAt(layer, path)?.name ?? ''}` : 'Finish';
}
