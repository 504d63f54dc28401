import { viewOfPlane } from '../depth/camera.ts';
import { propKind } from '../props/props.ts';
import { speckSize, type Field, type PropMoment, type PropPart, type Specks } from '../props/prop.ts';
import type { Draw, DrawSlab, PropContent } from '../scene/draw.ts';
import { compose, type Matrix } from '../scene/matrix.ts';
import type { Scratch, Studio, Surface2D } from './surface.ts';
import { rasterFor } from './raster.ts';
import { setMatrix, type PaintView } from './view.ts';

/** Sides of the small pictures specks are drawn from: the next larger than it is seen, so that none is thinned out. */
const spriteSides = [4, 8, 16, 32, 64, 128] as const;
/** A speck is never drawn thinner than this, in surface pixels to each side: it is made fainter instead. */
const thinnest = 0.6;

/** Draws a prop: what stands still is made once and kept, what moves costs only itself. */
export function paintProp<Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  content: PropContent,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const kind = propKind(content.prop);
  if (!kind) return;
  const raster = rasterFor(draw, view);
  const { width, height } = draw;
  const { related = {}, covered = 0 } = content.given ?? {};
  const moment: PropMoment = { frame: content.frame ?? 0, loop: content.loop, width, height, raster, related, covered };
  const make = (): PropPart[] => kind.make(content.values as never, moment);
  if (content.frame !== null || content.slab) {
    for (const part of make()) paintPart(surface, part, draw, content.slab, studio, view);
    return;
  }
  const name = JSON.stringify(['prop', content.prop, content.values, related, covered, width, height, raster]);
  const kept = studio.kept(name, () => {
    const paper = studio.scratch(width * raster, height * raster);
    const inner: PaintView = { ...view, scale: raster, x: 0, y: 0, surface: paper };
    for (const part of make()) paintPart(paper.context, part, { ...draw, matrix: upright }, null, studio, inner);
    return paper;
  });
  setMatrix(surface, draw.matrix, view);
  surface.drawImage(kept.image, 0, 0, width, height);
}

const upright: Matrix = [1, 0, 0, 1, 0, 0];

function paintPart<Image>(
  surface: Surface2D<Image>,
  part: PropPart,
  draw: Draw,
  slab: DrawSlab | null,
  studio: Studio<Image>,
  view: PaintView,
): void {
  if (part.kind === 'field') paintField(surface, part, draw, studio, view);
  else paintSpecks(surface, part, draw, slab, studio, view);
}

function paintField<Image>(
  surface: Surface2D<Image>,
  { data, width, height }: Field,
  draw: Draw,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const paper = studio.scratch(width, height);
  const image = paper.context.createImageData(width, height);
  image.data.set(data);
  paper.context.putImageData(image as never, 0, 0);
  setMatrix(surface, draw.matrix, view);
  surface.drawImage(paper.image, 0, 0, draw.width, draw.height);
  studio.release(paper);
}

function paintSpecks<Image>(
  surface: Surface2D<Image>,
  specks: Specks,
  draw: Draw,
  slab: DrawSlab | null,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const { values, colour } = specks;
  const alpha = surface.globalAlpha * (colour[3] ?? 1);
  const before = surface.globalAlpha;
  const place = slab ? slabPlaces(slab, view) : null;
  for (let i = 0; i < values.length; i += speckSize) {
    const [x, y, long, wide, turn, opacity, deep] = values.subarray(i, i + speckSize) as unknown as number[];
    const matrix = place ? place(deep!) : draw.matrix;
    if (!matrix || long! <= 0) continue;
    const unit = Math.hypot(matrix[0], matrix[1]) * view.scale;
    const [l, w] = [Math.max(long!, thinnest / unit), Math.max(wide!, thinnest / unit)];
    const seen = (opacity! * alpha * long! * wide!) / (l * w);
    if (seen < 1 / 512) continue;
    const [cos, sin] = [Math.cos(turn!), Math.sin(turn!)];
    surface.globalAlpha = Math.min(1, seen);
    setMatrix(surface, compose(matrix, [cos * l, sin * l, -sin * w, cos * w, x!, y!]), view);
    surface.drawImage(spriteOf(specks, studio, 2 * Math.max(w, Math.min(l, 2 * w)) * unit).image, -1, -1, 2, 2);
  }
  surface.globalAlpha = before;
}

/** Where what lies at a depth of the slab is seen; null for what another slice shows or the lens has passed. */
function slabPlaces(slab: DrawSlab, view: PaintView): (deep: number) => Matrix | null {
  const { near, far, from, to, camera, toRest } = slab;
  const { width, height } = view.frame;
  const known = new Map<number, Matrix | null>();
  return (deep) => {
    if (deep < from || deep >= to) return null;
    // In steps no eye can tell apart.
    const step = Math.round(deep * 256);
    const found = known.get(step);
    if (found !== undefined) return found;
    const plane = viewOfPlane(camera, near + (far - near) * (step / 256));
    const made = plane && compose([1, 0, 0, 1, width / 2, height / 2], compose(matrixOf(plane), toRest));
    known.set(step, made);
    return made;
  };
}

function matrixOf({ scale, x, y, turn }: { scale: number; x: number; y: number; turn: number }): Matrix {
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  return compose([cos, sin, -sin, cos, 0, 0], [scale, 0, 0, scale, x, y]);
}

/** @param seen how large it is seen, in surface pixels */
function spriteOf<Image>({ form, soft, colour }: Specks, studio: Studio<Image>, seen: number): Scratch<Image> {
  const [r, g, b] = colour.map(Math.round) as [number, number, number];
  const spriteSide = spriteSides.find((side) => side >= seen) ?? spriteSides.at(-1)!;
  return studio.kept(`speck ${form} ${soft} ${r} ${g} ${b} ${spriteSide}`, () => {
    const paper = studio.scratch(spriteSide, spriteSide);
    const image = paper.context.createImageData(spriteSide, spriteSide);
    for (let y = 0, i = 0; y < spriteSide; y++)
      for (let x = 0; x < spriteSide; x++, i += 4) {
        const [u, v] = [((x + 0.5) / spriteSide) * 2 - 1, ((y + 0.5) / spriteSide) * 2 - 1];
        image.data.set([r, g, b, 255 * profile(form, soft, u, v, 2 / spriteSide)], i);
      }
    paper.context.putImageData(image as never, 0, 0);
    return paper;
  });
}

/** How opaque a speck is at a place of its square from -1 to 1. @param pixel size of a pixel in that square */
function profile(form: Specks['form'], soft: number, u: number, v: number, pixel: number): number {
  if (form === 'paper') return Math.max(0, Math.min(1, (1 - pixel - Math.max(Math.abs(u), Math.abs(v))) / pixel + 0.5));
  const off = Math.hypot(u, v);
  const edge = Math.max(0, Math.min(1, (1 - pixel - off) / pixel + 0.5));
  if (form === 'bokeh') return edge * (0.45 + 0.55 * Math.max(0, Math.min(1, (off - 0.7) / 0.25)));
  if (soft === 0) return edge;
  const bell = Math.exp(-((off * 1.9) ** 2)) * Math.min(1, Math.max(0, 1 - off) * 3);
  const start = 1 - soft;
  const ramp = off <= start ? 1 : Math.max(0, 1 - (off - start) / soft);
  return (1 - soft) * ramp + soft * bell;
}
