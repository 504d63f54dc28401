import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import type { Shot } from '../document/shot.ts';
import { transform } from './matrix.ts';
import { cameraAt, layerMatrix } from './place.ts';
import { boxOf } from './source-pixels.ts';

/** A layer's box as it is seen at a frame, in frame pixels; null for what has none. */
export function seenBox(document: Document, shot: Shot, layer: Layer, frame: number) {
  const box = boxOf(document, layer, frame);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  if (!box || !matrix) return null;
  const ends = [0, 1, 2, 3].map((k) =>
    transform(matrix, box.x + (k & 1 ? box.width : 0), box.y + (k > 1 ? box.height : 0)),
  );
  const [xs, ys] = [ends.map((e) => e[0]), ends.map((e) => e[1])];
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}
