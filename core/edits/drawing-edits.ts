import type { Document } from '../document/document.ts';
import { plainLayer, type Layer, type LayerSource } from '../document/layer.ts';
import { withEveryValue } from '../motion/keys.ts';
import { valueAt, type Point } from '../motion/property.ts';
import { defineEdit } from './edit.ts';
import { freeId, layerIn, shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';

export type DrawingSource = Extract<LayerSource, { kind: 'drawing' }>;
type Box = DrawingSource['box'];

/** How much of the frame a new drawing takes at most. */
const share = 0.6;

/** Hangs a drawing in the middle of the frame, as large as it is, or smaller where that would be too large. */
export const addDrawing = defineEdit(
  'New drawing',
  (draft: Document, shotId: string, place: { id: string; name: string; depth: number }, file: string, box: Box) => {
    const { width, height } = draft.frame;
    const fitted = Math.min((share * width) / box.width, (share * height) / box.height);
    shotIn(draft, shotId).layers.unshift({
      ...plainLayer,
      id: place.id,
      name: freeName(draft, place.name),
      source: { kind: 'drawing', file, part: [], box, recolours: [] },
      depth: { value: place.depth },
      // A small drawing loses nothing by being drawn larger.
      scale: { value: Number(fitted.toPrecision(4)) },
      pivot: { value: middleOf(box) },
      position: { value: [0, 0] },
    });
  },
);

const middleOf = ({ x, y, width, height }: Box): Point => [x + width / 2, y + height / 2];

/** Lets a colour of a drawing become another, or be itself again. */
export const recolourDrawing = defineEdit(
  'Recolour',
  (draft: Document, shot: string, layer: string, from: readonly number[], to: readonly number[] | null) => {
    const { source } = layerIn(draft, shot, layer);
    if (source.kind !== 'drawing') return;
    const others = source.recolours.filter((one) => one.from.some((v, k) => v !== from[k]));
    const colour = [from[0], from[1], from[2]] as [number, number, number];
    source.recolours = to ? [...others, { from: colour, to: [...to] as [number, number, number, number] }] : others;
  },
);

/** A part of a drawing that becomes a layer. */
export interface ApartPart {
  part: number[];
  name: string;
  box: Box;
}

/** Parts of a drawing become layers that lie exactly where they lay, each turning about its own middle. */
export const takeDrawingApart = defineEdit(
  'Take apart',
  (draft: Document, shotId: string, layerId: string, parts: readonly ApartPart[]) => {
    const shot = shotIn(draft, shotId);
    const layer = layerIn(draft, shotId, layerId);
    if (layer.source.kind !== 'drawing' || parts.length < 2) return;
    const at = shot.layers.indexOf(layer);
    const made = parts.map(({ part, name, box }, k): Layer => {
      const own = JSON.parse(JSON.stringify(layer)) as Layer;
      own.source = { ...(own.source as DrawingSource), part: [...part], box };
      if (k > 0) own.id = freeId(draft, layerId, `d${k}`);
      own.sways = [];
      turnAbout(own, middleOf(box));
      return { ...own, name: name || `${layer.name} ${k + 1}` };
    });
    shot.layers.splice(at, 1);
    // What the file paints last lies in front.
    made.forEach((part) => shot.layers.splice(at, 0, { ...part, name: freeName(draft, part.name) }));
  },
);

/** Another point to turn about; nothing moves. Where size or turn are keyed the point stays that of the whole. */
function turnAbout(layer: Layer, to: Point): void {
  if ('keys' in layer.scale || 'keys' in layer.rotation || 'keys' in layer.pivot) return;
  const from = valueAt(layer.pivot, 0);
  const scale = valueAt(layer.scale, 0);
  const angle = (valueAt(layer.rotation, 0) * Math.PI) / 180;
  const [fx, fy] = [layer.flip.sideways ? -1 : 1, layer.flip.upright ? -1 : 1];
  const [u, v] = [(to[0] - from[0]) * scale * fx, (to[1] - from[1]) * scale * fy];
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  layer.pivot = { value: to };
  layer.position = withEveryValue<Point>(layer.position, ([x, y]) => [x + u * cos - v * sin, y + u * sin + v * cos]);
}
