import type { Gradient, Layer } from '../../document/layer.ts';
import { boundsOfOutlines, outlinesOfShape, type ShapeSource } from '../../document/points.ts';
import { valueAt } from '../../motion/property.ts';
import { identity } from './affine.ts';
import { drawingOf } from './drawing-list.ts';
import { onlyPart, recoloured, type DrawingGroup, type Figure, type Paint, type Rgba } from './drawing.ts';
import { writeDrawing } from './write-drawing.ts';

/** Whether a layer can be written as an SVG file. */
export const canWriteSvg = ({ source }: Layer): boolean => source.kind === 'shape' || source.kind === 'drawing';

/**
 * A shape or a drawing as an SVG file, in its own pixels and the colours it has at a frame; null where it is none, or its
 * drawing was not loaded.
 */
export function svgOfLayer(layer: Layer, frame: number): string | null {
  const { source } = layer;
  if (source.kind === 'shape') return svgOfShape(layer, source, frame);
  const drawing = source.kind === 'drawing' ? drawingOf(source.file) : undefined;
  if (source.kind !== 'drawing' || !drawing) return null;
  return writeDrawing(recoloured(onlyPart(drawing, source.part), source.recolours), drawing.width, drawing.height);
}

function svgOfShape(layer: Layer, source: ShapeSource, frame: number): string {
  const paths = outlinesOfShape(layer, source, frame);
  const box = boundsOfOutlines(paths, source.stroke);
  const colour = (layer.colour ? valueAt(layer.colour, frame) : [0, 0, 0, 1]) as Rgba;
  const fill: Paint = source.gradient ? paintOf(source.gradient, box) : { kind: 'colour', colour };
  const figure: Figure = {
    kind: 'figure',
    name: layer.name,
    opacity: 1,
    clip: null,
    paths,
    rule: 'nonzero',
    matrix: [1, 0, 0, 1, -box.x, -box.y],
    fill: source.filled ? fill : null,
    stroke: source.stroke && {
      width: source.stroke.width,
      paint: { kind: 'colour', colour: source.stroke.colour },
      cap: 'round',
      join: 'round',
      miter: 4,
      dash: [],
      offset: 0,
    },
  };
  const root: DrawingGroup = { kind: 'group', name: '', opacity: 1, clip: null, children: [figure] };
  return writeDrawing(root, box.width, box.height);
}

/** A gradient over a box, as far as CSS has it reach. */
function paintOf(
  { kind, angle, stops }: Gradient,
  box: { x: number; y: number; width: number; height: number },
): Paint {
  const centre: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
  const sorted = [...stops].sort((a, b) => a.at - b.at);
  if (kind === 'radial') {
    const radius = Math.hypot(box.width, box.height) / 2;
    return { kind, focus: centre, centre, radius, stops: sorted, matrix: identity };
  }
  const [dx, dy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const half = (Math.abs(box.width * dx) + Math.abs(box.height * dy)) / 2;
  const at = (side: number): [number, number] => [centre[0] + side * half * dx, centre[1] + side * half * dy];
  return { kind, from: at(-1), to: at(1), stops: sorted, matrix: identity };
}
