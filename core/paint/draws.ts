import type { Draw, DrawFinishes } from '../scene/draw.ts';
import { paintContent } from './content.ts';
import { writeMean } from '../finish/operations/premultiplied.ts';
import { finishesAtSource, finishPaper, needsBehind, reachOf, seenRegion, type Region } from './finished.ts';
import { keepMasked } from './masks.ts';
import { withRelations } from './prop-relations.ts';
import { resetContext, type Scratch, type Studio, type Surface2D } from './surface.ts';
import { trace } from './trace.ts';
import { operationOf, setMatrix, type PaintView } from './view.ts';
import { keepInWindow } from './window.ts';

/** Blurs wider than this, in surface pixels, are made at a smaller size: nothing of it could be seen. */
const widestBlur = 3;
/** Papers are whole multiples of this, in pixels, so that a draw that moves finds the same one in the next frame. */
const paperGrain = 64;

/** Draws one after the other, each over what is there. */
export function paintDraws<Image>(
  surface: Surface2D<Image>,
  draws: readonly Draw[],
  studio: Studio<Image>,
  view: PaintView,
): void {
  for (const one of draws) {
    const draw = withRelations(one, studio, view, paintDraws);
    if (draw.clips.length === 0) {
      paintOne(surface, draw, studio, view);
      continue;
    }
    surface.save();
    for (const { path, matrix } of draw.clips) {
      setMatrix(surface, matrix, view);
      surface.beginPath();
      trace(surface, path);
      surface.clip();
    }
    paintOne(surface, draw, studio, view);
    surface.restore();
  }
}

function paintOne<Image>(surface: Surface2D<Image>, draw: Draw, studio: Studio<Image>, view: PaintView): void {
  if (isPaintedApart(draw)) return paintApart(surface, draw, studio, view);
  surface.globalAlpha = draw.opacity;
  surface.globalCompositeOperation = operationOf(draw.blend);
  paintContent(surface, draw, studio, view);
}

const grained = (length: number): number => Math.ceil(length / paperGrain) * paperGrain;

/** Whether a draw needs a picture of its own before it is laid over the others. */
function isPaintedApart(draw: Draw): boolean {
  const { kind } = draw.content;
  if (draw.blur > 0 || draw.window || kind === 'together' || kind === 'grade' || kind === 'mean') return true;
  // Finished in its own pixels, a draw is masked there as well.
  return !finishesAtSource(draw) && (draw.masks !== null || draw.finishes !== null);
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
  const part = partSeen(draw, view, Math.ceil(3 * spread) + 2);
  if (!part) return;
  const inner: PaintView = {
    ...view,
    scale: view.scale * shrink,
    x: (view.x - part.x) * shrink + margin,
    y: (view.y - part.y) * shrink + margin,
    surface: {
      width: grained(Math.ceil(part.width * shrink) + 2 * margin),
      height: grained(Math.ceil(part.height * shrink) + 2 * margin),
    },
  };
  const paper = studio.scratch(inner.surface.width, inner.surface.height);
  const atSource = finishesAtSource(draw);
  if (draw.content.kind === 'together') paintDraws(paper.context, draw.content.draws, studio, inner);
  else if (draw.content.kind === 'grade') copyOnto(paper, surface, view);
  else if (draw.content.kind === 'mean') paintMean(paper, draw.content.moments, studio, inner);
  else paintContent(paper.context, draw, studio, inner);
  if (draw.masks && !atSource) keepMasked(paper, draw.masks, studio, inner);
  if (draw.finishes && !atSource) finishWhereSeen(paper, draw, draw.finishes, surface, studio, { view, inner });
  if (draw.window)
    keepInWindow(paper, draw.window, studio, inner, (window, draws) =>
      paintDraws(window.context, draws, studio, inner),
    );
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.globalAlpha = draw.opacity;
  // A grade changes what is there and adds nothing to it.
  const onlyThere = draw.content.kind === 'grade' && draw.blend === 'normal';
  surface.globalCompositeOperation = onlyThere ? 'source-atop' : operationOf(draw.blend);
  if (spread > 0 && shrink === 1) surface.filter = `blur(${spread}px)`;
  const blurred = shrink < 1 ? blurredCopy(paper, spread * shrink, shrink, studio) : paper;
  const [left, top] = [part.x - margin / shrink, part.y - margin / shrink];
  surface.drawImage(blurred.image, left, top, blurred.width / shrink, blurred.height / shrink);
  surface.filter = 'none';
  if (blurred !== paper) studio.release(blurred);
  studio.release(paper);
}

/**
 * The part of a surface a draw needs a paper for: where it is seen, or all of the surface where that is not known
 * beforehand. Null when it is not seen at all.
 */
