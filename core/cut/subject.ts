import { dilate } from '../pixels/distance.ts';
import { lumaOf } from '../pixels/color.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  makePlane,
  pasteBytes,
  type Bytes,
  type Plane,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { halve } from '../pixels/resample.ts';
import type { ColourRatio } from './colour-model.ts';
import { centredLogOdds, fadedPrior, finalPrior, modelColours, noveltyOf, withStrokeInfluence } from './evidence.ts';
import { contrastScale, DROP, FREE, KEEP, solveGraphCut } from './graph-cut.ts';
import { saliencyOf, type Answer } from './saliency.ts';
import { drawAnyStroke } from './stroke-within-edges.ts';
import { drawStroke, movedStroke, type Stroke } from './strokes.ts';
import { superpixelsOf } from './superpixels.ts';
import { bandWithThinParts, dropSpecks } from './thin-parts.ts';

/** What the user asked for; everything needed to find the same mask again. */
export interface SubjectRequest {
  answer: Answer;
  keep: readonly Stroke[];
  drop: readonly Stroke[];
  /** Only what lies inside is taken; picture pixels. */
  box: Rect | null;
}

export interface SubjectMask {
  /** 1 where the piece is, size of the picture. */
  mask: Bytes;
  /** What may differ from the previous answer of the same session; null when nothing does. */
  changed: Rect | null;
}

interface Evidence {
  prior: Plane;
  novelty: Plane;
}

interface Level {
  picture: Rgba;
  beta: number;
  mask: Bytes | null;
}

/** The coarsest level is at most this long: large enough for a mast, small enough for a cut in some tens of milliseconds. */
const coarsestEdge = 400;
const smoothness = 14;

/**
 * Finds a mask in one picture, again and again as strokes are added. The picture is solved at a coarse level by saliency,
 * colour models and minimum cuts, then again in a narrow band at every finer level. Later requests start from the
 * previous answer and refine only where the coarse answer changed.
 */
export class CutSession {
  private readonly levels: Level[] = [];
  private readonly priors = new Map<Answer, Evidence>();
  private previous: SubjectRequest | null = null;
  /** A session of its own for the last box, on the part of the picture around it. */
  private inBox: { box: Rect; area: Rect; session: CutSession } | null = null;

  constructor(private readonly picture: Rgba) {
    let level = picture;
    for (;;) {
      this.levels.push({ picture: level, beta: contrastScale(level), mask: null });
      if (Math.max(level.width, level.height) <= coarsestEdge) break;
      level = halve(level);
    }
  }

  /** The mask for a request, at full size. */
  solve(request: SubjectRequest): SubjectMask {
    return request.box ? this.solveInBox(request, request.box) : this.solveHere(request);
  }

  /**
   * Around a box the rim of the box's surroundings is background for certain, which is just what saliency looks for; so the
   * box with a margin is solved as a picture of its own, at a finer scale than the whole would allow.
   */
  private solveInBox(request: SubjectRequest, box: Rect): SubjectMask {
    const { width, height } = this.picture;
    if (!this.inBox || !sameBox(this.inBox.box, box)) {
      const margin = Math.round(0.14 * Math.max(box.width, box.height)) + 4;
      const rounded = {
        x: Math.floor(box.x),
        y: Math.floor(box.y),
        width: Math.ceil(box.width),
        height: Math.ceil(box.height),
      };
      const area = growRect(rounded, margin, width, height);
      this.inBox = { box, area, session: new CutSession(cropRgba(this.picture, area)) };
    }
    const { area, session } = this.inBox;
    const moved = (strokes: readonly Stroke[]): Stroke[] =>
      strokes.map((stroke) => movedStroke(stroke, area.x, area.y));
    const part = session.solveHere({
      answer: 'subject',
      keep: moved(request.keep),
      drop: moved(request.drop),
      box: { ...box, x: box.x - area.x, y: box.y - area.y },
    });
    const mask = makeBytes(width, height);
    pasteBytes(mask, part.mask, area.x, area.y);
    this.previous = null;
    return { mask, changed: { x: 0, y: 0, width, height } };
  }

