import { drawingOf } from '../formats/svg/drawing-list.ts';
import {
  figuresOf,
  onlyPart,
  recoloured,
  type Clip,
  type DrawingGroup,
  type DrawingNode,
  type Figure,
  type Paint,
} from '../formats/svg/drawing.ts';
import type { Draw, DrawingContent } from '../scene/draw.ts';
import { compose, type Matrix } from '../scene/matrix.ts';
import { cssColour } from './ink.ts';
import { rasterFor } from './raster.ts';
import { resetContext, type Scratch, type Studio, type Surface2D } from './surface.ts';
import { trace } from './trace.ts';
import { setMatrix, type PaintView } from './view.ts';

/** A drawing of more figures than this is painted once and kept as a picture. */
const mostFigures = 120;

/** Draws an SVG drawing, or a part of one, in its colours or others. */
export function paintDrawing<Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  content: DrawingContent,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const root = rootOf(content);
  if (!root) return void view.missing.push(`drawing:${content.file}`);
  if (figureCount(root) <= mostFigures) return paintNode(surface, root, draw.matrix, studio, view);
  // On whole pixels, so that what is shown at its own size is not drawn between them.
  const [x, y] = [Math.floor(content.box.x), Math.floor(content.box.y)];
  const width = Math.ceil(content.box.x + content.box.width) - x;
  const height = Math.ceil(content.box.y + content.box.height) - y;
  const raster = rasterFor(draw, view);
  const kept = studio.kept(JSON.stringify(['drawing', content, raster]), () => {
    const paper = studio.scratch(width * raster, height * raster);
    const inner: PaintView = { ...view, scale: raster, x: -x * raster, y: -y * raster, surface: paper };
    paintNode(paper.context, root, upright, studio, inner);
    resetContext(paper.context);
    return paper;
  });
  setMatrix(surface, draw.matrix, view);
  surface.drawImage(kept.image, x, y, width, height);
}

const upright: Matrix = [1, 0, 0, 1, 0, 0];

/** Roots as they are painted, by what they are made of: the same content is not recoloured for every frame. */
const roots = new Map<string, DrawingGroup>();

function rootOf({ file, part, recolours }: DrawingContent): DrawingGroup | null {
  const drawing = drawingOf(file);
  if (!drawing) return null;
  const key = JSON.stringify([file, part, recolours]);
  const known = roots.get(key);
  if (known) return known;
  const made = recoloured(onlyPart(drawing, part), recolours);
  roots.set(key, made);
  if (roots.size > 60) roots.delete(roots.keys().next().value!);
  return made;
}

const counts = new WeakMap<DrawingGroup, number>();
function figureCount(root: DrawingGroup): number {
  const known = counts.get(root);
  if (known !== undefined) return known;
  const count = [...figuresOf(root)].length;
  counts.set(root, count);
  return count;
}

/** @param matrix brings pixels of the drawing to those of the frame */
function paintNode<Image>(
  surface: Surface2D<Image>,
  node: DrawingNode,
  matrix: Matrix,
  studio: Studio<Image>,
  view: PaintView,
): void {
  if (node.opacity <= 0) return;
  const { clip } = node;
  if (clip) {
    surface.save();
    clipTo(surface, clip, matrix, view);
  }
  // Figures of a group that is seen through must not be seen through one another.
  const together =
    node.opacity < 1 && (node.kind === 'group' ? node.children.length > 0 : !!node.fill && !!node.stroke);
  if (together) {
    const paper = studio.scratch(view.surface.width, view.surface.height);
    paintInside(paper.context, node, matrix, studio, view);
    layOver(surface, paper, node.opacity);
    studio.release(paper);
  } else {
    const alpha = surface.globalAlpha;
    surface.globalAlpha = alpha * node.opacity;
    paintInside(surface, node, matrix, studio, view);
    surface.globalAlpha = alpha;
  }
  if (clip) surface.restore();
}

function paintInside<Image>(
  surface: Surface2D<Image>,
  node: DrawingNode,
  matrix: Matrix,
  studio: Studio<Image>,
  view: PaintView,
): void {
  if (node.kind === 'group') for (const child of node.children) paintNode(surface, child, matrix, studio, view);
  else paintFigure(surface, node, matrix, view);
}

function layOver<Image>(surface: Surface2D<Image>, paper: Scratch<Image>, opacity: number): void {
  const alpha = surface.globalAlpha;
  surface.globalAlpha = alpha * opacity;
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.drawImage(paper.image, 0, 0, paper.width, paper.height);
  surface.globalAlpha = alpha;
}

function clipTo<Image>(surface: Surface2D<Image>, { paths, rule }: Clip, matrix: Matrix, view: PaintView): void {
  setMatrix(surface, matrix, view);
  surface.beginPath();
  for (const path of paths) trace(surface, path);
  surface.clip(rule);
}

function paintFigure<Image>(surface: Surface2D<Image>, figure: Figure, matrix: Matrix, view: PaintView): void {
  const { paths, rule, fill, stroke } = figure;
  const own = compose(matrix, figure.matrix as Matrix);
  setMatrix(surface, own, view);
  surface.beginPath();
  for (const path of paths) trace(surface, path);
  if (fill) {
    // What was traced stays where it is; the gradient is laid out in its own pixels.
    if (fill.kind !== 'colour') setMatrix(surface, compose(own, fill.matrix as Matrix), view);
    surface.fillStyle = inkOf(surface, fill);
    surface.fill(rule);
    setMatrix(surface, own, view);
  }
  if (!stroke) return;
  surface.lineWidth = stroke.width;
  surface.lineCap = stroke.cap;
  surface.lineJoin = stroke.join;
  surface.miterLimit = stroke.miter;
  surface.setLineDash(stroke.dash);
  surface.lineDashOffset = stroke.offset;
  surface.strokeStyle = inkOf(surface, straightened(stroke.paint));
  surface.stroke();
  surface.setLineDash([]);
  surface.miterLimit = 10;
}

/** A stroke is as wide as its own pixels say: its gradient is brought there, as far as two points and a radius can. */
function straightened(paint: Paint): Paint {
  if (paint.kind === 'colour') return paint;
  const [a, b, c, d, e, f] = paint.matrix;
  const at = ([x, y]: [number, number]): [number, number] => [a * x + c * y + e, b * x + d * y + f];
  if (paint.kind === 'linear') return { ...paint, from: at(paint.from), to: at(paint.to) };
  const grown = Math.sqrt(Math.abs(a * d - b * c));
  return { ...paint, focus: at(paint.focus), centre: at(paint.centre), radius: paint.radius * grown };
}

function inkOf<Image>(surface: Surface2D<Image>, paint: Paint): unknown {
  if (paint.kind === 'colour') return cssColour(paint.colour);
  const gradient =
    paint.kind === 'linear'
      ? surface.createLinearGradient(...paint.from, ...paint.to)
      : surface.createRadialGradient(...paint.focus, 0, ...paint.centre, paint.radius);
  for (const { at, colour } of paint.stops) gradient.addColorStop(at, cssColour(colour));
  return gradient;
}
