import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { defineEdit } from './edit.ts';
import { fastenLayer, layerIn } from './layer-edits.ts';

export type JoinHow = NonNullable<Layer['joined']>['how'];

/** Whether a shape can be one with a layer: with a picture or a drawing, not with another shape that is itself joined. */
export const canBeJoined = ({ source, joined }: Layer): boolean =>
  !joined && ['piece', 'picture', 'background', 'shape', 'drawing'].includes(source.kind);

/**
 * Makes a shape one with another layer: drawn, finished, blended and moved with it, at its distance. Freed again, it stays
 * where it is.
 */
export const joinLayer = defineEdit(
  'Join to layer',
  (draft: Document, shot: string, layerId: string, to: string | null, how: JoinHow, frame: number) => {
    const layer = layerIn(draft, shot, layerId);
    const before = layer.joined;
    if (to && !canBeJoined(layerIn(draft, shot, to))) return;
    if (before?.to !== to) {
      const fastened = fastenLayer(shot, layerId, to, frame).apply(JSON.parse(JSON.stringify(draft)) as Document);
      Object.assign(layer, layerIn(fastened, shot, layerId));
    }
    layer.joined = to ? { to, how } : null;
    if (to) layer.depth = JSON.parse(JSON.stringify(layerIn(draft, shot, to).depth)) as Layer['depth'];
  },
);
