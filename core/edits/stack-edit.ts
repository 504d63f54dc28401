import type { Picture } from '../document/document.ts';
import { plainLayer } from '../document/layer.ts';
import type { BlendMode } from '../document/blend.ts';
import { defineEdit } from './edit.ts';
import { shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';

/** A layer of a picture in layers, at a place in its pixels. */
interface Stacked {
  id: string;
  name: string;
  picture: Picture;
  x: number;
  y: number;
  opacity: number;
  visible: boolean;
  blend: BlendMode;
}

/** Distance of the nearest layer, and how much further each next one hangs. */
const [nearest, further, farthest] = [2, 1.25, 60];

/**
 * Hangs the layers of a picture as they lay in it, nearest first, each a step further away; what is seen at rest is the picture.
 * @param stack how large the picture is, in pixels of its layers
 */
export const hangStack = defineEdit(
  'Bring in layers',
  (draft, shotId: string, layers: readonly Stacked[], stack: { width: number; height: number }) => {
    const scale = draft.frame.width / stack.width;
    const shot = shotIn(draft, shotId);
    layers.forEach(({ id, name, picture, x, y, opacity, visible, blend }, k) => {
      draft.pictures.push(picture);
      const [width, height] = [picture.width, picture.height];
      shot.layers.push({
        ...plainLayer,
        id,
        name: freeName(draft, name),
        source: { kind: 'picture', picture: picture.id },
        depth: { value: Number(Math.min(farthest, nearest * further ** k).toPrecision(3)) },
        pivot: { value: [width / 2, height / 2] },
        position: { value: [(x + width / 2 - stack.width / 2) * scale, (y + height / 2 - stack.height / 2) * scale] },
        scale: { value: scale },
        opacity: { value: opacity },
        hidden: !visible,
        blend,
      });
    });
  },
);
