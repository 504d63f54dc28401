import type { Document } from '../document/document.ts';
import type { Layer, Repeat } from '../document/layer.ts';
import { withEveryValue } from '../motion/keys.ts';
import { valueAt } from '../motion/property.ts';
import { restMatrix } from '../scene/place.ts';
import { finishKind } from '../finish/finishes.ts';
import { copiesOf } from '../scene/repeat.ts';
import { lineOfRepeat } from '../scene/repeat-line.ts';
import { storedFrom } from '../settings/setting.ts';
import { defineEdit } from './edit.ts';
import { freeFinishId } from './finish-edits.ts';
import { shiftLayers } from './key-edits.ts';
import { freeId, layerIn, shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';

/** More copies than this do not become layers of their own. */
export const mostApart = 200;

/** A row of five, each as far from the next as the layer is wide. @param width of the layer in frame pixels */
export const newRepeat = (width: number): Repeat => ({
  form: 'row',
  count: 5,
  rows: 3,
  step: [Math.round(Math.max(10, width * 1.1)), Math.round(Math.max(10, width * 1.1))],
  radius: Math.round(Math.max(20, width * 1.5)),
  upright: false,
  path: null,
  hue: 0,
  turn: 0,
  scale: 1,
  opacity: 1,
  delay: 0,
  mirrored: false,
});

export const setRepeat = defineEdit(
  'Change repeat',
  (draft: Document, shot: string, layer: string, repeat: Repeat | null) => {
    layerIn(draft, shot, layer).repeat = repeat;
  },
);

/** Every copy of a repeated layer becomes a layer of its own, where and when it is; too many stay a repeat. */
export const takeRepeatApart = defineEdit('Take apart', (draft: Document, shotId: string, layerId: string) => {
  const shot = shotIn(draft, shotId);
  const layer = layerIn(draft, shotId, layerId);
  if (!layer.repeat) return;
  const [a, b, c, d] = restMatrix(draft, shot, layer, 0);
  const size = Math.sqrt(Math.abs(a * d - b * c)) || 1;
  const copies = copiesOf(layer.repeat, size, lineOfRepeat(draft, shot, layer, 0));
  const { hue } = layer.repeat;
  if (copies.length > mostApart) return;
  layer.repeat = null;
  const scale = valueAt<number>(layer.scale, 0);
  const angle = (valueAt<number>(layer.rotation, 0) * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
  const parts = copies.map(({ matrix: [p, q, r, s, x, y], opacity }, k): Layer => {
    const part = JSON.parse(JSON.stringify(layer)) as Layer;
    const mirrored = p * s - q * r < 0;
    const grown = Math.sqrt(Math.abs(p * s - q * r));
    const turn = (Math.atan2(mirrored ? -q : q, mirrored ? -p : p) * 180) / Math.PI;
    part.position = withEveryValue<[number, number]>(part.position, ([u, v]) => [
      u + x * cos - y * sin,
      v + x * sin + y * cos,
    ]);
    part.rotation = withEveryValue<number>(part.rotation, (v) => v + turn);
    part.scale = withEveryValue<number>(part.scale, (v) => v * grown);
    part.opacity = withEveryValue<number>(part.opacity, (v) => v * opacity);
    if (mirrored) part.flip.sideways = !part.flip.sideways;
    if (hue !== 0 && k > 0) turnHue(part, hue * k);
    if (k > 0) part.id = freeId(draft, layerId, `r${k}`);
    return part;
  });
  const at = shot.layers.indexOf(layer);
  shot.layers.splice(at, 1);
  parts.forEach((part, k) => shot.layers.splice(at + k, 0, { ...part, name: freeName(draft, part.name) }));
  copies.forEach(({ delay }, k) => {
    if (delay === 0) return;
    const moved = shiftLayers(shotId, [parts[k]!.id], Math.round(delay)).apply(
      JSON.parse(JSON.stringify(draft)) as Document,
    );
    Object.assign(layerIn(draft, shotId, parts[k]!.id), layerIn(moved, shotId, parts[k]!.id));
  });
});

/** A copy whose hue is turned keeps that as a finish of its own. */
function turnHue(layer: Layer, degrees: number): void {
  const id = freeFinishId(layer, 'hue');
  const settings = storedFrom(finishKind('hue-saturation')!.settings, { hue: degrees });
  layer.finishes.push({ id, kind: 'hue-saturation', muted: false, settings });
}
