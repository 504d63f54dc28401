import { transform, type Matrix } from '../../../../core/scene/matrix.ts';
import type { Zoom } from '../../../parts/zoom.ts';

/** Where a point of a layer's source is in the view, in CSS pixels. */
export function onScreen(zoom: Zoom, matrix: Matrix, x: number, y: number): [number, number] {
  const [u, v] = transform(matrix, x, y);
  return [u * zoom.view.scale + zoom.view.x, v * zoom.view.scale + zoom.view.y];
}

/** The same for a point of the frame. */
export const frameOnScreen = (zoom: Zoom, x: number, y: number): [number, number] => [
  x * zoom.view.scale + zoom.view.x,
  y * zoom.view.scale + zoom.view.y,
];
