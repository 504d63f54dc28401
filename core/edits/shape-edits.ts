import type { Document } from '../document/document.ts';
import { plainLayer, type Layer } from '../document/layer.ts';
import { numbersOfPath, outlinesOfShape, type ShapeSource } from '../document/points.ts';
import { withEveryValue } from '../motion/keys.ts';
import { storedFrom, type StoredSettings } from '../settings/setting.ts';
import { shapeKind } from '../shapes/shape-kinds.ts';
import { defineEdit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';

interface NewShape {
  id: string;
  depth: number;
  width: number;
  colour?: number[];
}

/** A new shape in the middle of the frame, set as it starts but for `values`. */
export const addShape = defineEdit(
  'New shape',
  (draft: Document, shotId: string, shape: string, place: NewShape, values?: Record<string, unknown>) => {
    const kind = shapeKind(shape);
    if (!kind) return;
    const [width, height] = [place.width, Math.max(1, Math.round(place.width * kind.proportion))];
    const made = { shape, settings: storedFrom(kind.settings, values), width, height };
    const layer: Layer = {
      ...plainLayer,
      id: place.id,
      name: freeName(draft, kind.name),
      source: { kind: 'shape', made, closed: true, filled: true, gradient: null, stroke: null },
      depth: { value: place.depth },
      pivot: { value: [width / 2, height / 2] },
      position: { value: [0, 0] },
      colour: { value: place.colour ?? [217, 154, 0, 1] },
    };
    shotIn(draft, shotId).layers.unshift(layer);
  },
);

/** Changes the size of a shape that is made from numbers, or those of its settings that are not keyed. */
export const changeShape = defineEdit(
  'Change shape',
  (
    draft: Document,
    shot: string,
    layer: string,
    change: { width?: number; height?: number },
    settings?: StoredSettings,
  ) => {
    const found = layerIn(draft, shot, layer);
    const made = found.source.kind === 'shape' ? found.source.made : null;
    if (!made) return;
    const { width, height } = made;
    Object.assign(made, change);
    // What it is turned about stays at its share of the box, so that a larger one grows to all sides.
    found.pivot = withEveryValue<[number, number]>(found.pivot, ([x, y]) => [
      (x / width) * made.width,
      (y / height) * made.height,
    ]);
    Object.assign(made.settings, settings);
  },
);

/** A shape made from numbers becomes one of points, as it stands at a frame; of several outlines the first stays. */
export const shapeToPoints = defineEdit(
  'Turn into points',
  (draft: Document, shot: string, layer: string, frame: number) => {
    const found = layerIn(draft, shot, layer);
    const source = found.source as ShapeSource;
    if (source.kind !== 'shape' || !source.made) return;
    const [path] = outlinesOfShape(found, source, frame);
    if (!path) return;
    found.points = { value: numbersOfPath(path) };
    found.source = { ...source, made: null };
  },
);
