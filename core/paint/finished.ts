import { finishKind } from '../finish/finishes.ts';
import { inKernel } from '../finish/operations/memory.ts';
import type { FinishMoment, FinishPixels, Sides } from '../finish/finish.ts';
import { lettersOf } from '../text/lettering.ts';
import { boxAround } from '../text/units.ts';
import type { Draw, DrawFinishes } from '../scene/draw.ts';
import { paintedPixels } from './painted-pixels.ts';
import type { Scratch, Studio, Surface2D } from './surface.ts';
import type { PaintView } from './view.ts';

/** A rectangle of pixels on a surface. */
export interface Region {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** No finish reaches further than this beyond its box, in pixels: enough for any that was meant, and memory stays bounded. */
const furthest = 1400;

/**
 * How far the finishes of a draw reach beyond its box together, in pixels.
 * @param scale pixels per frame pixel
 */
function sidesOf(draw: Draw, { list, size }: DrawFinishes, scale: number): Sides {
  const { width, height } = extentOf(draw);
  const sides: Sides = { left: 0, top: 0, right: 0, bottom: 0 };
  for (const { kind, values } of list) {
    const reach = finishKind(kind)?.reach?.(values as never, { width: width * size, height: height * size }) ?? 0;
    for (const side of sideNames) sides[side] += typeof reach === 'number' ? reach : reach[side];
  }
  for (const side of sideNames) sides[side] = Math.min(furthest, Math.ceil(sides[side] * scale));
  return sides;
}

const sideNames = ['left', 'top', 'right', 'bottom'] as const;

/** The furthest of it; 0 without finishes. */
export function reachOf(draw: Draw, scale: number): number {
  if (!draw.finishes) return 0;
  const sides = sidesOf(draw, draw.finishes, scale);
  return Math.max(...sideNames.map((side) => sides[side]));
}

/** Whether any of them needs what lies behind: then they are computed where the draw is seen, frame by frame. */
export const needsBehind = ({ list }: DrawFinishes): boolean => list.some(({ kind }) => finishKind(kind)?.behind);

/** Applies finishes to pixels, one after the other, in place. @param from what they begin with instead of what the pixels hold */
export function applyFinishes(
  pixels: FinishPixels,
  finishes: DrawFinishes,
  moment: Omit<FinishMoment, 'frame' | 'length'>,
  from?: Uint8ClampedArray,
): void {
  const { list, length } = finishes;
  const steps = list.map(({ kind, values, frame }) => (own: FinishPixels, behind: FinishPixels | null) => {
    finishKind(kind)?.apply(own, values as never, { ...moment, behind, frame: frame ?? 0, length });
  });
  inKernel(pixels, moment.behind, steps, from);
}

/** A surface that lies behind a paper, and where the paper's corner lies on it. */
export interface Behind<Image> {
  context: Surface2D<Image>;
  x: number;
  y: number;
}

/**
 * Finishes what is on a paper, within a region of it.
 * @param box of the finished thing, in pixels of the paper
 * @param behind for finishes that look at what lies behind
 */
export function finishPaper<Image>(
  paper: Scratch<Image>,
  finishes: DrawFinishes,
  { region, box, scale }: { region: Region; box: Region; scale: number },
  behind: Behind<Image> | null,
): void {
  const { x, y, width, height } = region;
  if (width < 1 || height < 1) return;
  const image = paper.context.getImageData(x, y, width, height);
  const around = behind?.context.getImageData(x + behind.x, y + behind.y, width, height);
  const pixels = { data: image.data, width, height };
  applyFinishes(pixels, finishes, {
    scale,
    box: { ...box, x: box.x - x, y: box.y - y },
    behind: around ? { data: around.data, width, height } : null,
  });
  paper.context.putImageData(image as never, x, y);
}

/** Where a draw's content lies in its own pixels: shapes may reach beyond their corner, letters beyond their box. */
export function extentOf({ content, width, height }: Draw): Region {
  if (content.kind === 'shape' || content.kind === 'drawing') return content.box;
  if (content.kind === 'spread') return content.room;
  if (content.kind === 'copies') return extentOfCopies(content);
  if (content.kind !== 'text') return { x: 0, y: 0, width, height };
  const { text } = content;
  const set = lettersOf(text);
  const box = set?.letters.length ? boxAround(set.letters) : { x: 0, y: 0, width, height };
  const more = 0.3 * text.size + (text.stroke?.width ?? 0);
  const words = { x: box.x - more, y: box.y - more, width: box.width + 2 * more, height: box.height + 2 * more };
  return content.bubble ? unionOf(words, grown(content.bubble.box, content.bubble.stroke?.width ?? 0)) : words;
}

/** The box around copies, in the pixels their places lead to. */
function extentOfCopies({ of, places }: Extract<Draw['content'], { kind: 'copies' }>): Region {
  const { x, y, width, height } = extentOf(of);
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < places.length; k += 7) {
    const [a, b, c, d, e, f] = places.subarray(k, k + 6) as unknown as [number, number, number, number, number, number];
    for (const u of [x, x + width])
      for (const v of [y, y + height]) {
        [left, right] = [Math.min(left, a * u + c * v + e), Math.max(right, a * u + c * v + e)];
        [top, bottom] = [Math.min(top, b * u + d * v + f), Math.max(bottom, b * u + d * v + f)];
      }
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

const grown = ({ x, y, width, height }: Region, by: number): Region => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

function unionOf(a: Region, b: Region): Region {
  const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
  const [right, bottom] = [Math.max(a.x + a.width, b.x + b.width), Math.max(a.y + a.height, b.y + b.height)];
  return { x, y, width: right - x, height: bottom - y };
}

function everywhere({ surface }: PaintView): { region: Region; box: Region } {
  const all = { x: 0, y: 0, ...surface };
  return { region: all, box: all };
}

/** The part of a surface on which a draw and what its finishes add to it are seen. */
export function seenRegion(draw: Draw, view: PaintView, reach: number): { region: Region; box: Region } {
  const [a, b, c, d, e, f] = draw.matrix;
  // Letters on their way may be anywhere.
  if (draw.content.kind === 'text' && draw.content.arrivals.length > 0) return everywhere(view);
  const extent = extentOf(draw);
  const xs: number[] = [];
  const ys: number[] = [];
  for (const u of [extent.x, extent.x + extent.width])
    for (const v of [extent.y, extent.y + extent.height]) {
      xs.push((a * u + c * v + e) * view.scale + view.x);
      ys.push((b * u + d * v + f) * view.scale + view.y);
    }
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const box = { x: left, y: top, width: Math.max(...xs) - left, height: Math.max(...ys) - top };
  const x = Math.max(0, Math.floor(left - reach));
  const y = Math.max(0, Math.floor(top - reach));
  const right = Math.min(view.surface.width, Math.ceil(left + box.width + reach));
  const bottom = Math.min(view.surface.height, Math.ceil(top + box.height + reach));
  return { region: { x, y, width: right - x, height: bottom - y }, box };
}

/** Pixels of the content per pixel of its box at which it is rasterised: whole halvings or doublings, so few are kept. */
export function rasterOf(draw: Draw, image: { width: number } | null, view: PaintView): number {
  if (image) return image.width / draw.width;
  const [a, b, c, d] = draw.matrix;
  const shown = Math.max(Math.hypot(a, b), Math.hypot(c, d)) * view.scale;
  const most = Math.min(4096 / draw.width, 4096 / draw.height);
  return Math.min(most, 2 ** Math.ceil(Math.log2(Math.max(1e-3, shown))));
}

/** Whether a draw's finishes are applied in its own pixels, before it is placed; else where it is seen. */
export function finishesAtSource({ content, finishes }: Draw): boolean {
  if (!finishes || needsBehind(finishes)) return false;
  if (content.kind === 'text') return content.arrivals.length === 0;
  return content.kind === 'shape' || content.kind === 'drawing' || (content.kind === 'image' && !content.relief);
}

/** Whether the content is the same in other frames. */
const contentStands = ({ content }: Draw): boolean =>
  !(content.kind === 'image' && (content.clip || content.sways.length > 0));

/** Whether the finished content is the same in other frames, so that keeping it saves work. */
const standsStill = (draw: Draw, { list }: DrawFinishes): boolean =>
  list.every(({ frame }) => frame === null) && contentStands(draw);

/** A picture of a draw's content with its finishes, in its own pixels. */
export interface Finished<Image> {
  paper: Scratch<Image>;
  /** Pixels of the paper a pixel of the content has, and where its corner lies in those of the content. */
  raster: number;
  x: number;
  y: number;
  /** To be called when it has been drawn. */
  done(): void;
}

/**
 * The content of a draw finished in its own pixels; one that stands still is kept, so that a draw that only moves is not
 * finished again.
 * @param paintOn paints the content, masked, onto a paper through a view in which content pixels are frame pixels
 */
export function finishedContent<Image>(
  draw: Draw,
  finishes: DrawFinishes,
  raster: number,
  studio: Studio<Image>,
  paintOn: (paper: Scratch<Image>, inner: PaintView) => void,
): Finished<Image> {
  // A frame pixel at rest is 1 / size pixels of the content.
  const scale = raster / finishes.size;
  const { left, top, right, bottom } = sidesOf(draw, finishes, scale);
  const { x, y, width, height } = extentOf(draw);
  const make = (): Scratch<Image> => {
    const paper = studio.scratch(width * raster + left + right + 2, height * raster + top + bottom + 2);
    const surface = { width: paper.width, height: paper.height };
    const origin = { x: left + 1 - x * raster, y: top + 1 - y * raster };
    const paint = (): void => paintOn(paper, { scale: raster, ...origin, frame: draw, surface, missing: [] });
    const name = contentStands(draw) ? `${contentName(draw, raster)} ${[left, top, right, bottom].join()}` : null;
    const { image, from } = contentPixels(paper, studio, name, paint);
    const box = { x: left + 1, y: top + 1, width: width * raster, height: height * raster };
    applyFinishes({ data: image.data, ...surface }, finishes, { scale, box, behind: null }, from);
    paper.context.putImageData(image as never, 0, 0);
    return paper;
  };
  const place = { raster, x: x - (left + 1) / raster, y: y - (top + 1) / raster };
  if (!standsStill(draw, finishes)) {
    const paper = make();
    return { paper, ...place, done: () => studio.release(paper) };
  }
  return { paper: studio.kept(nameOf(draw, finishes, raster), make), ...place, done: () => undefined };
}

interface SpareImage {
  width: number;
  height: number;
  image: { data: Uint8ClampedArray };
}

/** The image each studio wrote to last: memory that is new costs as much as what is done in it. */
const spareImages = new WeakMap<object, SpareImage>();

function spareImage<Image>({ width, height, context }: Scratch<Image>, studio: Studio<Image>): SpareImage['image'] {
  const last = spareImages.get(studio);
  if (last?.width === width && last.height === height) return last.image;
  const image = context.createImageData(width, height);
  spareImages.set(studio, { width, height, image });
  return image;
}

/**
 * What `paint` paints onto a paper, as numbers in `image`; or, where that is known by its name, in `from`, with an image to
 * write to.
 */
function contentPixels<Image>(
  paper: Scratch<Image>,
  studio: Studio<Image>,
  name: string | null,
  paint: () => void,
): { image: { data: Uint8ClampedArray }; from: Uint8ClampedArray | undefined } {
  const { width, height } = paper;
  const painted = paintedPixels(studio);
  const known = name === null ? null : painted.find(name);
  if (known) return { image: spareImage(paper, studio), from: known };
  paint();
  const image = paper.context.getImageData(0, 0, width, height);
  if (name !== null) painted.painted(name, image.data);
  return { image, from: undefined };
}

/** Everything the content's picture depends on, in words. */
function contentName({ content, width, height, masks }: Draw, raster: number): string {
  const own = content.kind === 'image' ? content.file : content;
  return JSON.stringify([own, width, height, masks?.shapes, raster]);
}

/** The same of the finished picture. */
const nameOf = (draw: Draw, finishes: DrawFinishes, raster: number): string =>
  contentName(draw, raster) + JSON.stringify(finishes);