  private solveHere(request: SubjectRequest): SubjectMask {
    const coarse = this.levels.at(-1)!;
    const warm =
      this.previous !== null && this.previous.answer === request.answer && sameBox(this.previous.box, request.box);
    const before = warm && coarse.mask ? coarse.mask : null;
    const known = this.levels[0]!.mask;
    if (warm && known && sameStrokes(strokesOf(this.previous), strokesOf(request)))
      return { mask: known, changed: null };
    const seeds = this.seedsAt(this.levels.length - 1, request, wholeOf(coarse.picture), coarse.picture);
    const { mask, colours } = this.solveCoarse(request, seeds, before);
    const dirty = before ? this.dirtyCells(before, mask, request) : null;
    coarse.mask = mask;
    this.previous = request;
    if (dirty && !boundsOf(dirty)) return { mask: this.levels[0]!.mask!, changed: null };
    this.refine(request, colours, dirty);
    const full = this.levels[0]!.mask!;
    const changed = dirty
      ? scaleRect(boundsOf(dirty)!, full.width / dirty.width, full)
      : { x: 0, y: 0, width: full.width, height: full.height };
    return { mask: full, changed };
  }

  /** The user's decisions on a part of a level. @param picture that part */
  private seedsAt(index: number, request: SubjectRequest, area: Rect, picture: Rgba): Bytes {
    const { width, height } = area;
    const scale = this.levels[index]!.picture.width / this.levels[0]!.picture.width;
    const seeds = makeBytes(width, height, FREE);
    const draw = (stroke: Stroke, seed: number): void =>
      drawAnyStroke(seeds, picture, movedStroke(stroke, area.x / scale, area.y / scale), seed, scale);
    for (const stroke of request.keep) draw(stroke, KEEP);
    for (const stroke of request.drop) draw(stroke, DROP);
    const box = request.box;
    if (!box) return seeds;
    for (let y = 0; y < height; y++) {
      const py = (area.y + y + 0.5) / scale;
      for (let x = 0; x < width; x++) {
        const px = (area.x + x + 0.5) / scale;
        const outside = px < box.x || py < box.y || px > box.x + box.width || py > box.y + box.height;
        if (outside) seeds.data[y * width + x] = DROP;
      }
    }
    return seeds;
  }

  /** Log odds from saliency and from colours the background does not have, at the coarsest level. */
  private evidenceFor(request: SubjectRequest): Evidence {
    const { picture } = this.levels.at(-1)!;
    let evidence = this.priors.get(request.answer);
    if (!evidence) {
      const luma = makePlane(picture.width, picture.height);
      for (let i = 0; i < luma.data.length; i++) {
        luma.data[i] = lumaOf(picture.data[i * 4]!, picture.data[i * 4 + 1]!, picture.data[i * 4 + 2]!);
      }
      const saliency = saliencyOf(superpixelsOf(picture, 400), luma, request.answer);
      const prior = centredLogOdds(saliency);
      const novelty =
        request.answer === 'subject' ? noveltyOf(picture, prior) : makePlane(picture.width, picture.height);
      evidence = { prior, novelty };
      this.priors.set(request.answer, evidence);
    }
    return evidence;
  }

  private solveCoarse(
    request: SubjectRequest,
    seeds: Bytes,
    before: Bytes | null,
  ): { mask: Bytes; colours: ColourRatio } {
    const { picture, beta } = this.levels.at(-1)!;
    const count = picture.width * picture.height;
    const { prior: saliency, novelty } = this.evidenceFor(request);
    const prior = withStrokeInfluence(saliency, picture, seeds);
    const mask = makeBytes(picture.width, picture.height);
    for (let i = 0; i < count; i++) {
      const seed = seeds.data[i]!;
      mask.data[i] =
        seed === KEEP
          ? 1
          : seed === DROP
            ? 0
            : before
              ? before.data[i]!
              : prior.data[i]! + novelty.data[i]! > 0
                ? 1
                : 0;
    }
    const active = Int32Array.from({ length: count }, (_, i) => i);
    let colours = modelColours(picture, mask, seeds, prior);
    const rounds = before ? 1 : 4;
    for (let round = 0; round < rounds; round++) {
      if (round > 0) colours = modelColours(picture, mask, seeds, prior);
      // Saliency starts the cut; the colours it leads to then speak louder than it.
      const fading = before
        ? fadedPrior(prior, finalPrior)
        : round === 0
          ? prior
          : fadedPrior(prior, Math.max(finalPrior, 1 - 0.3 * round));
      solveGraphCut({ picture, seeds, mask, active, colours, prior: fading, smoothness, beta });
    }
    dropSpecks(mask, seeds, Math.round(count * 0.0004), active);
    // After one stroke the models hardly change; a second fit would cost more than the cut.
    return { mask, colours: before ? colours : modelColours(picture, mask, seeds, prior) };
  }

