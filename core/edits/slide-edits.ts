import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { valueAt, type Point } from '../motion/property.ts';
import { hashOf } from '../pixels/random.ts';
import { restMatrix } from '../scene/place.ts';
import { transform } from '../scene/matrix.ts';
import { boxOf } from '../scene/source-pixels.ts';
import { defineEdit } from './edit.ts';
import { layerIn, shotIn } from './layer-edits.ts';
import { middleWithin } from './strip-edits.ts';

export const slideWays = ['outwards', 'sideways', 'up and down'] as const;

/** How layers slide apart. */
export interface Slide {
  way: (typeof slideWays)[number];
  /** The furthest, frame pixels. */
  distance: number;
  /** How unlike their ways are, 0..1. */
  uneven: number;
  seed: number;
  /** Frames it takes, from the frame it begins at. */
  frames: number;
  /** Whether they slide together instead, and end where they lie now. */
  together: boolean;
}

/** Layers slide apart from where they lie, each by a length of its own, as two keyframes of each. */
export const slideApart = defineEdit(
  'Slide apart',
  (draft: Document, shotId: string, ids: readonly string[], frame: number, slide: Slide) => {
    const shot = shotIn(draft, shotId);
    const layers = ids.map((id) => layerIn(draft, shotId, id)).filter((layer) => !layer.locked);
    const middles = layers.map((layer) => middleOf(draft, shot, layer, frame));
    const mean = (axis: 0 | 1): number => middles.reduce((sum, p) => sum + p[axis], 0) / Math.max(1, middles.length);
    const centre: Point = [mean(0), mean(1)];
    layers.forEach((layer, k) => {
      const way = wayOf(slide, middles[k]!, centre, k);
      const from = valueAt(layer.position, frame);
      const away: Point = [from[0] + way[0], from[1] + way[1]];
      const [first, last] = slide.together ? [away, from] : [from, away];
      const end = Math.max(frame + 1, Math.min(shot.length - 1, frame + slide.frames));
      const { jitter, drift, bob, follow } = layer.position;
      layer.position = {
        ...(jitter && { jitter }),
        ...(drift && { drift }),
        ...(bob && { bob }),
        ...(follow && { follow }),
        keys: [
          { frame, value: first, easing: 'ease-out' },
          { frame: end, value: last, easing: 'ease-in-out' },
        ],
      };
    });
  },
);

/** Where the middle of what is seen of a layer lies at rest. */
function middleOf(document: Document, shot: Document['shots'][number], layer: Layer, frame: number): Point {
  const box = boxOf(document, layer, frame);
  const matrix = restMatrix(document, shot, layer, frame);
  if (!box) return transform(matrix, 0, 0);
  const mask = layer.masks.at(-1);
  const at: Point = mask ? middleWithin(mask.path, box) : [box.x + box.width / 2, box.y + box.height / 2];
  return transform(matrix, ...at);
}

function wayOf({ way, distance, uneven, seed }: Slide, [x, y]: Point, centre: Point, index: number): Point {
  const length = distance * (1 - uneven * hashOf(seed, index));
  // By turns one way and the other, from the outside in.
  const side = index % 2 === 0 ? -1 : 1;
  if (way === 'up and down') return [0, side * length];
  if (way === 'sideways') return [Math.abs(x - centre[0]) < 1 ? side * length : Math.sign(x - centre[0]) * length, 0];
  const [dx, dy] = [x - centre[0], y - centre[1]];
  const far = Math.hypot(dx, dy);
  return far < 1 ? [0, side * length] : [(dx / far) * length, (dy / far) * length];
}
