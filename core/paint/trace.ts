import { segmentsOf, type Path } from '../path/path.ts';
import type { Surface2D } from './surface.ts';

/** Adds a path's curves to the surface's current path. */
export function trace<Image>(surface: Surface2D<Image>, path: Path): void {
  const first = path.points[0];
  if (!first) return;
  surface.moveTo(...first.at);
  for (const [, b, c, d] of segmentsOf(path)) surface.bezierCurveTo(...b, ...c, ...d);
  if (path.closed) surface.closePath();
}
