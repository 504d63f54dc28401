import { emptinessOf, orEmpty, withColoursGoingOn } from '../pixels/emptiness.ts';
import { checkpoint, type Progress } from '../pixels/progress.ts';
import { seededRandom, type RandomStream } from '../pixels/random.ts';
import {
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  type Bytes,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { blendSeams, type Relit } from './blend.ts';
import { copyBest } from './copy-best.ts';
import type { GuideLine } from './guides.ts';
import { enlargedCopies, halvingsFor, smallerRequest, type Copies } from './large-fill.ts';
import { LevelPreview } from './level-preview.ts';
import { linesBehind } from './lines-behind.ts';
import { PatchMemory } from './patch-memory.ts';
import { levelBytes, makeLevel, shrinkingSteps, startFromRim, type PyramidLevel, type Step } from './levels.ts';
import { dominantOffsets, type Offset } from './offsets.ts';
import { patchRadius, type FillLevel, type LevelLine } from './fill-level.ts';
import { enlargeField, randomField, sweepField, usageOf, type PatchField } from './patch-field.ts';
import { solveShiftMap, type ShiftMap } from './shift-map.ts';
import { mannerOf, type Manner } from './takes.ts';
import { vote } from './vote.ts';

/** Thrown when a picture leaves nothing to continue from. */
export class NothingToContinue extends Error {
  constructor() {
    super('The marked region leaves too little of the picture to continue from. Mark a smaller region.');
    this.name = 'NothingToContinue';
  }
}

export interface RebuildRequest {
  picture: Rgba;
  /** 1 where the picture is to be made anew. */
  hole: Bytes;
  /** Chooses the take: same picture, hole, guides and seed give the same pixels. */
  seed: number;
  /** 1 where nothing may be copied from. */
  barred?: Bytes | null;
  /** Lines that must run through the hole, in picture pixels; beside those that are found. */
  lines?: readonly GuideLine[];
  /** Whether no other lines are to be looked for: those that are there were found before. */
  linesKnown?: boolean;
  /** 1 where the result will be looked at; the rest of the hole is continued coarsely. Null for all of it. */
  seen?: Bytes | null;
}

/** Called after each level with the whole picture as it stands, coarse first; a large one is shown smaller. */
export type Preview = (picture: Rgba) => void;

/**
 * Continues the surroundings of a hole into it. Straight lines that run into it go on. Structure first: offsets at which the
 * picture repeats itself are joined
 * by graph cut at a small size (He & Sun 2012). From there up, multi-scale patch voting (Wexler, Shechtman & Irani 2007)
 * with PatchMatch; at full size every pixel is copied whole and seams are joined in the gradient domain. In a very large picture
 * that is done at half its size or less, and what was found is copied at full size. Pixels outside the hole are returned
 * unchanged; of what is empty there nothing is copied.
 * @throws NothingToContinue when no whole patch lies outside the hole; Cancelled
 */
export async function rebuild(asked: RebuildRequest, progress?: Progress, preview?: Preview): Promise<Rgba> {
  const area = areaAround(asked);
  if (!area) return { ...asked.picture, data: new Uint8ClampedArray(asked.picture.data) };
  const halvings = halvingsFor(area);
  const memory = new PatchMemory();
  try {
    const request = withEmptiness(asked);
    if (halvings === 0) return onlyIn(asked, (await rebuildIn(memory, request, area, progress, preview)).picture);
    const smaller = await smallerRequest(request, halvings, progress);
    await checkpoint(progress);
    const made = await rebuildIn(memory, smaller, areaAround(smaller)!, progress, preview);
    return onlyIn(asked, await enlargedCopies(request, halvings, made.picture, made.copies(), progress));
  } finally {
    memory.release();
  }
}

/**
 * From what the picture leaves empty nothing is copied, and the colours around the hole go on into it: so the hole ends there as if the
 * picture did not.
 */
function withEmptiness(request: RebuildRequest): RebuildRequest {
  const { picture, hole, barred } = request;
  if (!emptinessOf(picture)) return request;
  const known = { ...picture, data: picture.data.slice() };
  for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) known.data[i * 4 + 3] = 0;
  const none = barred ?? makeBytes(picture.width, picture.height);
  return { ...request, picture: withColoursGoingOn(picture, known), barred: orEmpty(none, picture) };
}

