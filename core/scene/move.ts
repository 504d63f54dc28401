import type { Camera } from '../depth/camera.ts';
import { valueAt, type Point } from '../motion/property.ts';
import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { invert, transform } from './matrix.ts';
import { layerMatrix } from './place.ts';
import { heldFrame, layerValue } from './values.ts';
import type { Shot } from '../document/shot.ts';

/**
 * The position a layer must have so that it is seen (dx, dy) frame pixels further, whatever it is fastened to, whichever
 * group it is in and however the camera looks. The way from position to view is affine, so three looks tell it exactly.
 * Null where the layer cannot be seen, or moving it moves nothing.
 */
export function positionMovedBy(
  document: Document,
  shot: Shot,
  layer: Layer,
  camera: Camera,
  frame: number,
  [dx, dy]: Point,
): Point | null {
  const [x, y] = valueAt(layer.position, heldFrame(layer, frame));
  const seen = (px: number, py: number): Point | null => {
    const moved: Layer = { ...layer, position: { value: [px, py] } };
    const there = { ...shot, layers: shot.layers.map((l) => (l.id === layer.id ? moved : l)) };
    const matrix = layerMatrix(document, there, moved, camera, frame);
    return matrix && transform(matrix, ...layerValue(there, moved, 'pivot', frame));
  };
  const [at, right, down] = [seen(x, y), seen(x + 1, y), seen(x, y + 1)];
  if (!at || !right || !down) return null;
  const [a, b, c, d] = [right[0] - at[0], right[1] - at[1], down[0] - at[0], down[1] - at[1]];
  if (Math.abs(a * d - b * c) < 1e-9) return null;
  const [u, v] = transform(invert([a, b, c, d, 0, 0]), dx, dy);
  return [x + u, y + v];
}
