import type { Point } from '../path/path.ts';
import type { Related } from '../props/prop.ts';
import type { Draw, PropContent } from '../scene/draw.ts';
import { transform } from '../scene/matrix.ts';
import { resetContext, type Studio, type Surface2D } from './surface.ts';
import type { PaintView } from './view.ts';

/** Pixels along the longer side of the picture of which an edge is taken. */
const edgePixels = 220;
/** Pixels along the side of the picture by which it is told how far a light is covered. */
const coverPixels = 15;
/** In so many steps a light is covered: finer ones could not be told apart, and would be kept one by one. */
const coverSteps = 48;

type PaintDraws = <Image>(
  surface: Surface2D<Image>,
  draws: readonly Draw[],
  studio: Studio<Image>,
  view: PaintView,
) => void;

/** A draw whose prop, where it is one, knows what other layers give to it and how far they cover it. */
export function withRelations<Image>(draw: Draw, studio: Studio<Image>, view: PaintView, paint: PaintDraws): Draw {
  const { content } = draw;
  if (content.kind !== 'prop' || (!content.cover && Object.keys(content.related).length === 0)) return draw;
  const related = relatedOf(content.related, draw, studio, view, paint);
  const covered = content.cover ? coverAt(content.cover, draw, studio, view, paint) : 0;
  return { ...draw, content: { ...content, given: { related, covered } } };
}

/** What other layers give to a prop: lines and places as they are, of draws the edge they are seen with. */
function relatedOf<Image>(
  related: PropContent['related'],
  size: { width: number; height: number },
  studio: Studio<Image>,
  view: PaintView,
  paint: PaintDraws,
): Record<string, Related> {
  return Object.fromEntries(
    Object.entries(related).map(([key, { path, place, draws }]): [string, Related] => [
      key,
      draws ? { edge: edgeOf(draws, size, studio, view, paint) } : { path, place },
    ]),
  );
}

/** Edges that were found, by what they were found of: most layers stand still. */
const edges = new Map<string, Point[]>();

/** Places along the edge of draws, in the pixels they are in. */
function edgeOf<Image>(
  draws: readonly Draw[],
  { width, height }: { width: number; height: number },
  studio: Studio<Image>,
  view: PaintView,
  paint: PaintDraws,
): Point[] {
  const key = JSON.stringify([draws, width, height]);
  const known = edges.get(key);
  if (known) return known;
  const scale = edgePixels / Math.max(width, height);
  const paper = studio.scratch(width * scale, height * scale);
  const surface = { width: paper.width, height: paper.height };
  const missing: string[] = [];
  paint(paper.context, draws, studio, { scale, x: 0, y: 0, frame: { width, height }, surface, missing });
  resetContext(paper.context);
  const { data } = paper.context.getImageData(0, 0, paper.width, paper.height);
  const inside = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < surface.width && y < surface.height && data[(y * surface.width + x) * 4 + 3]! >= 128;
  const found: Point[] = [];
  for (let y = 0; y < surface.height; y++)
    for (let x = 0; x < surface.width; x++) {
      // What is cut off by the border of the box is no edge.
      const open = [
        [-1, 0],
        [1, 0],
        [0, -1],
        [0, 1],
      ].some(([dx, dy]) => {
        const [u, v] = [x + dx!, y + dy!];
        return u >= 0 && v >= 0 && u < surface.width && v < surface.height && !inside(u, v);
      });
      if (open && inside(x, y)) found.push([(x + 0.5) / scale, (y + 0.5) / scale]);
    }
  studio.release(paper);
  view.missing.push(...missing);
  if (missing.length > 0) return found;
  edges.set(key, found);
  if (edges.size > 40) edges.delete(edges.keys().next().value!);
  return found;
}

/** The share of a small place on a prop that draws cover, 0..1. */
function coverAt<Image>(
  { at, draws }: NonNullable<PropContent['cover']>,
  { matrix, height }: Draw,
  studio: Studio<Image>,
  view: PaintView,
  paint: PaintDraws,
): number {
  const [x, y] = transform(matrix, ...at);
  // As large as the lamp itself may be seen.
  const reach = Math.max(3, 0.012 * height * Math.hypot(matrix[0], matrix[1]));
  const paper = studio.scratch(coverPixels, coverPixels);
  const scale = coverPixels / (2 * reach);
  const surface = { width: coverPixels, height: coverPixels };
  const inner: PaintView = { ...view, scale, x: (reach - x) * scale, y: (reach - y) * scale, surface };
  paint(paper.context, draws, studio, inner);
  resetContext(paper.context);
  const { data } = paper.context.getImageData(0, 0, coverPixels, coverPixels);
  let sum = 0;
  for (let i = 3; i < data.length; i += 4) sum += data[i]!;
  studio.release(paper);
  return Math.round((sum / (255 * coverPixels ** 2)) * coverSteps) / coverSteps;
}
