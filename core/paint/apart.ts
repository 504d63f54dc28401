import { joined, startsFull } from '../path/shapes.ts';
import type { Draw, DrawWindow } from '../scene/draw.ts';
import { paintContent, trace } from './content.ts';
import { operationOf, paintDraws, type PaintView } from './painter.ts';
import { resetContext, type Scratch, type Studio, type Surface2D } from './surface.ts';

/** Blurs wider than this, in surface pixels, are made at a smaller size: nothing of it could be seen. */
const widestBlur = 6;

/**
 * Draws that need a picture of their own first: masked and seen through a window, it is then laid over the surface,
 * blurred, with its opacity and blend mode.
 */
export function paintApart<Image>(surface: Surface2D<Image>, draw: Draw, studio: Studio<Image>, view: PaintView): void {
  const spread = draw.blur * view.scale;
  const shrink = spread > widestBlur ? 2 ** -Math.ceil(Math.log2(spread / widestBlur)) : 1;
  // What lies just outside is blurred in, or the borders of the frame would fade.
  const margin = spread > 0 ? Math.ceil(3 * spread * shrink) + 1 : 0;
  const inner: PaintView = {
    ...view,
    scale: view.scale * shrink,
    x: view.x * shrink + margin,
    y: view.y * shrink + margin,
    surface: {
      width: Math.ceil(view.surface.width * shrink) + 2 * margin,
      height: Math.ceil(view.surface.height * shrink) + 2 * margin,
    },
  };
  const paper = studio.scratch(inner.surface.width, inner.surface.height);
  if (draw.content.kind === 'together') paintDraws(paper.context, draw.content.draws, studio, inner);
  else paintContent(paper.context, draw, studio, inner);
  if (draw.masks) keepMasked(paper, draw.masks, studio, inner);
  if (draw.window) keepInWindow(paper, draw.window, studio, inner);
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.globalAlpha = draw.opacity;
  surface.globalCompositeOperation = operationOf(draw.blend);
  surface.imageSmoothingQuality = shrink < 1 ? 'medium' : 'low';
  if (spread > 0 && shrink === 1) surface.filter = `blur(${spread}px)`;
  const blurred = shrink < 1 ? blurredCopy(paper, spread * shrink, studio) : paper;
  surface.drawImage(blurred.image, -margin / shrink, -margin / shrink, blurred.width / shrink, blurred.height / shrink);
  surface.filter = 'none';
  surface.imageSmoothingQuality = 'low';
  if (blurred !== paper) studio.release(blurred);
  studio.release(paper);
}

function blurredCopy<Image>(paper: Scratch<Image>, spread: number, studio: Studio<Image>): Scratch<Image> {
  const copy = studio.scratch(paper.width, paper.height);
  copy.context.filter = `blur(${spread}px)`;
  copy.context.drawImage(paper.image, 0, 0, paper.width, paper.height);
  copy.context.filter = 'none';
  return copy;
}

/** Keeps what the outlines show: each is drawn with its own soft edge and joined to those before it. */
function keepMasked<Image>(
  paper: Scratch<Image>,
  { shapes, matrix }: NonNullable<Draw['masks']>,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const active = shapes.filter((shape) => !shape.muted);
  if (active.length === 0) return;
  const [a, b, c, d, e, f] = matrix;
  const { scale, x, y } = view;
  const sum = studio.scratch(paper.width, paper.height);
  if (startsFull(active[0]!.how)) {
    sum.context.fillStyle = '#000000';
    sum.context.fillRect(0, 0, sum.width, sum.height);
  }
  const size = scale * Math.sqrt(Math.abs(a * d - b * c));
  for (const shape of active) {
    const one = studio.scratch(paper.width, paper.height);
    one.context.setTransform(a * scale, b * scale, c * scale, d * scale, e * scale + x, f * scale + y);
    one.context.fillStyle = '#000000';
    one.context.beginPath();
    trace(one.context, { ...shape.path, closed: true });
    one.context.fill();
    if (shape.grow !== 0) strokeEdge(one.context, shape.grow);
    resetContext(sum.context);
    sum.context.globalAlpha = shape.opacity;
    sum.context.globalCompositeOperation = joining[shape.how];
    // A feather fades over its width; a Gaussian does so over about four of its standard deviations.
    if (shape.feather > 0) sum.context.filter = `blur(${(shape.feather * size) / 4}px)`;
    sum.context.drawImage(one.image, 0, 0, one.width, one.height);
    studio.release(one);
  }
  lay(paper, sum, 'destination-in');
  studio.release(sum);
}

/** The operators of Porter & Duff that join coverages as `joined` does. */
const joining: Record<Parameters<typeof joined>[2], string> = {
  add: 'source-over',
  take: 'destination-out',
  within: 'destination-in',
};

function strokeEdge<Image>(context: Surface2D<Image>, grow: number): void {
  context.lineJoin = 'round';
  context.lineWidth = 2 * Math.abs(grow);
  context.strokeStyle = '#000000';
  context.globalCompositeOperation = grow > 0 ? 'source-over' : 'destination-out';
  context.stroke();
}

function lay<Image>(paper: Scratch<Image>, over: Scratch<Image>, operation: string): void {
  resetContext(paper.context);
  paper.context.globalCompositeOperation = operation;
  paper.context.drawImage(over.image, 0, 0, over.width, over.height);
  resetContext(paper.context);
}

function keepInWindow<Image>(
  paper: Scratch<Image>,
  { matte, how, by, free }: DrawWindow,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const window = studio.scratch(paper.width, paper.height);
  paintDraws(window.context, matte, studio, view);
  resetContext(window.context);
  if (by === 'brightness') brightnessToAlpha(window);
  // On the free side everything is shown: the window is filled there, or has nothing to take away.
  if (free) fillBeyond(window, free, how === 'inside' ? 'source-over' : 'destination-out', view);
  lay(paper, window, how === 'inside' ? 'destination-in' : 'destination-out');
  studio.release(window);
}

/** Alpha becomes what is seen of the picture's brightness (luminance after ITU-R BT.709, of the values as they are). */
function brightnessToAlpha<Image>({ context, width, height }: Scratch<Image>): void {
  const image = context.getImageData(0, 0, width, height);
  const { data } = image;
  for (let i = 0; i < data.length; i += 4)
    data[i + 3] = ((0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!) * data[i + 3]!) / 255;
  context.putImageData(image as never, 0, 0);
}

function fillBeyond<Image>(
  { context, width, height }: Scratch<Image>,
  { x, y, dx, dy, soft }: NonNullable<DrawWindow['free']>,
  operation: string,
  view: PaintView,
): void {
  const [px, py] = [x * view.scale + view.x, y * view.scale + view.y];
  const half = Math.max(0.5, (soft * view.scale) / 2);
  const ramp = context.createLinearGradient(px - dx * half, py - dy * half, px + dx * half, py + dy * half);
  ramp.addColorStop(0, 'rgba(0, 0, 0, 0)');
  ramp.addColorStop(1, 'rgba(0, 0, 0, 1)');
  context.globalCompositeOperation = operation;
  context.fillStyle = ramp;
  context.fillRect(0, 0, width, height);
  resetContext(context);
}
