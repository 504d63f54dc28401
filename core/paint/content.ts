import type { Content, Draw, DrawRelief, ImageContent } from '../scene/draw.ts';
import type { BubbleNow } from '../scene/bubble-now.ts';
import { compose, invert, type Matrix } from '../scene/matrix.ts';
import { drawingOf } from '../formats/svg/drawing-list.ts';
import { lettersOf } from '../text/lettering.ts';
import { paintText } from './letters.ts';
import { setMatrix } from './view.ts';
import { cssColour, strokeWith } from './ink.ts';
import { paintCopies } from './copies.ts';
import { paintDrawing } from './drawing.ts';
import { finishedContent, finishesAtSource, rasterOf } from './finished.ts';
import { paintGradient } from './gradient.ts';
import { keepMasked } from './masks.ts';
import { paintProp } from './prop.ts';
import { paintSpread } from './spread.ts';
import { trace } from './trace.ts';
import type { PaintView } from './view.ts';
import type { Plane, Rgba } from '../pixels/raster.ts';
import { closenessOf } from '../depth/relief.ts';
import { projected, relieved, swayed } from './warp.ts';
import type { PlacedPixels } from './warps.ts';
import type { Studio, Surface2D } from './surface.ts';

type Kind = Content['kind'];
type Painter<K extends Kind> = <Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  content: Extract<Content, { kind: K }>,
  studio: Studio<Image>,
  view: PaintView,
) => void;

/** Draws that are made of others have no pixels of their own: they are painted where draws are laid over one another. */
const madeOfOthers = (): void => undefined;

/** How each kind of content is drawn. The compiler asks for a line here for every new kind. */
const painters: { [K in Kind]: Painter<K> } = {
  together: madeOfOthers,
  grade: madeOfOthers,
  mean: madeOfOthers,
  image: paintImage,
  prop: paintProp,
  copies: (surface, draw, content, studio, view) =>
    paintCopies(surface, draw, content, studio, view, (on, one, inner) => paintContent(on, one, studio, inner)),
  drawing: paintDrawing,
  spread: paintSpread,
  flat: (surface, _draw, { colour }, _studio, { scale, x, y, frame }) => {
    surface.setTransform(1, 0, 0, 1, 0, 0);
    surface.fillStyle = cssColour(colour);
    surface.fillRect(x, y, frame.width * scale, frame.height * scale);
  },
  shape: paintShape,
  text: (surface, draw, content, _studio, view) => {
    if (content.bubble) paintBubble(surface, draw, content.bubble, view);
    setMatrix(surface, draw.matrix, view);
    paintText(surface, draw.matrix, content, view);
  },
};

/** Draws what a draw shows with the surface's alpha and blend as they are; its blur, masks and window are not its matter. */
export function paintContent<Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  studio: Studio<Image>,
  view: PaintView,
): void {
  if (finishesAtSource(draw)) return paintFinished(surface, draw, studio, view);
  (painters[draw.content.kind] as Painter<Kind>)(surface, draw, draw.content, studio, view);
}

/** What is drawn where a draw with finishes is wanted: its content finished in its own pixels, then placed. */
function paintFinished<Image>(surface: Surface2D<Image>, draw: Draw, studio: Studio<Image>, view: PaintView): void {
  const { content, masks } = draw;
  const missing = missingFor(content, studio);
  if (missing !== null) return void view.missing.push(missing);
  const image = content.kind === 'image' ? studio.sizeOf(studio.imageOf(content.file)!) : null;
  const plain = content.kind === 'image' ? { ...content, corners: null } : content;
  const made = finishedContent(draw, draw.finishes!, rasterOf(draw, image, view), studio, (paper, inner) => {
    paintContent(paper.context, { ...draw, content: plain, matrix: upright, finishes: null }, studio, inner);
    if (!masks) return;
    const matrix = compose(invert(draw.matrix), masks.matrix);
    keepMasked(paper, { shapes: masks.shapes, matrix }, studio, inner);
  });
  const { paper, raster, x, y } = made;
  const { width, height } = paper;
  const corners = content.kind === 'image' ? content.corners : null;
  if (corners) {
    const { data } = paper.context.getImageData(0, 0, width, height);
    const pixels: PlacedPixels = { data: data as PlacedPixels['data'], width, height, x: x * raster, y: y * raster };
    const seen = projected(pixels, { ...draw, corners, shrink: raster }, view);
    surface.setTransform(1, 0, 0, 1, 0, 0);
    if (seen) paintPixels(surface, seen, studio, 1);
  } else {
    setMatrix(surface, draw.matrix, view);
    surface.drawImage(paper.image, x, y, width / raster, height / raster);
  }
  made.done();
}

const upright: Matrix = [1, 0, 0, 1, 0, 0];

