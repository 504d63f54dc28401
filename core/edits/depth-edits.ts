import type { Document } from '../document/document.ts';
import type { Relief } from '../document/layer.ts';
import { valueAt } from '../motion/property.ts';
import { defineEdit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';
import { distanceOf } from './slice-edit.ts';

/** Distances, as shares of its layer's, between which the depth of a whole place lies. */
const [near, far] = [0.42, 1.6];
/** A subject stands this much before the nearest thing that it must not disappear behind. */
const before = 0.96;

/** The depth map of a place that is going to be sliced. @param file the map */
export const slicedRelief = (file: string): Relief => ({ file, near, far, strokes: [], behind: null });

/** The distance of a closeness (0 farthest .. 1 nearest) in a place whose layer hangs at `depth`. */
export const distanceIn = (depth: number, closeness: number): number =>
  distanceOf(closeness, depth * near, depth * far);

/**
 * Hangs a subject at the distance of the place it stands on, but before all slices of the place: what it was cut from, it hides.
 * The Framings are then those of its plane.
 * @param distance of that place
 */
export const placeInDepth = defineEdit(
  'Place in depth',
  (draft: Document, shotId: string, subject: string | null, slices: string[], distance: number) => {
    const shot = shotIn(draft, shotId);
    const nearest = Math.min(...slices.map((id) => valueAt(layerIn(draft, shotId, id).depth, 0)));
    if (subject === null) {
      if (Number.isFinite(nearest)) shot.camera.depth = nearest;
      return;
    }
    const layer = layerIn(draft, shotId, subject);
    const depth = Math.max(0.5, Math.min(distance, nearest * before));
    layer.depth = { value: depth };
    // What is fastened to it, such as its shadow, lies at its distance.
    for (const other of shot.layers) if (other.fastened?.to === subject) other.depth = { value: depth };
    shot.camera.depth = depth;
  },
);

/** Takes in what was rebuilt behind the steps of a layer's depth map; what comes too late for another map is left. */
export const fillBehind = defineEdit(
  'Fill what opens',
  (draft, shotId: string, layerId: string, behind: NonNullable<Relief['behind']>) => {
    const { relief } = layerIn(draft, shotId, layerId);
    if (relief?.file === behind.of.map) relief.behind = behind;
  },
);
