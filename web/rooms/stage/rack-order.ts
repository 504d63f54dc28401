import { farToNear } from '../../../core/scene/place.ts';
import { layerValue } from '../../../core/scene/values.ts';
import type { Layer } from '../../../core/document/layer.ts';
import type { Shot } from '../../../core/document/shot.ts';

export interface RackEntry {
  layer: Layer;
  depth: number;
  /** How many groups it is in. */
  level: number;
}

/** Rows of the rack, nearest first; the members of an open group follow it. */
export function rackEntries(shot: Shot, frame: number, group: string | null = null, level = 0): RackEntry[] {
  const members = shot.layers.filter((layer) => layer.group === group);
  return farToNear(members, frame)
    .reverse()
    .flatMap((layer) => {
      const entry = { layer, depth: layerValue(shot, layer, 'depth', frame), level };
      const open = layer.source.kind === 'group' && layer.source.open;
      return open ? [entry, ...rackEntries(shot, frame, layer.id, level + 1)] : [entry];
    });
}

/**
 * The distance at which a dragged row hangs: what the ruler says where that lies between the rows above and below it,
 * otherwise halfway between them. So a row let go between two others is between them, however crowded the rack is.
 * @param said distance on the ruler at the pointer
 */
export function depthBetween(said: number, above: number | null, below: number | null): number {
  const near = above ?? 0.2;
  const far = below ?? 100;
  if (said > near && said < far) return said;
  if (above === null && below === null) return said;
  if (above === null) return Math.min(said, far * 0.95);
  if (below === null) return Math.max(said, near * 1.05);
  return near === far ? near : (near + far) / 2;
}
