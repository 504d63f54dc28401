import type { Draw, DrawWindow } from '../scene/draw.ts';
import { lay, resetContext, type Scratch, type Studio } from './surface.ts';
import type { PaintView } from './view.ts';

/** Keeps what is inside, or outside, of other draws, which `paintDraws` paints. */
export function keepInWindow<Image>(
  paper: Scratch<Image>,
  { matte, how, by, free }: DrawWindow,
  studio: Studio<Image>,
  view: PaintView,
  paintDraws: (paper: Scratch<Image>, draws: readonly Draw[]) => void,
): void {
  const window = studio.scratch(paper.width, paper.height);
  paintDraws(window, matte);
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
