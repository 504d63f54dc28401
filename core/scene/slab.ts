import type { Camera } from '../depth/camera.ts';
import type { Document } from '../document/document.ts';
import type { Layer, LayerSource } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { valueAt } from '../motion/property.ts';
import { propKind } from '../props/props.ts';
import { valuesAt } from '../settings/setting.ts';
import type { PropContent } from './draw.ts';
import { farToNear, restMatrix } from './place.ts';
import { barOf } from './source-pixels.ts';
import { heldFrame } from './values.ts';

/** Two distances from the lens. */
export interface DepthRange {
  near: number;
  far: number;
}

/** A layer, or what of one that lies between two distances lies between two others. */
interface Slice {
  layer: Layer;
  slice: DepthRange | null;
}

/**
 * Layers from far to near; one that lies between two distances comes in several slices, so that layers can stand inside
 * it.
 */
export function slicedByDepth(members: readonly Layer[], frame: number): Slice[] {
  const order = farToNear(members, frame);
  if (!order.some((layer) => slabOf(layer, frame))) return order.map((layer) => ({ layer, slice: null }));
  const depthOf = (layer: Layer): number => valueAt(layer.depth, heldFrame(layer, frame));
  const slices = order.flatMap((layer, rank): (Slice & { depth: number; rank: number })[] => {
    const slab = slabOf(layer, frame);
    if (!slab) return [{ layer, slice: null, depth: depthOf(layer), rank }];
    const inside = order.filter((l) => l !== layer).map(depthOf);
    const cuts = [...new Set(inside)].filter((d) => d > slab.near && d < slab.far).sort((a, b) => b - a);
    const bounds = [slab.far, ...cuts, slab.near];
    return bounds
      .slice(1)
      .map((near, k) => ({ layer, slice: { near, far: bounds[k]! }, depth: (near + bounds[k]!) / 2, rank }));
  });
  return slices.sort((a, b) => b.depth - a.depth || a.rank - b.rank);
}

/** The distances between which a layer lies; null for one that is flat. */
export function slabOf(layer: Layer, frame: number): DepthRange | null {
  const { source } = layer;
  if (source.kind !== 'prop' || !propKind(source.made.prop)?.slab) return null;
  const depth = valueAt(layer.depth, heldFrame(layer, frame));
  return { near: depth * source.near, far: depth * source.far };
}

/** What a layer shows of a prop at a moment. @param slice which part of a prop that lies between two distances; null for all */
export function propNow(
  {
    document,
    shot,
    frame,
    camera,
    slice,
  }: { document: Document; shot: Shot; frame: number; camera: Camera; slice: DepthRange | null },
  layer: Layer,
  source: Extract<LayerSource, { kind: 'prop' }>,
  { related, cover }: Pick<PropContent, 'related' | 'cover'>,
): PropContent {
  // A prop this version does not know shows nothing.
  const kind = propKind(source.made.prop);
  const held = heldFrame(layer, frame);
  const values: Record<string, unknown> = kind ? valuesAt(kind.settings, source.made.settings, held) : {};
  const slab = slabOf(layer, frame);
  const { near, far } = slab ?? { near: 1, far: 1 };
  const share = (depth: number): number => (far > near ? (depth - near) / (far - near) : 0);
  return {
    kind: 'prop',
    prop: source.made.prop,
    values,
    frame: kind?.moves(values as never) ? held - barOf(shot, layer).first : null,
    loop: source.loops ? shot.length : null,
    related,
    cover,
    slab: slab && {
      camera,
      near,
      far,
      from: slice ? share(slice.near) : 0,
      // What lies furthest belongs to the last slice.
      to: slice && slice.far < far ? share(slice.far) : 2,
      toRest: restMatrix(document, shot, layer, frame),
    },
  };
}