/** What was made in the hole; the rest is the picture. */
function onlyIn({ picture, hole }: RebuildRequest, made: Rgba): Rgba {
  if (!emptinessOf(picture)) return made;
  const out = { ...picture, data: picture.data.slice() };
  for (let i = 0; i < hole.data.length; i++)
    if (hole.data[i]) out.data.set(made.data.subarray(i * 4, i * 4 + 4), i * 4);
  return out;
}

/** What is looked at for a hole: itself and as much again around it; null where there is none. */
function areaAround({ picture, hole }: RebuildRequest): Rect | null {
  const bounds = boundsOf(hole);
  if (!bounds) return null;
  const margin = Math.max(96, Math.round(0.7 * Math.max(bounds.width, bounds.height)));
  return growRect(bounds, margin, picture.width, picture.height);
}

async function rebuildIn(
  memory: PatchMemory,
  request: RebuildRequest,
  area: Rect,
  progress: Progress | undefined,
  preview: Preview | undefined,
): Promise<{ picture: Rgba; copies: () => Copies }> {
  const { picture, hole, seed, barred = null, seen = null } = request;
  const out: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  const steps = await shrinkingSteps(
    { picture: cropRgba(picture, area), hole: cropBytes(hole, area), barred: barred && cropBytes(barred, area) },
    progress,
  );
  // The coarsest level is made twice where there is something to be shown at once.
  memory.reserve([...steps, steps.at(-1)!].map((step) => levelBytes(step.picture)));
  const random = seededRandom(seed * 2654435761 + 17);
  const manner = mannerOf(seed);

  const shown = preview && new LevelPreview(picture, hole, area);
  const show = (level: FillLevel, index: number): void => shown && preview(shown.of(level, 2 ** index));
  if (preview && manner.structured) await firstGlance(steps, show, seed, memory, progress);
  const { lines: given = [], linesKnown = false } = request;
  const lines = linesKnown ? given : await linesBehind(picture, hole, given, progress);
  const linesAt = (index: number): LevelLine[] => lines.map((line) => levelLine(line, area, 2 ** index));
  const lookedAt = seen && cropBytes(seen, area);
  const { top, ...start } = await startLevel(steps, manner, linesAt, memory, progress);
  let current: PyramidLevel = start;
  startFromRim(current.level);
  await checkpoint(progress);
  let field = manner.structured
    ? await structureFirst(current, manner, random, progress)
    : randomField(current.level, random);
  let origin: Int32Array = new Int32Array(0);
  for (let index = top; index >= 0; index--) {
    if (index < top) {
      await checkpoint(progress);
      const finer = (await makeLevel(steps[index]!, linesAt(index), progress, memory))!;
      await checkpoint(progress);
      field = enlargeField(current.level, field, finer.level, random);
      await checkpoint(progress);
      current = finer;
      // The enlarged matches are drawn at once: a start from enlarged pixels would be blurred, and would look for blurred sources.
      await copyBest(current.level, field, current.trust, progress);
    }
    // What nobody will see is good enough as the coarser level left it.
    const looked = lookedAt && index < 2 ? onlySeen(current, lookedAt, index) : current;
    const rounds = Math.min(8, 1 + index + (index > 2 ? 2 : 0));
    for (let round = 0; round < rounds; round++) {
      progress?.report?.('Continuing the surroundings', shareDone(top + 1, index, round / rounds));
      await solveRound(looked, field, index, round === rounds - 1, manner, random, progress);
    }
    origin = await copyBest(current.level, field, current.trust, progress);
    if (index > 0) show(current.level, index);
  }
  const relit = await blendSeams(current.level, origin, progress);
  writeHole(out, current.level, area, hole);
  progress?.report?.('Continuing the surroundings', 1);
  return { picture: out, copies: () => copiesOf(current.level, origin, relit, area) };
}

/** Without the border that a level has around its picture. */
function copiesOf({ width }: FillLevel, origin: Int32Array, relit: Relit, area: Rect): Copies {
  const padded = (i: number): number =>
    (Math.floor(i / area.width) + patchRadius) * width + (i % area.width) + patchRadius;
  const bare = new Int32Array(area.width * area.height);
  for (let i = 0; i < bare.length; i++) {
    const from = origin[padded(i)]!;
    bare[i] = from < 0 ? -1 : (Math.floor(from / width) - patchRadius) * area.width + (from % width) - patchRadius;
  }
  return { area, origin: bare, relit: (byte, channel, i) => relit(byte, channel, padded(i)) };
}