function partSeen(draw: Draw, view: PaintView, blurred: number): Region | null {
  const all = { x: 0, y: 0, ...view.surface };
  const { content, finishes } = draw;
  const { kind } = content;
  const warped = content.kind === 'image' && (content.corners !== null || content.relief !== null);
  const within = kind === 'image' || kind === 'shape' || kind === 'drawing' || kind === 'text' || kind === 'spread';
  if (!within || warped) return all;
  const [a, b, c, d] = draw.matrix;
  const scale = view.scale * Math.max(Math.hypot(a, b), Math.hypot(c, d));
  const pushed = content.kind === 'image' ? Math.max(0, ...content.sways.map(({ strength }) => strength)) * 1.3 : 0;
  const finished = reachOf(draw, (view.scale * Math.sqrt(Math.abs(a * d - b * c))) / (finishes?.size ?? 1));
  const { region } = seenRegion(draw, view, blurred + Math.ceil(pushed * scale) + finished + 2);
  if (region.width < 1 || region.height < 1) return null;
  return region;
}

/** The mean of several moments, summed in full precision and dithered, over the part of the paper they are seen on. */
function paintMean<Image>(
  paper: Scratch<Image>,
  moments: readonly Draw[],
  studio: Studio<Image>,
  view: PaintView,
): void {
  const regions = moments.map((draw) => {
    const [a, b, c, d] = draw.matrix;
    const size = (view.scale * Math.sqrt(Math.abs(a * d - b * c))) / (draw.finishes?.size ?? 1);
    const beyond = reachOf(draw, size) + Math.ceil(3 * draw.blur * view.scale) + 2;
    return seenRegion(draw, view, beyond).region;
  });
  const x = Math.min(...regions.map((r) => r.x));
  const y = Math.min(...regions.map((r) => r.y));
  const width = Math.max(...regions.map((r) => r.x + r.width)) - x;
  const height = Math.max(...regions.map((r) => r.y + r.height)) - y;
  if (width < 1 || height < 1) return;
  const pictures: Uint8ClampedArray[] = [];
  const one = studio.scratch(paper.width, paper.height);
  for (const draw of moments) {
    resetContext(one.context);
    one.context.clearRect(0, 0, one.width, one.height);
    paintDraws(one.context, [draw], studio, view);
    pictures.push(one.context.getImageData(x, y, width, height).data);
  }
  studio.release(one);
  const image = paper.context.createImageData(width, height);
  writeMean({ data: image.data, width, height }, pictures);
  paper.context.putImageData(image as never, x, y);
}

/** Takes over what a surface shows. */
function copyOnto<Image>(paper: Scratch<Image>, surface: Surface2D<Image>, { surface: size }: PaintView): void {
  const image = surface.getImageData(0, 0, size.width, size.height);
  paper.context.putImageData(image as never, 0, 0);
}

/** Finishes a painted draw where it is seen, with what lies behind it where a finish asks for that. */
function finishWhereSeen<Image>(
  paper: Scratch<Image>,
  draw: Draw,
  finishes: DrawFinishes,
  surface: Surface2D<Image>,
  studio: Studio<Image>,
  { view, inner }: { view: PaintView; inner: PaintView },
): void {
  const [a, b, c, d] = draw.matrix;
  const scale = (inner.scale * Math.sqrt(Math.abs(a * d - b * c))) / finishes.size;
  const places = { ...seenRegion(draw, inner, reachOf(draw, scale)), scale };
  if (!needsBehind(finishes)) return finishPaper(paper, finishes, places, null);
  const [x, y] = [view.x - inner.x, view.y - inner.y];
  if (inner.scale === view.scale && Number.isInteger(x) && Number.isInteger(y))
    return finishPaper(paper, finishes, places, { context: surface, x, y });
  const behind = behindOf(surface, studio, view, inner);
  finishPaper(paper, finishes, places, { context: behind.context, x: 0, y: 0 });
  studio.release(behind);
}

/** What a surface shows, on a paper as another view sees it. */
function behindOf<Image>(
  surface: Surface2D<Image>,
  studio: Studio<Image>,
  view: PaintView,
  inner: PaintView,
): Scratch<Image> {
  const full = studio.scratch(view.surface.width, view.surface.height);
  copyOnto(full, surface, view);
  const scaled = studio.scratch(inner.surface.width, inner.surface.height);
  const factor = inner.scale / view.scale;
  const [x, y] = [inner.x - view.x * factor, inner.y - view.y * factor];
  scaled.context.drawImage(full.image, x, y, full.width * factor, full.height * factor);
  studio.release(full);
  return scaled;
}

/** Pixels of a smaller paper by which drawing it larger again blurs: linear between two of them. */
const blurOfEnlarging = 0.41;

/** A blurred copy of a paper that is smaller than what it will be drawn as, blurred so much less as that blurs itself. */
function blurredCopy<Image>(
  paper: Scratch<Image>,
  spread: number,
  shrink: number,
  studio: Studio<Image>,
): Scratch<Image> {
  const copy = studio.scratch(paper.width, paper.height);
  const own = Math.sqrt(Math.max(0.01, spread ** 2 - (1 - shrink ** 2) * blurOfEnlarging ** 2));
  copy.context.filter = `blur(${own}px)`;
  copy.context.drawImage(paper.image, 0, 0, paper.width, paper.height);
  copy.context.filter = 'none';
  return copy;
}
