import { ditherAt } from '../finish/operations/noise.ts';
import type { Gradient } from '../document/layer.ts';
import type { Path } from '../path/path.ts';
import type { Draw } from '../scene/draw.ts';
import { invert } from '../scene/matrix.ts';
import { seenRegion, type Region } from './finished.ts';
import { resetContext, type Studio, type Surface2D } from './surface.ts';
import { trace } from './trace.ts';
import type { PaintView } from './view.ts';

/** Paths filled with a gradient that runs over a box. */
interface GradientFill {
  gradient: Gradient;
  box: Region;
  paths: readonly Path[];
}

/**
 * Fills paths with a gradient, computed in full precision and dithered: an 8-bit ramp over a whole frame shows bands.
 * The surface keeps its alpha and blend mode; its matrix is lost.
 */
export function paintGradient<Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  { gradient, box, paths }: GradientFill,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const { region } = seenRegion(draw, view, 1);
  if (region.width < 1 || region.height < 1) return;
  const paper = studio.scratch(region.width, region.height);
  const image = paper.context.createImageData(region.width, region.height);
  fillRamp(image.data, region, gradient, shareOver(gradient, box), draw, view);
  paper.context.putImageData(image as never, 0, 0);
  const [a, b, c, d, e, f] = draw.matrix;
  const { scale, x, y } = view;
  paper.context.globalCompositeOperation = 'destination-in';
  paper.context.fillStyle = '#000000';
  paper.context.setTransform(
    a * scale,
    b * scale,
    c * scale,
    d * scale,
    e * scale + x - region.x,
    f * scale + y - region.y,
  );
  paper.context.beginPath();
  for (const path of paths) trace(paper.context, path);
  paper.context.fill();
  resetContext(paper.context);
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.drawImage(paper.image, region.x, region.y, paper.width, paper.height);
  studio.release(paper);
}

/** How far along the gradient a place of the box is: linear as CSS linear-gradient() reaches, or from the middle out. */
function shareOver({ kind, angle }: Gradient, { x, y, width, height }: Region): (u: number, v: number) => number {
  const [cx, cy] = [x + width / 2, y + height / 2];
  if (kind === 'radial') {
    const radius = Math.hypot(width, height) / 2;
    return (u, v) => Math.hypot(u - cx, v - cy) / radius;
  }
  const [dx, dy] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const half = (Math.abs(width * dx) + Math.abs(height * dy)) / 2;
  return (u, v) => ((u - cx) * dx + (v - cy) * dy) / (2 * half) + 0.5;
}

function fillRamp(
  data: Uint8ClampedArray,
  region: Region,
  { stops }: Gradient,
  shareAt: (u: number, v: number) => number,
  draw: Draw,
  view: PaintView,
): void {
  const sorted = [...stops].sort((p, q) => p.at - q.at);
  const [a, b, c, d, e, f] = invert(draw.matrix);
  let i = 0;
  for (let row = 0; row < region.height; row++) {
    const fy = (region.y + row + 0.5 - view.y) / view.scale;
    for (let column = 0; column < region.width; column++, i += 4) {
      const fx = (region.x + column + 0.5 - view.x) / view.scale;
      const share = Math.max(0, Math.min(1, shareAt(a * fx + c * fy + e, b * fx + d * fy + f)));
      let k = 0;
      while (k < sorted.length - 1 && sorted[k + 1]!.at <= share) k++;
      const [from, to] = [sorted[k]!, sorted[k + 1] ?? sorted[k]!];
      const t = to.at > from.at ? Math.max(0, Math.min(1, (share - from.at) / (to.at - from.at))) : 0;
      const noise = ditherAt(column + region.x, row + region.y);
      for (let n = 0; n < 3; n++) data[i + n] = from.colour[n]! + (to.colour[n]! - from.colour[n]!) * t + noise;
      const alpha = from.colour[3]! + (to.colour[3]! - from.colour[3]!) * t;
      data[i + 3] = alpha * 255 + (alpha > 0 && alpha < 1 ? noise : 0);
    }
  }
}
