import { brushWeight, drawStroke, movedStroke, type Stroke } from '../cut/strokes.ts';
import { dilate } from '../pixels/distance.ts';
import { withColoursGoingOn } from '../pixels/emptiness.ts';
import type { Progress } from '../pixels/progress.ts';
import { alphaOf, boundsOf, cropRgba, makeBytes, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { holeUnder, rebuildBehind, type Behind, type LiftedAlpha } from '../rebuild/behind.ts';
import { rebuild, type Preview } from '../rebuild/fill.ts';
import { barredBy, type Guides } from '../rebuild/guides.ts';
import { retouch, type Touch } from '../rebuild/retouch.ts';
import { hiddenBy, withoutShadow } from '../rebuild/shadow-layer.ts';
import { onLargerGround } from '../rebuild/widen.ts';
import { standsInPicture } from '../document/recipe-steps.ts';
import type { Document, Picture } from '../document/document.ts';
import type { PlateMix, PlateOrder } from '../document/plate.ts';
import { seenThrough } from '../scene/seen.ts';

/** A plate's pixels, and where its upper left corner lies in picture pixels. */
export interface PlatePixels {
  plate: Rgba;
  x: number;
  y: number;
}

export interface PlateWork {
  document: Document;
  picture: Picture;
  /** Pixels of a stored file. */
  load(file: string): Promise<Rgba>;
  progress?: Progress;
  preview?: Preview;
}

export interface MadeStep extends PlatePixels {
  /** The part that a take of this step replaces, in picture pixels; null when nothing changed. */
  changed: Rect | null;
}

/** Carries out one step on the plate before it. @throws NothingToContinue, NothingInCommon, Cancelled */
export async function makeStep(order: PlateOrder, before: PlatePixels, work: PlateWork): Promise<MadeStep> {
  if (order.kind === 'behind') {
    const made = await makeBehind(order, work);
    return { plate: made.plate, x: 0, y: 0, changed: boundsOf(made.hole) };
  }
  if (order.kind === 'retouch') return retouched(order.touches, before, work.progress);
  const { x, y } = before;
  if (order.kind === 'widen') {
    const ground = onLargerGround(before.plate, order.pad);
    const plate = await mixedTakes(
      order.seed,
      order.mix,
      [x - order.pad.left, y - order.pad.top],
      ground.hole,
      (seed) => rebuild({ ...ground, seed }, work.progress, work.preview),
    );
    return placed(plate, x - order.pad.left, y - order.pad.top, ground.hole);
  }
  const { plate } = before;
  const region = makeBytes(plate.width, plate.height);
  for (const stroke of order.region) drawStroke(region, movedStroke(stroke, x, y), 1);
  // What is painted over has soft edges; a rim of two pixels takes them along.
  const hole = dilate(region, 2);
  const guides = movedGuides(order.guides, x, y);
  const barred = barredBy(guides, plate.width, plate.height);
  const out = await mixedTakes(order.seed, order.mix, [x, y], hole, (seed) =>
    rebuild({ picture: plate, hole, seed, barred, lines: guides.lines }, work.progress, work.preview),
  );
  return placed(out, x, y, hole);
}

const placed = (plate: Rgba, x: number, y: number, hole: Bytes): MadeStep => {
  const changed = boundsOf(hole);
  return { plate, x, y, changed: changed && { ...changed, x: changed.x + x, y: changed.y + y } };
};

const movedGuides = (guides: Guides, x: number, y: number): Guides => ({
  from: guides.from.map((s) => movedStroke(s, x, y)),
  never: guides.never.map((s) => movedStroke(s, x, y)),
  lines: guides.lines.map(({ from, to }) => ({ from: [from[0] - x, from[1] - y], to: [to[0] - x, to[1] - y] })),
});

/** The chosen take with parts of others painted in, softly, inside the hole. */
async function mixedTakes(
  seed: number,
  mix: readonly PlateMix[],
  [x, y]: readonly [number, number],
  hole: Bytes,
  make: (seed: number) => Promise<Rgba>,
): Promise<Rgba> {
  const out = await make(seed);
  for (const part of mix) {
    const other = await make(part.seed);
    for (const stroke of part.strokes) {
      const weight = brushWeight(out, movedStroke(stroke, x, y), 0.4);
      for (let i = 0; i < weight.length; i++) {
        if (weight[i] === 0 || !hole.data[i]) continue;
        for (let c = i * 4; c < i * 4 + 3; c++)
          out.data[c] = out.data[c]! + weight[i]! * (other.data[c]! - out.data[c]!);
      }
    }
  }
  return out;
}

/** Marks of a brush: what other pieces hide of a piece is no matter of the background. */
type StrokeTouch = Exclude<Touch, { kind: 'behind' }>;

async function retouched(touches: readonly StrokeTouch[], before: PlatePixels, progress?: Progress): Promise<MadeStep> {
  const { x, y } = before;
  let { plate } = before;
  const under = makeBytes(plate.width, plate.height);
  for (const touch of touches) {
    const stroke = movedStroke(touch.stroke, x, y);
    drawStroke(under, { ...stroke, radius: stroke.radius + 3 }, 1);
    plate = await retouch(plate, { ...touch, stroke }, null, progress);
  }
  return placed(plate, x, y, under);
}

/** A piece that is being cut right now: its alpha in place of the stored one's. */
export interface Lifting {
  piece: string;
  alpha: Bytes;
}

export interface MadeBehind extends Behind {
  /** Which piece each of `shadows` belongs to. */
  shadowPieces: string[];
  /** Share of the hole that the shots show; null when all of it was rebuilt. */
  share: number | null;
}

/**
 * The plate behind all lifted pieces of a picture. Shadows that were lifted before are taken as they are, unless a piece
 * is being lifted, or they have no layer yet.
 */
export async function makeBehind(
  order: Extract<PlateOrder, { kind: 'behind' }>,
  work: PlateWork,
  lifting?: Lifting,
): Promise<MadeBehind> {
  const inputs = await behindInputs(work, lifting);
  const { document, picture, load } = work;
  const shadows = inputs.shadows.map((shadow) => shadow.region);
  const hole = await holeUnder({ picture: inputs.ground, pieces: inputs.pieces, shadows }, work.progress);
  let seen: Bytes | null = null;
  let share: number | null = null;
  if (order.onlySeen) {
    const found = seenThrough(document, picture.id, hole, (file) => inputs.alphas.get(file) ?? null);
    // Before any layer hangs, everything may come to be seen.
    if (found.share > 0) ({ seen, share } = found);
  }
  const other = order.photo ? document.pictures.find((p) => p.id === order.photo) : undefined;
  const make = (seed: number): Promise<Behind> =>
    photo.then((pixels) =>
      rebuildBehind(
        {
          picture: inputs.ground,
          pieces: inputs.pieces,
          shadows,
          hole,
          seed,
          guides: order.guides,
          seen,
          photo: pixels,
        },
        work.progress,
        work.preview,
      ),
    );
  const photo = other ? load(other.file) : Promise.resolve(null);
  const first = await make(order.seed);
  const plate =
    order.mix.length === 0
      ? first.plate
      : await mixedTakes(order.seed, order.mix, [0, 0], first.hole, async (seed) =>
          seed === order.seed ? { ...first.plate, data: first.plate.data.slice() } : (await make(seed)).plate,
        );
  return { ...first, plate, share, shadowPieces: inputs.shadows.map((s) => s.piece) };
}

async function behindInputs({ document, picture, load }: PlateWork, lifting: Lifting | undefined) {
  const pieces: LiftedAlpha[] = [];
  const shadows: { piece: string; region: Stroke[] }[] = [];
  const alphas = new Map<string, Bytes>();
  let ground = withColoursGoingOn(await load(picture.file));
  // What a key took stood before a screen; nothing behind it is rebuilt.
  const solid = document.pieces.filter((p) => p.recipe.kind === 'shadow' || standsInPicture(p.recipe));
  for (const piece of solid.filter((p) => p.picture === picture.id)) {
    const cutout = piece.cutout && (await load(piece.cutout.file));
    const stored = cutout && alphaOf(cutout);
    if (stored) alphas.set(piece.cutout!.file, stored);
    if (piece.recipe.kind === 'shadow') {
      if (cutout && !lifting) {
        const { x, y } = piece.cutout!.bounds;
        ground = withoutShadow(ground, cutout, x, y);
        // Where it is deepest nothing is left to be made lighter: the ground is continued there as behind a piece.
        pieces.push({ alpha: hiddenBy(cutout), x, y });
      } else shadows.push({ piece: piece.id, region: piece.recipe.region });
    } else if (piece.id === lifting?.piece) pieces.push({ alpha: lifting.alpha, x: 0, y: 0 });
    else if (stored) pieces.push({ alpha: stored, x: piece.cutout!.bounds.x, y: piece.cutout!.bounds.y });
  }
  return { ground, pieces, shadows, alphas };
}

/** The part of a made step that a take keeps. */
export function takePart(made: MadeStep): { part: Rgba; bounds: Rect } | null {
  const { changed } = made;
  if (!changed) return null;
  const part = cropRgba(made.plate, { ...changed, x: changed.x - made.x, y: changed.y - made.y });
  return { part, bounds: changed };
}
