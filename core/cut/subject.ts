import { dilate } from '../pixels/distance.ts';
import { boxBlur } from '../pixels/filters.ts';
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
import { boundaryBand } from './band.ts';
import { ColourRatio, fitColourModel, logLikelihood } from './colour-model.ts';
import { geodesicDistance } from './geodesic.ts';
import { contrastScale, DROP, FREE, KEEP, solveGraphCut } from './graph-cut.ts';
import { saliencyOf, type Answer } from './saliency.ts';
import { drawStroke, type Stroke } from './strokes.ts';
import { superpixelsOf } from './superpixels.ts';

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
const priorWeight = 1.6;

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
    const moved = (strokes: readonly Stroke[]): Stroke[] => strokes.map((stroke) => shifted(stroke, -area.x, -area.y));
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
    const seeds = this.seedsAt(this.levels.length - 1, request, wholeOf(coarse.picture));
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

  /** The user's decisions on a part of a level. */
  private seedsAt(index: number, request: SubjectRequest, area: Rect): Bytes {
    const { width, height } = area;
    const scale = this.levels[index]!.picture.width / this.levels[0]!.picture.width;
    const seeds = makeBytes(width, height, FREE);
    const draw = (stroke: Stroke, seed: number): void =>
      drawStroke(seeds, shifted(stroke, -area.x / scale, -area.y / scale), seed, scale);
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
    const known = new Set<Stroke>([...(this.previous?.keep ?? []), ...(this.previous?.drop ?? [])]);
    const now = new Set<Stroke>([...request.keep, ...request.drop]);
    const scale = before.width / this.levels[0]!.picture.width;
    for (const stroke of now) if (!known.has(stroke)) drawStroke(changed, stroke, 1, scale);
    for (const stroke of known) if (!now.has(stroke)) drawStroke(changed, stroke, 1, scale);
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
      const seeds = this.seedsAt(index, request, area);
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

const shifted = (stroke: Stroke, dx: number, dy: number): Stroke => ({
  radius: stroke.radius,
  points: stroke.points.map(([x, y]) => [x + dx, y + dy] as const),
});
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

/** Log odds with zero at the threshold that splits the values best (Otsu 1979). */
function centredLogOdds(saliency: Plane): Plane {
  const histogram = new Float64Array(256);
  for (const v of saliency.data) histogram[Math.min(255, Math.floor(v * 255.99))]! += 1;
  const total = saliency.data.length;
  let sum = 0;
  for (let k = 0; k < 256; k++) sum += k * histogram[k]!;
  let below = 0;
  let sumBelow = 0;
  let best = -1;
  let threshold = 0.5;
  let first = 0;
  for (let k = 0; k < 255; k++) {
    below += histogram[k]!;
    sumBelow += k * histogram[k]!;
    if (below === 0 || below === total) continue;
    const gap = sumBelow / below - (sum - sumBelow) / (total - below);
    const variance = below * (total - below) * gap * gap;
    // With two clear heaps every threshold between them is as good; the middle one is meant.
    if (variance > best * (1 + 1e-9)) {
      best = variance;
      first = k;
      threshold = (k + 1) / 256;
    } else if (variance > best * (1 - 1e-9)) threshold = ((first + k) / 2 + 1) / 256;
  }
  const zero = Math.log(threshold / (1 - threshold));
  const out = makePlane(saliency.width, saliency.height);
  for (let i = 0; i < out.data.length; i++) {
    const p = Math.max(0.02, Math.min(0.98, saliency.data[i]!));
    out.data[i] = priorWeight * (Math.log(p / (1 - p)) - zero);
  }
  return out;
}

/**
 * Log odds, 0 or more, for colours near the salient part that the likely background does not have: the plain half of a
 * striped float is not salient, but nothing behind it looks like it either.
 */
function noveltyOf(picture: Rgba, prior: Plane): Plane {
  const { width, height, data } = picture;
  const samples: number[] = [];
  const weights: number[] = [];
  const count = width * height;
  // The surer half of the background: what is only just background may be a plain part of the subject.
  const sureBelow = Math.min(-0.5, prior.data.slice().sort()[count >> 1]!);
  for (let i = 0; i < count; i += 3) {
    if (prior.data[i]! > sureBelow) continue;
    samples.push(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
    weights.push(1);
  }
  const out = makePlane(width, height);
  if (weights.length < 50) return out;
  const behind = fitColourModel(Float32Array.from(samples), Float32Array.from(weights));
  const surprise = makePlane(width, height);
  for (let i = 0; i < count; i++)
    surprise.data[i] = -logLikelihood(behind, data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  const usual = weights
    .map((_, k) => -logLikelihood(behind, samples[k * 3]!, samples[k * 3 + 1]!, samples[k * 3 + 2]!))
    .sort((a, b) => a - b);
  const high = usual[Math.floor(usual.length * 0.97)]!;
  const spread = Math.max(1, high - usual[Math.floor(usual.length * 0.5)]!);
  const salient = makePlane(width, height);
  for (let i = 0; i < count; i++) salient.data[i] = prior.data[i]! > 0 ? 1 : 0;
  const near = boxBlur(salient, Math.round(Math.max(width, height) * 0.05));
  for (let i = 0; i < count; i++) {
    const z = (surprise.data[i]! - high) / spread;
    out.data[i] = z > 0 && near.data[i]! > 0.02 ? Math.min(6, 3 * z) : 0;
  }
  return out;
}

/** Share of the prior that is left in the last round. */
const finalPrior = 0.4;

const fadedPrior = (prior: Plane, share: number): Plane => ({ ...prior, data: prior.data.map((v) => v * share) });

/** Strokes speak for their surroundings too, fading with the colour distance from them. */
function withStrokeInfluence(prior: Plane, picture: Rgba, seeds: Bytes): Plane {
  const keep = geodesicDistance(picture, seeds, KEEP, 1);
  const drop = geodesicDistance(picture, seeds, DROP, 1);
  const reach = 90;
  const out = { ...prior, data: prior.data.slice() };
  for (let i = 0; i < out.data.length; i++) {
    out.data[i] = out.data[i]! + 7 * Math.exp(-keep.data[i]! / reach) - 7 * Math.exp(-drop.data[i]! / reach);
  }
  return out;
}

function modelColours(picture: Rgba, mask: Bytes, seeds: Bytes, prior: Plane): ColourRatio {
  const count = mask.data.length;
  const stride = Math.max(1, Math.floor(count / 12000));
  const sides: { samples: number[]; weights: number[] }[] = [
    { samples: [], weights: [] },
    { samples: [], weights: [] },
  ];
  for (let i = 0; i < count; i += 1) {
    const seeded = seeds.data[i] !== FREE;
    if (i % stride !== 0 && !(seeded && prior.data[i]! > -4)) continue;
    const side = sides[mask.data[i]!]!;
    const sure = Math.abs(prior.data[i]!);
    side.samples.push(picture.data[i * 4]!, picture.data[i * 4 + 1]!, picture.data[i * 4 + 2]!);
    side.weights.push(seeded ? 4 : 0.3 + Math.min(1, sure / 3));
  }
  const [background, foreground] = sides as [(typeof sides)[0], (typeof sides)[0]];
  for (const side of sides) {
    // An empty side would leave its model undefined; a far-off grey stands for "unknown".
    if (side.weights.length === 0) {
      side.samples.push(128, 128, 128);
      side.weights.push(1);
    }
  }
  return new ColourRatio(
    fitColourModel(Float32Array.from(foreground.samples), Float32Array.from(foreground.weights)),
    fitColourModel(Float32Array.from(background.samples), Float32Array.from(background.weights)),
  );
}

/** How sure a colour must be of its side to be followed away from the band, in log odds. */
const followOdds = 2.5;

/**
 * The band along the boundary, and what the coarser level could not see: wires, twigs, rails and gaps. They are followed
 * from the band, however far, through pixels whose colour clearly belongs to the other side, as long as they stay thin:
 * where most of the surroundings are of that colour it is a region, which the coarser level has judged already.
 */
function bandWithThinParts(
  picture: Rgba,
  mask: Bytes,
  seeds: Bytes,
  colours: ColourRatio,
  within: Bytes | null,
): Int32Array {
  const { width, height } = mask;
  const { data } = picture;
  const chosen = new Uint8Array(mask.data.length);
  const active: number[] = [];
  const take = (i: number): void => {
    chosen[i] = 1;
    active.push(i);
  };
  for (const i of boundaryBand(mask, 3, within)) take(i);
  const front = makePlane(width, height);
  for (let i = 0; i < front.data.length; i++) {
    front.data[i] = colours.at(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!) > 0 ? 1 : 0;
  }
  const crowd = boxBlur(front, 5);
  const protectedParts = aroundKept(seeds);
  const follows = (i: number): boolean => {
    if (chosen[i] || (within && !within.data[i])) return false;
    const odds = colours.at(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
    return mask.data[i]
      ? odds < -followOdds && crowd.data[i]! > 0.45 && !protectedParts?.data[i]
      : odds > followOdds && crowd.data[i]! < 0.55;
  };
  for (const i of boundaryBand(mask, 12, within)) if (follows(i)) take(i);
  // Followed pixels are met in order; each brings its neighbours, and those their thin surroundings.
  const most = mask.data.length * 0.25;
  for (let k = 0; k < active.length && active.length < most; k++) {
    const i = active[k]!;
    const x = i % width;
    const y = (i / width) | 0;
    for (let ny = Math.max(0, y - 2); ny <= Math.min(height - 1, y + 2); ny++) {
      for (let nx = Math.max(0, x - 2); nx <= Math.min(width - 1, x + 2); nx++) {
        if (follows(ny * width + nx)) take(ny * width + nx);
      }
    }
  }
  return Int32Array.from(active);
}

/** Where gaps are not followed: around Keep strokes, which say that a part belongs whatever its colour. */
function aroundKept(seeds: Bytes): Plane | null {
  if (!seeds.data.includes(KEEP)) return null;
  const kept = makePlane(seeds.width, seeds.height);
  for (let i = 0; i < kept.data.length; i++) kept.data[i] = seeds.data[i] === KEEP ? 1 : 0;
  return boxBlur(kept, 24);
}

/**
 * Fills holes and removes islands smaller than `area` pixels that no stroke asked for, among those that touch the `active`
 * pixels. Each flood fill stops as soon as it is large enough, so the cost follows the band and not the picture.
 */
function dropSpecks(mask: Bytes, seeds: Bytes, area: number, active: Int32Array): void {
  const { width, height, data } = mask;
  const large = new Uint8Array(data.length);
  const seen = new Int32Array(data.length);
  const members = new Int32Array(area + 9);
  let visit = 0;
  for (const start of active) {
    if (large[start]) continue;
    visit++;
    const value = data[start]!;
    let count = 1;
    let keep = false;
    members[0] = start;
    seen[start] = visit;
    for (let k = 0; k < count && !keep; k++) {
      const i = members[k]!;
      const asked = seeds.data[i];
      if (large[i] || count > area || asked === (value ? KEEP : DROP)) keep = true;
      const x = i % width;
      const y = (i / width) | 0;
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++) {
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const j = ny * width + nx;
          if (seen[j] === visit || data[j] !== value) continue;
          seen[j] = visit;
          members[count++] = j;
        }
      }
    }
    for (let k = 0; k < count; k++) {
      if (keep) large[members[k]!] = 1;
      else data[members[k]!] = 1 - value;
    }
  }
}
