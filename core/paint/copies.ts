import type { Content, Draw } from '../scene/draw.ts';
import { compose, type Matrix } from '../scene/matrix.ts';
import { extentOf } from './finished.ts';
import { resetContext, type Studio, type Surface2D } from './surface.ts';
import { setMatrix, type PaintView } from './view.ts';

type CopiesContent = Extract<Content, { kind: 'copies' }>;

/** No picture of a copy is longer than this, in pixels. */
const largest = 8192;
/** Empty pixels around the picture of one copy, so that its edge stays soft. */
const margin = 2;

/**
 * Draws many copies of one draw: it is painted once, as large as the largest of them is seen, and laid where each belongs.
 * @param paint paints a draw's content
 */
export function paintCopies<Image>(
  surface: Surface2D<Image>,
  { matrix: base }: Draw,
  { of, places }: CopiesContent,
  studio: Studio<Image>,
  view: PaintView,
  paint: (surface: Surface2D<Image>, draw: Draw, inner: PaintView) => void,
): void {
  const { x, y, width, height } = extentOf(of);
  const raster = Math.min(largest / Math.max(width, height), largestOf(places) * sizeOf(base) * view.scale);
  const paper = studio.scratch(width * raster + 2 * margin, height * raster + 2 * margin);
  const inner = { scale: raster, x: margin - x * raster, y: margin - y * raster, frame: of, surface: paper };
  paint(paper.context, { ...of, matrix: upright, opacity: 1 }, { ...view, ...inner });
  resetContext(paper.context);
  const [left, top] = [x - margin / raster, y - margin / raster];
  const [wide, high] = [paper.width / raster, paper.height / raster];
  const alpha = surface.globalAlpha;
  let opacity = 1;
  setMatrix(surface, base, view);
  for (let k = 0; k < places.length; k += 7) {
    const [a, b, c, d, e, f] = places.subarray(k, k + 6) as unknown as Matrix;
    if (places[k + 6] !== opacity) {
      opacity = places[k + 6]!;
      surface.globalAlpha = alpha * opacity;
    }
    // What is only moved and grown is laid without another transformation, which costs as much as the drawing.
    if (b === 0 && c === 0 && a > 0 && d > 0)
      surface.drawImage(paper.image, a * left + e, d * top + f, a * wide, d * high);
    else {
      setMatrix(surface, compose(base, [a, b, c, d, e, f]), view);
      surface.drawImage(paper.image, left, top, wide, high);
      setMatrix(surface, base, view);
    }
  }
  surface.globalAlpha = alpha;
  studio.release(paper);
}

const upright: Matrix = [1, 0, 0, 1, 0, 0];

const sizeOf = ([a, b, c, d]: Matrix): number => Math.sqrt(Math.abs(a * d - b * c));

function largestOf(places: Float64Array): number {
  let most = 0;
  for (let k = 0; k < places.length; k += 7)
    most = Math.max(most, Math.abs(places[k]! * places[k + 3]! - places[k + 1]! * places[k + 2]!));
  return Math.sqrt(most);
}