/** What a content needs that is not there: a file, a drawing, or the face of a text. */
function missingFor<Image>(content: Content, studio: Studio<Image>): string | null {
  if (content.kind === 'image') return studio.imageOf(content.file) === undefined ? content.file : null;
  if (content.kind === 'drawing' && !drawingOf(content.file)) return `drawing:${content.file}`;
  return content.kind === 'text' && !lettersOf(content.text) ? `face:${content.text.face}` : null;
}

/** The line around it first, so that none of it lies within. */
function paintBubble<Image>(
  surface: Surface2D<Image>,
  { matrix }: Draw,
  { outlines, colour, stroke }: BubbleNow,
  view: PaintView,
): void {
  setMatrix(surface, matrix, view);
  surface.beginPath();
  for (const path of outlines) trace(surface, path);
  strokeWith(surface, stroke && { ...stroke, width: 2 * stroke.width });
  surface.fillStyle = cssColour(colour);
  surface.fill();
}

function paintShape<Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  content: Extract<Content, { kind: 'shape' }>,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const { fill, gradient, paths, stroke } = content;
  if (fill && gradient) paintGradient(surface, draw, { gradient, box: content.box, paths }, studio, view);
  setMatrix(surface, draw.matrix, view);
  surface.beginPath();
  for (const path of paths) trace(surface, path);
  if (fill && !gradient) {
    surface.fillStyle = cssColour(fill);
    surface.fill();
  }
  strokeWith(surface, stroke);
}

function paintImage<Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  content: ImageContent,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const image = studio.imageOf(content.file);
  if (image === undefined) {
    view.missing.push(content.file);
    return;
  }
  if (content.sways.length === 0 && !content.corners && !content.relief) {
    setMatrix(surface, draw.matrix, view);
    surface.drawImage(image, 0, 0, draw.width, draw.height);
    return;
  }
  // What is warped is computed pixel by pixel: canvas has no such transformations.
  const pixels = studio.pixelsOf(image);
  const shrink = pixels.width / draw.width;
  let warped: PlacedPixels = { ...pixels, x: 0, y: 0 };
  if (content.sways.length > 0) warped = swayed(pixels, content.sways, shrink);
  if (content.relief) {
    paintRelief(surface, warped, content.relief, draw.width, studio, { ...view, shrink });
    return;
  }
  if (!content.corners) {
    setMatrix(surface, draw.matrix, view);
    paintPixels(surface, warped, studio, 1 / shrink);
    return;
  }
  const seen = projected(warped, { ...draw, corners: content.corners, shrink }, view);
  if (!seen) return;
  surface.setTransform(1, 0, 0, 1, 0, 0);
  paintPixels(surface, seen, studio, 1);
}

/** Closeness of depth maps that are looked at frame after frame. */
const closenesses = new WeakMap<Rgba['data'], Plane>();
function closenessKept(pixels: Rgba): Plane {
  const known = closenesses.get(pixels.data) ?? closenessOf(pixels);
  closenesses.set(pixels.data, known);
  return known;
}

function paintRelief<Image>(
  surface: Surface2D<Image>,
  picture: PlacedPixels,
  relief: DrawRelief,
  width: number,
  studio: Studio<Image>,
  view: PaintView & { shrink: number },
): void {
  const map = studio.imageOf(relief.file);
  if (map === undefined) {
    view.missing.push(relief.file);
    return;
  }
  const behind = relief.behind && behindIn(relief.behind, width, studio, view.missing);
  const seen = relieved(picture, closenessKept(studio.pixelsOf(map)), relief, view, behind);
  surface.setTransform(1, 0, 0, 1, 0, 0);
  paintPixels(surface, seen, studio, 1);
}

/** What comes to light behind a picture `width` wide; null while it is not there. */
function behindIn<Image>(
  { picture, depth }: NonNullable<DrawRelief['behind']>,
  width: number,
  studio: Studio<Image>,
  missing: string[],
): { picture: PlacedPixels; map: Plane; shrink: number } | null {
  const [image, map] = [studio.imageOf(picture), studio.imageOf(depth)];
  if (image === undefined || map === undefined) {
    missing.push(image === undefined ? picture : depth);
    return null;
  }
  const pixels = studio.pixelsOf(image);
  const shrink = pixels.width / width;
  return { picture: { ...pixels, x: 0, y: 0 }, map: closenessKept(studio.pixelsOf(map)), shrink };
}

/** Draws computed pixels, each `size` units large, where they lie. */
function paintPixels<Image>(
  surface: Surface2D<Image>,
  { data, width, height, x, y }: PlacedPixels,
  studio: Studio<Image>,
  size: number,
): void {
  const paper = studio.scratch(width, height);
  const made = paper.context.createImageData(width, height);
  made.data.set(data);
  paper.context.putImageData(made as never, 0, 0);
  surface.drawImage(paper.image, x * size, y * size, width * size, height * size);
  studio.release(paper);
}