/** Finer levels cost about four times the coarser ones; the share follows. */
function shareDone(count: number, index: number, within: number): number {
  const cost = (k: number): number => 4 ** -k * (k === 0 ? 1.2 : 2 + k);
  let total = 0;
  let done = 0;
  for (let k = 0; k < count; k++) {
    total += cost(k);
    if (k > index) done += cost(k);
  }
  return (done + cost(index) * within) / total;
}

/** A guide line in the pixels of a level of a cropped picture. */
function levelLine({ from, to }: GuideLine, area: Rect, shrink: number): LevelLine {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
  return {
    x: (from[0] - area.x) / shrink - 0.5,
    y: (from[1] - area.y) / shrink - 0.5,
    dx: (to[0] - from[0]) / length,
    dy: (to[1] - from[1]) / length,
    length: length / shrink,
  };
}

/** Structure is joined over at most this many pixels; larger holes begin smaller. */
const mostJoined = 5_000;

const sizeOf = (hole: Bytes): number => hole.data.reduce((sum, v) => sum + v, 0);

/**
 * The level to begin at: small enough for what the manner starts with, and large enough to leave something to copy from.
 * @throws NothingToContinue
 */
async function startLevel(
  steps: Step[],
  manner: Manner,
  linesAt: (index: number) => LevelLine[],
  memory: PatchMemory,
  progress: Progress | undefined,
): Promise<PyramidLevel & { top: number }> {
  let index = steps.length - 1;
  if (manner.structured) {
    const fits = steps.findIndex(
      ({ picture, hole }) => Math.max(picture.width, picture.height) <= manner.startSize && sizeOf(hole) <= mostJoined,
    );
    if (fits >= 0) index = Math.min(index, fits);
  }
  for (; index >= 0; index--) {
    const made = await makeLevel(steps[index]!, linesAt(index), progress, memory);
    if (made) return { ...made, top: index };
  }
  throw new NothingToContinue();
}

/** Something to look at within a moment, while structure is still looked for; what comes after does not depend on it. */
async function firstGlance(
  steps: Step[],
  show: (level: FillLevel, index: number) => void,
  seed: number,
  memory: PatchMemory,
  progress: Progress | undefined,
): Promise<void> {
  const index = steps.length - 1;
  const made = await makeLevel(steps[index]!, [], undefined, memory);
  if (!made) return;
  const random = seededRandom(seed);
  startFromRim(made.level);
  const field = randomField(made.level, random);
  for (let round = 0; round < 2; round++)
    await solveRound(made, field, index, round === 1, mannerOf(seed), random, progress);
  await copyBest(made.level, field, made.trust, progress);
  show(made.level, index);
}

/** Fills the level by offsets at which the picture repeats itself; gives the matches that say so. */
async function structureFirst(
  { level }: PyramidLevel,
  manner: Manner,
  random: RandomStream,
  progress: Progress | undefined,
): Promise<PatchField> {
  const field = randomField(level, random);
  progress?.report?.('Looking for structure', 0);
  const repeats = await dominantOffsets(level, manner.offsets, random, progress);
  const offsets = [...repeats, ...alongLines(level, repeats)];
  if (offsets.length === 0) return field;
  const map = await solveShiftMap(level, offsets, manner.jitter, random, progress);
  takeChosen(level, field, chosenSources(level, offsets, map));
  return field;
}

/** For each pixel of the hole the one that its label says, 0 where it says none. */
function chosenSources({ width, known, targets }: FillLevel, offsets: Offset[], map: ShiftMap): Int32Array {
  const chosen = new Int32Array(known.length);
  let k = 0;
  for (const t of targets) {
    if (known[t]) continue;
    const { x, y } = offsets[map.label[k]!]!;
    if (map.valid[k]) chosen[t] = t + y * width + x;
    k++;
  }
  return chosen;
}

