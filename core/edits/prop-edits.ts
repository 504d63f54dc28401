import type { Document } from '../document/document.ts';
import { plainLayer, type Layer, type LayerSource } from '../document/layer.ts';
import { withEveryValue } from '../motion/keys.ts';
import { propKind } from '../props/props.ts';
import { storedFrom, type StoredSettings } from '../settings/setting.ts';
import { freeName } from './lift-edit.ts';
import { defineEdit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';

export type PropSource = Extract<LayerSource, { kind: 'prop' }>;

/** How much larger than the frame a new prop is, so that a camera finds no end of it. */
const room = 1.3;

/** A new prop that fills the frame, set as it starts but for `values`. */
export const addProp = defineEdit(
  'New prop',
  (
    draft: Document,
    shotId: string,
    prop: string,
    place: { id: string; depth: number },
    values?: Record<string, unknown>,
  ) => {
    const kind = propKind(prop);
    if (!kind) return;
    const [width, height] = [draft.frame.width, draft.frame.height].map((side) => Math.round(side * room)) as [
      number,
      number,
    ];
    const source: PropSource = {
      kind: 'prop',
      made: { prop, settings: storedFrom(kind.settings, values) },
      width,
      height,
      loops: true,
      near: 0.5,
      far: 2,
    };
    const layer: Layer = {
      ...plainLayer,
      id: place.id,
      name: freeName(draft, kind.name),
      source,
      depth: { value: place.depth },
      pivot: { value: [width / 2, height / 2] },
      position: { value: [0, 0] },
      blend: kind.blend,
    };
    shotIn(draft, shotId).layers.unshift(layer);
  },
);

/** Changes what a prop layer shows; its settings are those it had where they are not named. */
export const changeProp = defineEdit(
  'Change prop',
  (
    draft: Document,
    shot: string,
    layer: string,
    change: Partial<Pick<PropSource, 'width' | 'height' | 'loops' | 'near' | 'far'>>,
    settings?: StoredSettings,
  ) => {
    const found = layerIn(draft, shot, layer);
    const { source } = found;
    if (source.kind !== 'prop') return;
    const { width, height } = source;
    Object.assign(source, change);
    // What it is turned about stays at its share of the box, so that a larger one grows to all sides.
    found.pivot = withEveryValue<[number, number]>(found.pivot, ([x, y]) => [
      (x / width) * source.width,
      (y / height) * source.height,
    ]);
    Object.assign(source.made.settings, settings);
  },
);
