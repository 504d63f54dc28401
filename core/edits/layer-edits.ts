import { withEveryValue, withKey, withoutKey, withValueAt } from '../motion/keys.ts';
import { mapped, valueAt, type Property, type PropertyValue } from '../motion/property.ts';
import type { BlendMode } from '../document/blend.ts';
import type { Document } from '../document/document.ts';
import { defineEdit, find, type Edit } from './edit.ts';
import { layerSettings } from '../document/layer-settings.ts';
import type { Fastening, Layer } from '../document/layer.ts';
import { propertyAt, putProperty, type AnyProperty, type PropertyPath, type ValueAt } from '../document/properties.ts';
import { standingOf } from '../scene/place.ts';
import { spansAfter } from '../text/spans.ts';
import { dropLayers } from './project-edits.ts';
import type { Shot } from '../document/shot.ts';

export function shotIn(document: Document, shotId: string): Shot {
  return find(document.shots, 'shot', shotId);
}

export function layerIn(document: Document, shotId: string, layerId: string): Layer {
  return find(shotIn(document, shotId).layers, 'layer', layerId);
}

/** Changes settings of a layer that have no keys; `name` is what the user did. */
export function setLayer(name: string, shot: string, layer: string, change: Partial<Layer>): Edit {
  return defineEdit(name, (draft: Document) => {
    Object.assign(layerIn(draft, shot, layer), change);
  })();
}

type Text = Extract<Layer['source'], { kind: 'text' }>;

/**
 * Changes how a text layer is set, whatever else of it changed meanwhile; `measure` gives the room the words then take,
 * or nothing while their face is not there. The side the words are aligned by stays where it is, and so does their top, or
 * their middle when they get larger or smaller.
 */
export function changeText(
  shot: string,
  layer: string,
  part: Partial<Omit<Text, 'kind' | 'box'>>,
  measure: (setting: Text) => Text['box'] | undefined,
): Edit {
  return defineEdit('Change text', (draft: Document) => {
    const found = layerIn(draft, shot, layer);
    const { source } = found;
    if (source.kind !== 'text') return;
    const before = { ...source.box, size: source.size };
    // A layer that still has the name of its words gets that of its new ones.
    const named = found.name === nameOfWords(source.text);
    if (part.text !== undefined && !part.spans) source.spans = spansAfter(source.spans, source.text, part.text);
    Object.assign(source, part);
    source.box = measure(source) ?? source.box;
    if (named) found.name = nameOfWords(source.text);
    keepAnchor(found, source, before);
  })();
}

/** An id for something made out of another thing, such as a part of a layer, that nothing in the document has. */
export function freeId(document: Document, of: string, part: string): string {
  const taken = new Set(
    document.shots.flatMap((shot) => shot.layers.flatMap((l) => [l.id, ...l.sways.map((sway) => sway.id)])),
  );
  const wanted = `${of.slice(0, 28)}-${part}`;
  for (let n = 1; ; n++) {
    const id = n === 1 ? wanted : `${wanted}-${n}`;
    if (!taken.has(id)) return id;
  }
}

/** How a layer of words is called: by their beginning. */
export const nameOfWords = (text: string): string => text.trim().replace(/\s+/g, ' ').slice(0, 40) || 'Text';

/** Moves a text layer whose room changed so that what it is aligned by stays where it was. */
function keepAnchor(layer: Layer, { align, box, size }: Text, before: Text['box'] & { size: number }): void {
  const share = { left: 0, justified: 0, centre: 0.5, right: 1 }[align];
  const down = size === before.size ? 0 : 0.5;
  const [fx, fy] = [layer.flip.sideways ? -1 : 1, layer.flip.upright ? -1 : 1];
  const pivot = valueAt(layer.pivot, 0);
  const [u, v] = [pivot[0] / before.width, pivot[1] / before.height];
  const scale = valueAt(layer.scale, 0);
  const angle = (valueAt(layer.rotation, 0) * Math.PI) / 180;
  const dx = (u - share) * (box.width - before.width) * scale * fx;
  const dy = (v - down) * (box.height - before.height) * scale * fy;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  layer.pivot = withEveryValue<[number, number]>(layer.pivot, ([x, y]) => [
    (x / before.width) * box.width,
    (y / before.height) * box.height,
  ]);
  layer.position = withEveryValue<[number, number]>(layer.position, ([x, y]) => [
    x + dx * cos - dy * sin,
    y + dx * sin + dy * cos,
  ]);
}