/** Copies what was chosen, and matches patches accordingly. */
function takeChosen(level: FillLevel, field: PatchField, chosen: Int32Array): void {
  const { width, known, targets, isSource, pixels } = level;
  const steps = [1, 2, 3].flatMap((r) => [
    -r,
    r,
    -r * width,
    r * width,
    -r - r * width,
    r - r * width,
    r * width - r,
    r * width + r,
  ]);
  for (const t of targets) {
    let source = chosen[t]!;
    // Patches that only touch the hole continue the copy of the hole pixel nearest to their middle.
    for (let k = 0; source === 0 && k < steps.length; k++)
      if (chosen[t + steps[k]!]) source = chosen[t + steps[k]!]! - steps[k]!;
    if (source > 0 && isSource[source]) field.match[t] = source;
    if (!known[t] && chosen[t]) for (let c = 0; c < 3; c++) pixels[t * 4 + c] = pixels[chosen[t]! * 4 + c]!;
  }
}

/** Offsets along lines that are offered: each costs time, so many directions get few each. */
const mostAlong = 144;
/** Lines that differ less in direction share their offsets: 2.5 degrees. */
const sameWay = Math.sin((2.5 * Math.PI) / 180);

/** So many repeats along a direction lead far enough. */
const enoughRepeats = 4;

/** Offsets that run along the lines, both ways, where what repeats does not run that way anyhow. */
function alongLines(level: FillLevel, repeats: readonly Offset[]): Offset[] {
  const ways: { dx: number; dy: number }[] = [];
  for (const line of level.lines?.all ?? []) {
    const beside = (x: number, y: number): number => Math.abs(x * line.dy - y * line.dx) / Math.hypot(x, y);
    if (ways.some(({ dx, dy }) => beside(dx, dy) < sameWay)) continue;
    if (repeats.filter(({ x, y }) => beside(x, y) < sameWay).length < enoughRepeats) ways.push(line);
  }
  const reach = Math.max(level.width, level.height) * 0.7;
  const each = Math.min(12, mostAlong / 2 / ways.length);
  const out: Offset[] = [];
  for (const { dx, dy } of ways) {
    for (let r = 8; r < reach; r += Math.max(3, reach / each)) {
      for (const way of [r, -r]) out.push({ x: Math.round(dx * way), y: Math.round(dy * way), share: 1 });
    }
  }
  return out;
}

/** The same level with only those targets that will be looked at. */
function onlySeen({ level, trust }: PyramidLevel, seen: Bytes, index: number): PyramidLevel {
  const shrink = 2 ** index;
  const reach = 2 * patchRadius;
  const near = (t: number): boolean => {
    for (const dy of [-reach, 0, reach]) {
      for (const dx of [-reach, 0, reach]) {
        const x = Math.min(seen.width - 1, Math.max(0, ((t % level.width) - patchRadius + dx) * shrink));
        const y = Math.min(seen.height - 1, Math.max(0, (((t / level.width) | 0) - patchRadius + dy) * shrink));
        if (seen.data[y * seen.width + x]) return true;
      }
    }
    return false;
  };
  return { level: { ...level, targets: level.targets.filter(near) }, trust };
}

async function solveRound(
  { level, trust }: PyramidLevel,
  field: PatchField,
  index: number,
  last: boolean,
  manner: Manner,
  random: RandomStream,
  progress: Progress | undefined,
): Promise<void> {
  const wide = Math.max(level.width, level.height) >> 1;
  const reach = index === 0 ? 8 : index === 1 ? Math.min(wide, 32) : wide;
  const sweeps = index <= 1 ? 1 : 2;
  for (let sweep = 0; sweep < sweeps; sweep++) {
    const reverse = (sweep + (last ? 1 : 0)) % 2 === 1;
    const rowPenalty = manner.uprightness / level.height;
    const usage = index > 0 ? usageOf(level, field) : null;
    await sweepField(
      level,
      field,
      { reverse, fresh: sweep === 0, reach, sparse: index === 0, rowPenalty, usage, random },
      progress,
    );
  }
  if (!last) await vote(level, field, trust, index <= 1, progress);
}

function writeHole(out: Rgba, level: FillLevel, area: Rect, hole: Bytes): void {
  for (let y = area.y; y < area.y + area.height; y++) {
    for (let x = area.x; x < area.x + area.width; x++) {
      const i = y * out.width + x;
      if (!hole.data[i]) continue;
      const p = ((y - area.y + patchRadius) * level.width + x - area.x + patchRadius) * 4;
      out.data[i * 4] = level.pixels[p]!;
      out.data[i * 4 + 1] = level.pixels[p + 1]!;
      out.data[i * 4 + 2] = level.pixels[p + 2]!;
      out.data[i * 4 + 3] = 255;
    }
  }
}
