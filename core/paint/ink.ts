import type { Colour } from '../scene/draw.ts';
import type { Surface2D } from './surface.ts';

export const cssColour = ([r, g, b, alpha = 1]: Colour): string =>
  `rgba(${Math.round(r ?? 0)}, ${Math.round(g ?? 0)}, ${Math.round(b ?? 0)}, ${alpha})`;

/** Strokes the current path with round joins. */
export function strokeWith<Image>(surface: Surface2D<Image>, stroke: { width: number; colour: Colour } | null): void {
  if (!stroke) return;
  surface.lineJoin = 'round';
  surface.lineCap = 'round';
  surface.lineWidth = stroke.width;
  surface.strokeStyle = cssColour(stroke.colour);
  surface.stroke();
}
