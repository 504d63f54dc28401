import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { namesIn } from '../document/layer-names.ts';
import { changeProperties } from '../document/properties.ts';
import type { Shot } from '../document/shot.ts';
import { settingsOf } from '../scene/warps.ts';
import { withMembers } from './arrange-edits.ts';
import { defineEdit } from './edit.ts';
import { fastenLayer, shotIn } from './layer-edits.ts';

/**
 * Puts copies of layers into another shot, in front of what hangs there, with their keys, looks and times. What ties them to
 * one another goes along; what ties them to layers that stay is let go, each where it lies at a frame.
 */
export const copyToShot = defineEdit(
  'Copy to shot',
  (draft, fromId: string, toId: string, wanted: { of: string; id: string }[], frame: number) => {
    const from = shotIn(draft, fromId);
    const copies = withMembers(from, wanted);
    const ids = new Map(copies.map(({ of, id }) => [of, id]));
    const freed = shotIn(freedOf(draft, from, ids, frame), fromId);
    const sways = new Map(
      freed.layers
        .filter(({ id }) => ids.has(id))
        .flatMap((layer) => layer.sways.map((sway, k) => [sway.id, `${ids.get(layer.id)!}-s${k}`.slice(0, 40)])),
    );
    const made = freed.layers.filter(({ id }) => ids.has(id)).map((layer) => copyOf(freed, layer, ids, sways));
    shotIn(draft, toId).layers.unshift(...made);
  },
);

/** The document with every layer that is going to be copied let go of what stays. */
function freedOf(
  draft: Document,
  { id: shot, layers }: Shot,
  ids: ReadonlyMap<string, string>,
  frame: number,
): Document {
  const start = JSON.parse(JSON.stringify(draft)) as Document;
  return layers
    .filter(({ id, fastened }) => ids.has(id) && fastened && !ids.has(fastened.to))
    .reduce((document, { id }) => fastenLayer(shot, id, null, frame).apply(document), start);
}

function copyOf(shot: Shot, layer: Layer, ids: ReadonlyMap<string, string>, sways: ReadonlyMap<string, string>): Layer {
  const copy = JSON.parse(JSON.stringify(layer)) as Layer;
  copy.id = ids.get(layer.id)!;
  copy.group = (layer.group && ids.get(layer.group)) ?? null;
  for (const { to, put } of namesIn(copy)) put(ids.get(to) ?? null);
  copy.sways = layer.sways.map((sway) => {
    const like = (sway.like && sways.get(sway.like)) ?? null;
    // What it waved like stays behind: it has the settings of that itself from now on.
    const own = sway.like && !like ? settingsOf(shot, sway) : sway;
    return { ...own, id: sways.get(sway.id)!, phase: sway.phase, like };
  });
  changeProperties(copy, (property) => {
    const { follow, ...rest } = property;
    if (!follow) return property;
    const leader = ids.get(follow.layer);
    return leader ? { ...rest, follow: { ...follow, layer: leader } } : rest;
  });
  return copy;
}