/** A layer is there from a frame on, or up to, but not with, a frame; at least for one, and never by another's timing. */
export const trimBar = defineEdit(
  'Trim layer',
  (draft, shotId: string, layerId: string, side: 'first' | 'end', to: number) => {
    const { timing } = layerIn(draft, shotId, layerId);
    if (timing.like !== null) return;
    const { first, end } = timing.bar ?? { first: 0, end: shotIn(draft, shotId).length };
    timing.bar = side === 'first' ? { first: Math.min(to, end - 1), end } : { first, end: Math.max(first + 1, to) };
  },
);

export const renameLayer = defineEdit('Rename layer', (draft, shot: string, layer: string, name: string) => {
  const found = layerIn(draft, shot, layer);
  found.name = name.trim() || found.name;
});

/**
 * Takes a layer to another distance, with what is fastened to it there and what is in it. At rest nothing moves, unless
 * `really`: then it grows smaller as it goes away, as a thing would.
 */
export const setDepth = defineEdit(
  'Change depth',
  (draft, shotId: string, layerId: string, wanted: number, at?: number, really?: boolean) => {
    const frame = at ?? 0;
    const shot = shotIn(draft, shotId);
    const depth = clampDepth(wanted);
    const layer = layerIn(draft, shotId, layerId);
    const before = valueAt<number>(layer.depth, frame);
    const along: Layer[] = [layer, ...belonging(shot, layer, before, frame)];
    for (const one of along) {
      const own = valueAt<number>(one.depth, frame);
      one.depth = withValueAt(one.depth, frame, clampDepth(own * (depth / before)));
    }
    if (!really) return;
    const factor = before / depth;
    layer.scale = timesAll(layer.scale, factor);
    layer.position = timesAll(layer.position, factor);
  },
);

export function clampDepth(depth: number): number {
  const { least, most } = layerSettings.depth;
  return Number(Math.max(least, Math.min(most, depth)).toFixed(3));
}

const timesAll = <T extends PropertyValue>(property: Property<T>, factor: number): Property<T> =>
  withEveryValue(property, (value) => mapped(value, (v) => v * factor));

/** What goes along with a layer in depth: members of a group, and what is fastened to it at its own distance. */
function belonging(shot: Shot, layer: Layer, depth: number, frame: number): Layer[] {
  const found = new Set<Layer>();
  const visit = (one: Layer): void => {
    for (const other of shot.layers) {
      if (found.has(other) || other === layer) continue;
      const near = Math.abs(valueAt(other.depth, frame) - depth) < 1e-6;
      if (other.group === one.id || (other.fastened?.to === one.id && near)) {
        found.add(other);
        visit(other);
      }
    }
  };
  visit(layer);
  return [...found];
}

export const setHidden = defineEdit('Hide or show layer', (draft, shot: string, layer: string, hidden: boolean) => {
  layerIn(draft, shot, layer).hidden = hidden;
});

export const setLocked = defineEdit('Lock or unlock layer', (draft, shot: string, layer: string, locked: boolean) => {
  layerIn(draft, shot, layer).locked = locked;
});

/** Takes layers away, and what is in them. */
export const removeLayers = defineEdit('Delete layer', (draft, shotId: string, layers: string[]) => {
  const shot = shotIn(draft, shotId);
  const gone = new Set(layers.map((layer) => find(shot.layers, 'layer', layer).id));
  for (let size = 0; size !== gone.size;) {
    size = gone.size;
    for (const layer of shot.layers) if (layer.group && gone.has(layer.group)) gone.add(layer.id);
  }
  dropLayers(draft, (l) => gone.has(l.id));
});

export const removeLayer = (shotId: string, layer: string): Edit => removeLayers(shotId, [layer]);