  /** Cells of the coarsest level whose finer pixels must be decided again. */
  private dirtyCells(before: Bytes, after: Bytes, request: SubjectRequest): Bytes {
    const changed = makeBytes(before.width, before.height);
    for (let i = 0; i < changed.data.length; i++) changed.data[i] = before.data[i] !== after.data[i] ? 1 : 0;
    const known = strokesOf(this.previous);
    const now = strokesOf(request);
    const scale = before.width / this.levels[0]!.picture.width;
    for (const [key, stroke] of now) if (!known.has(key)) drawStroke(changed, stroke, 1, scale);
    for (const [key, stroke] of known) if (!now.has(key)) drawStroke(changed, stroke, 1, scale);
    return boundsOf(changed) ? dilate(changed, 3) : changed;
  }

  /** Takes the coarse answer to full size; with `dirty` (coarse cells) only there. */
  private refine(request: SubjectRequest, colours: ColourRatio, dirty: Bytes | null): void {
    const cells = dirty ? boundsOf(dirty)! : null;
    for (let index = this.levels.length - 2; index >= 0; index--) {
      const level = this.levels[index]!;
      const coarser = this.levels[index + 1]!;
      const partial = cells !== null && level.mask !== null;
      const area = partial
        ? scaleRect(cells, level.picture.width / dirty!.width, level.picture)
        : wholeOf(level.picture);
      const picture = partial ? cropRgba(level.picture, area) : level.picture;
      const seeds = this.seedsAt(index, request, area, picture);
      const mask = enlargedPart(coarser.mask!, level.picture, area);
      const within = partial ? enlargedPart(dirty!, level.picture, area) : null;
      const before = partial ? cropBytes(level.mask!, area) : null;
      for (let i = 0; i < mask.data.length; i++) {
        if (within && before && !within.data[i]) mask.data[i] = before.data[i]!;
        else if (seeds.data[i] !== FREE) mask.data[i] = seeds.data[i] === KEEP ? 1 : 0;
      }
      const active = bandWithThinParts(picture, mask, seeds, colours, within);
      solveGraphCut({
        picture,
        seeds,
        mask,
        active,
        colours,
        prior: null,
        smoothness: smoothness * 0.6,
        beta: level.beta,
      });
      dropSpecks(mask, seeds, index === 0 ? 24 : 12, active);
      if (partial) pasteBytes((level.mask = copyOf(level.mask!)), mask, area.x, area.y);
      else level.mask = mask;
    }
  }
}

/** All strokes of a request by what they say: between threads, equal ones are never the same object. */
function strokesOf(request: SubjectRequest | null): Map<string, Stroke> {
  const found = new Map<string, Stroke>();
  for (const kind of ['keep', 'drop'] as const)
    for (const stroke of request?.[kind] ?? []) found.set(`${kind} ${JSON.stringify(stroke)}`, stroke);
  return found;
}

const sameStrokes = (a: Map<string, Stroke>, b: Map<string, Stroke>): boolean =>
  a.size === b.size && [...a.keys()].every((key) => b.has(key));

const wholeOf = ({ width, height }: { width: number; height: number }): Rect => ({ x: 0, y: 0, width, height });
const copyOf = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.slice() });

/** The part of a coarser mask that lies under `area` of the finer level, at the finer size. */
function enlargedPart(coarse: Bytes, finer: { width: number; height: number }, area: Rect): Bytes {
  const out = makeBytes(area.width, area.height);
  const columns = Int32Array.from({ length: area.width }, (_, x) =>
    Math.min(coarse.width - 1, Math.floor(((area.x + x + 0.5) * coarse.width) / finer.width)),
  );
  for (let y = 0; y < area.height; y++) {
    const row =
      Math.min(coarse.height - 1, Math.floor(((area.y + y + 0.5) * coarse.height) / finer.height)) * coarse.width;
    for (let x = 0; x < area.width; x++) out.data[y * area.width + x] = coarse.data[row + columns[x]!]!;
  }
  return out;
}

function sameBox(a: Rect | null, b: Rect | null): boolean {
  return (
    a === b || (a !== null && b !== null && a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height)
  );
}

function scaleRect(rect: Rect, scale: number, within: { width: number; height: number }): Rect {
  const x = Math.max(0, Math.floor(rect.x * scale) - 2);
  const y = Math.max(0, Math.floor(rect.y * scale) - 2);
  return {
    x,
    y,
    width: Math.min(within.width, Math.ceil((rect.x + rect.width) * scale) + 2) - x,
    height: Math.min(within.height, Math.ceil((rect.y + rect.height) * scale) + 2) - y,
  };
}
