import type { Draw } from '../scene/draw.ts';
import { paintContent } from './content.ts';
import { keepMasked } from './masks.ts';
import type { Scratch, Studio, Surface2D } from './surface.ts';
import { operationOf, type PaintView } from './view.ts';
import { keepInWindow } from './window.ts';

/** Blurs wider than this, in surface pixels, are made at a smaller size: nothing of it could be seen. */
const widestBlur = 6;

/** Draws one after the other, each over what is there. */
export function paintDraws<Image>(
  surface: Surface2D<Image>,
  draws: readonly Draw[],
  studio: Studio<Image>,
  view: PaintView,
): void {
  for (const draw of draws) {
    if (draw.blur > 0 || draw.masks || draw.window || draw.content.kind === 'together') {
      paintApart(surface, draw, studio, view);
      continue;
    }
    surface.globalAlpha = draw.opacity;
    surface.globalCompositeOperation = operationOf(draw.blend);
    paintContent(surface, draw, studio, view);
  }
}

/**
 * Draws that need a picture of their own first: masked and seen through a window, it is then laid over the surface,
 * blurred, with its opacity and blend mode.
 */
function paintApart<Image>(surface: Surface2D<Image>, draw: Draw, studio: Studio<Image>, view: PaintView): void {
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
  if (draw.window)
    keepInWindow(paper, draw.window, studio, inner, (window, draws) =>
      paintDraws(window.context, draws, studio, inner),
    );
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