/** Fastens a layer to another as both stand at `frame`; `null` lets it go where it is then. */
export function fastenLayer(shotId: string, layerId: string, to: string | null, frame: number): Edit {
  return defineEdit(to ? 'Fasten layer' : 'Let layer go', (draft: Document) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    if (!to) {
      const { place, rotation, scale } = standingOf(shot, layer, frame, draft);
      layer.fastened = null;
      layer.position = withValueAt(layer.position, frame, place);
      layer.rotation = withValueAt(layer.rotation, frame, rotation);
      layer.scale = withValueAt(layer.scale, frame, scale);
      return;
    }
    const { place, rotation, scale } = standingOf(shot, find(shot.layers, 'layer', to), frame, draft);
    layer.fastened = {
      to,
      place,
      rotation,
      scale: Math.max(1e-6, Math.abs(scale)),
      follow: [1, 1],
      turn: 1,
      grow: 1,
      fade: 0,
      shrink: 0,
      touching: false,
      point: null,
      second: null,
    };
  })();
}

export const setFastening = defineEdit(
  'Change fastening',
  (draft, shot: string, layer: string, change: Partial<Fastening>) => {
    const found = layerIn(draft, shot, layer);
    if (found.fastened) found.fastened = { ...found.fastened, ...change };
  },
);

/** Changes the property a path names; one the layer has none of yet begins as nothing changed. */
export function changeProperty<P extends PropertyPath>(
  name: string,
  shot: string,
  layer: string,
  property: P,
  change: (before: Property<ValueAt<P>>) => Property<ValueAt<P>>,
): Edit {
  return defineEdit(name, (draft: Document) => {
    const found = layerIn(draft, shot, layer);
    const before = propertyAt(found, property) ?? { value: emptyValue(property) };
    putProperty(found, property, change(before as Property<ValueAt<P>>) as AnyProperty);
  })();
}

/** What a property that a layer has none of yet begins as: corners where they are, for instance. */
export const emptyValue = (property: PropertyPath): PropertyValue =>
  property === 'corners' ? [0, 0, 0, 0, 0, 0, 0, 0] : property === 'colour' ? [28, 42, 48, 1] : 0;

const stepNames: Partial<Record<PropertyPath, string>> = {
  position: 'Move layer',
  scale: 'Scale layer',
  rotation: 'Rotate layer',
  opacity: 'Change opacity',
  clipTime: 'Change clip time',
};

/** Sets a property at a frame: its constant, or the key there. */
export function setProperty<P extends PropertyPath>(
  shot: string,
  layer: string,
  property: P,
  frame: number,
  value: ValueAt<P>,
): Edit {
  const name = stepNames[property] ?? `Change ${property.split('/').at(-1)}`;
  return changeProperty(name, shot, layer, property, (before) => withValueAt(before, frame, value));
}

export function addKey<P extends PropertyPath>(
  shot: string,
  layer: string,
  property: P,
  frame: number,
  value: ValueAt<P>,
): Edit {
  return changeProperty('Add keyframe', shot, layer, property, (before) => withKey(before, frame, value));
}

export function removeKey(shot: string, layer: string, property: PropertyPath, frame: number): Edit {
  return changeProperty('Delete keyframe', shot, layer, property, (before) => withoutKey(before, frame));
}

export const setBlend = defineEdit('Change blend mode', (draft, shotId: string, layerId: string, blend: BlendMode) => {
  layerIn(draft, shotId, layerId).blend = blend;
});

/**
 * Moves the pivot to another point of the source while the layer stays where it is at `frame`; keys of the position move
 * by the same way.
 */
export const movePivot = defineEdit(
  'Move pivot',
  (draft, shotId: string, layerId: string, to: [number, number], frame: number) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    const from = valueAt(layer.pivot, frame);
    const scale = valueAt(layer.scale, frame);
    const { rotation } = standingOf(shot, layer, frame, draft);
    const angle = (rotation * Math.PI) / 180;
    const dx = (to[0] - from[0]) * (layer.flip.sideways ? -scale : scale);
    const dy = (to[1] - from[1]) * (layer.flip.upright ? -scale : scale);
    const way: [number, number] = [
      dx * Math.cos(angle) - dy * Math.sin(angle),
      dx * Math.sin(angle) + dy * Math.cos(angle),
    ];
    layer.pivot = withValueAt(layer.pivot, frame, to);
    layer.position = withEveryValue<[number, number]>(layer.position, (p) => [p[0] + way[0], p[1] + way[1]]);
  },
);
