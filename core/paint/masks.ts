import { joined, startsFull } from '../path/shapes.ts';
import type { Draw } from '../scene/draw.ts';
import { trace } from './trace.ts';
import { lay, resetContext, type Scratch, type Studio, type Surface2D } from './surface.ts';
import type { PaintView } from './view.ts';

/** Keeps what the outlines show: each is drawn with its own soft edge and joined to those before it. */
export function keepMasked<Image>(
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
