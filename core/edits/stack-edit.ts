import type { Picture } from '../document/document.ts';
import { plainLayer } from '../document/layer.ts';
import type { BlendMode } from '../document/blend.ts';
import { defineEdit } from './edit.ts';
import { shotIn } from './layer-edits.ts';
import { freeName } from './lift-edit.ts';

/** A layer of a picture in layers: how large it is there and where it begins, in pixels of the stack. */
interface Stacked {
  id: string;
  name: string;
  /** May be worked with at a smaller size than the layer has. */
  picture: Picture;
  x: number;
  y: number;
  width: number;
  height: number;
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
    const toFrame = draft.frame.width / stack.width;
    const shot = shotIn(draft, shotId);
    layers.forEach(({ id, name, picture, x, y, width, height, opacity, visible, blend }, k) => {
      draft.pictures.push(picture);
      shot.layers.push({
        ...plainLayer,
        id,
        name: freeName(draft, name),
        source: { kind: 'picture', picture: picture.id },
        depth: { value: Number(Math.min(farthest, nearest * further ** k).toPrecision(3)) },
        pivot: { value: [picture.width / 2, picture.height / 2] },
        position: {
          value: [(x + width / 2 - stack.width / 2) * toFrame, (y + height / 2 - stack.height / 2) * toFrame],
        },
        scale: { value: (toFrame * width) / picture.width },
        opacity: { value: opacity },
        hidden: !visible,
        blend,
      });
    });
  },
);
