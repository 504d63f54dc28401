import type { Progress } from '../pixels/progress.ts';
import { seededRandom } from '../pixels/random.ts';
import { boundsOf, cropBytes, cropRgba, growRect, type Bytes, type Rgba } from '../pixels/raster.ts';
import { halve } from '../pixels/resample.ts';
import { enlargeField, patchRadius, randomField, sweepField, type FillLevel, type PatchField } from './patch-field.ts';
import { copyBest, vote } from './vote.ts';

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
  /** Chooses the take: same picture, hole and seed give the same pixels. */
  seed: number;
}

/** Called after each level with the whole picture as it stands, coarse first. */
export type Preview = (picture: Rgba) => void;

/**
 * Continues the surroundings of a hole into it: multi-scale patch voting (Wexler, Shechtman & Irani 2007) with
 * PatchMatch. Pixels outside the hole are returned unchanged.
 * @throws NothingToContinue when no whole patch lies outside the hole; Cancelled
 */
export async function rebuild(request: RebuildRequest, progress?: Progress, preview?: Preview): Promise<Rgba> {
  const { picture, hole, seed } = request;
  const out: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  const bounds = boundsOf(hole);
  if (!bounds) return out;
  const margin = Math.max(96, Math.round(0.7 * Math.max(bounds.width, bounds.height)));
  const area = growRect(bounds, margin, picture.width, picture.height);
  const steps = shrinkingSteps(cropRgba(picture, area), cropBytes(hole, area));
  const random = seededRandom(seed * 2654435761 + 17);

  let current = coarsestLevel(steps);
  startFromRim(current.level);
  let field = randomField(current.level, random);
  const top = steps.length - 1;
  for (let index = top; index >= 0; index--) {
    if (index < top) {
      const finer = makeLevel(steps[index]!.picture, steps[index]!.hole)!;
      field = enlargeField(current.level, field, finer.level, random);
      current = finer;
      // The enlarged matches are drawn at once: a start from enlarged pixels would be blurred, and would look for blurred sources.
      await copyBest(current.level, field, current.trust, progress);
    }
    const rounds = Math.min(8, 1 + index + (index > 2 ? 2 : 0));
    for (let round = 0; round < rounds; round++) {
      progress?.report?.('Continuing the surroundings', shareDone(steps.length, index, round / rounds));
      await solveRound(current, field, index, round === rounds - 1, random, progress);
    }
    if (preview && index > 0) preview(withHole(out, current.level, area, hole, 2 ** index));
  }
  writeHole(out, current.level, area, hole, 1);
  progress?.report?.('Continuing the surroundings', 1);
  return out;
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

/**
 * What it costs to take a patch from the other end of the picture's height, in squared bytes over a patch. The world has an
 * up and a down: below the water there is more water, not the sky that happens to have its colour.
 */
const uprightness = 90_000;

async function solveRound(
  { level, trust }: PyramidLevel,
  field: PatchField,
  index: number,
  last: boolean,
  random: () => number,
  progress: Progress | undefined,
): Promise<void> {
  const wide = Math.max(level.width, level.height) >> 1;
  const reach = index === 0 ? 8 : index === 1 ? Math.min(wide, 32) : wide;
  const sweeps = index <= 1 ? 1 : 2;
  for (let sweep = 0; sweep < sweeps; sweep++) {
    const reverse = (sweep + (last ? 1 : 0)) % 2 === 1;
    await sweepField(
      level,
      field,
      { reverse, fresh: sweep === 0, reach, sparse: index === 0, rowPenalty: uprightness / level.height, random },
      progress,
    );
  }
  if (last) await copyBest(level, field, trust, progress);
  else await vote(level, field, trust, index <= 1, progress);
}

interface PyramidLevel {
  level: FillLevel;
  trust: Float32Array;
}

interface Step {
  picture: Rgba;
  hole: Bytes;
}

/** Steps from the full size down, until the hole is only a few patches deep or the picture is small. */
function shrinkingSteps(picture: Rgba, hole: Bytes): Step[] {
  const steps: Step[] = [{ picture, hole }];
  for (;;) {
    const { picture: p, hole: h } = steps.at(-1)!;
    if (steps.length > 8 || Math.min(p.width, p.height) < 40 || holeDepth(h) < 4) return steps;
    steps.push({ picture: halveKnown(p, h), hole: halveHole(h) });
  }
}

/** Largest number of pixels from a pixel of the hole straight to the left or up out of it: a cheap bound of its depth. */
function holeDepth(hole: Bytes): number {
  const { width, height, data } = hole;
  const rise = new Int32Array(width);
  let deepest = 0;
  for (let y = 0; y < height; y++) {
    let run = 0;
    for (let x = 0; x < width; x++) {
      const inside = data[y * width + x]!;
      run = inside ? run + 1 : 0;
      rise[x] = inside ? rise[x]! + 1 : 0;
      deepest = Math.max(deepest, Math.min(run, rise[x]!) / 2);
    }
  }
  return deepest;
}

/** The coarsest step that leaves enough to copy from; steps beyond it are dropped. @throws NothingToContinue */
function coarsestLevel(steps: Step[]): PyramidLevel {
  for (; steps.length > 0; steps.pop()) {
    const { picture, hole } = steps.at(-1)!;
    const made = makeLevel(picture, hole);
    if (made) return made;
  }
  throw new NothingToContinue();
}

/** Half size, averaging only given pixels, so that the subject never leaks into its surroundings. */
function halveKnown(picture: Rgba, hole: Bytes): Rgba {
  const out = halve(picture);
  for (let y = 0; y < out.height; y++) {
    for (let x = 0; x < out.width; x++) {
      let n = 0;
      let r = 0;
      let g = 0;
      let b = 0;
      for (let k = 0; k < 4; k++) {
        const sx = Math.min(picture.width - 1, x * 2 + (k & 1));
        const sy = Math.min(picture.height - 1, y * 2 + (k >> 1));
        const i = sy * picture.width + sx;
        if (hole.data[i]) continue;
        n++;
        r += picture.data[i * 4]!;
        g += picture.data[i * 4 + 1]!;
        b += picture.data[i * 4 + 2]!;
      }
      if (n === 0 || n === 4) continue;
      out.data.set([r / n, g / n, b / n], (y * out.width + x) * 4);
    }
  }
  return out;
}

/** Half size: a block is hole when more than half of it is. */
function halveHole(hole: Bytes): Bytes {
  const width = (hole.width + 1) >> 1;
  const height = (hole.height + 1) >> 1;
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let n = 0;
      for (let k = 0; k < 4; k++) {
        const sx = Math.min(hole.width - 1, x * 2 + (k & 1));
        const sy = Math.min(hole.height - 1, y * 2 + (k >> 1));
        n += hole.data[sy * hole.width + sx]!;
      }
      data[y * width + x] = n >= 2 ? 1 : 0;
    }
  }
  return { width, height, data };
}

function makeLevel(picture: Rgba, hole: Bytes): PyramidLevel | null {
  const pad = patchRadius;
  const width = picture.width + 2 * pad;
  const height = picture.height + 2 * pad;
  const pixels = new Uint8Array(width * height * 4);
  const known = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = Math.max(0, Math.min(picture.height - 1, y - pad)) * picture.width;
    for (let x = 0; x < width; x++) {
      const s = row + Math.max(0, Math.min(picture.width - 1, x - pad));
      const i = y * width + x;
      pixels[i * 4] = picture.data[s * 4]!;
      pixels[i * 4 + 1] = picture.data[s * 4 + 1]!;
      pixels[i * 4 + 2] = picture.data[s * 4 + 2]!;
      known[i] = 1 - hole.data[s]!;
    }
  }
  const overlap = touchingHole(known, width, height);
  const isSource = new Uint8Array(width * height);
  const sources: number[] = [];
  const targets: number[] = [];
  for (let y = pad; y < height - pad; y++) {
    for (let x = pad; x < width - pad; x++) {
      const i = y * width + x;
      if (overlap[i]) targets.push(i);
      else if (x >= 2 * pad && y >= 2 * pad && x < width - 2 * pad && y < height - 2 * pad) {
        sources.push(i);
        isSource[i] = 1;
      }
    }
  }
  if (sources.length < 16) return null;
  const trust = trustByDepth(known, width, targets);
  const level = {
    width,
    height,
    pixels,
    known,
    isSource,
    sources: Int32Array.from(sources),
    targets: Int32Array.from(targets),
  };
  return { level, trust };
}

/** 1 where a patch centred there overlaps the hole: the hole grown by a square, in two passes of running counts. */
function touchingHole(known: Uint8Array, width: number, height: number): Uint8Array {
  const rows = new Uint8Array(known.length);
  for (let y = 0; y < height; y++) {
    let last = -Infinity;
    const row = y * width;
    for (let x = 0; x < width + patchRadius; x++) {
      if (x < width && !known[row + x]) last = x;
      const at = x - patchRadius;
      if (at >= 0 && last >= at - patchRadius) rows[row + at] = 1;
    }
  }
  const out = new Uint8Array(known.length);
  const last = new Int32Array(width).fill(-1000);
  for (let y = 0; y < height + patchRadius; y++) {
    const at = y - patchRadius;
    for (let x = 0; x < width; x++) {
      if (y < height && rows[y * width + x]) last[x] = y;
      if (at >= 0 && last[x]! >= at - patchRadius) out[at * width + x] = 1;
    }
  }
  return out;
}

/** Steps from the rim into the hole, and from them how much a patch there counts: what lies near given pixels is surer. */
function trustByDepth(known: Uint8Array, width: number, targets: number[]): Float32Array {
  const trust = new Float32Array(known.length);
  const waiting = new Uint8Array(known.length);
  const queue = new Int32Array(targets.length);
  let end = 0;
  for (const t of targets) {
    if (known[t]) {
      trust[t] = 1;
      queue[end++] = t;
    } else waiting[t] = 1;
  }
  let depth = 0;
  for (let start = 0; start < end;) {
    const ringEnd = end;
    const here = 1.3 ** -Math.min(40, depth + 1);
    for (; start < ringEnd; start++) {
      const i = queue[start]!;
      for (let k = 0; k < 4; k++) {
        const j = k === 0 ? i - 1 : k === 1 ? i + 1 : k === 2 ? i - width : i + width;
        if (!waiting[j]) continue;
        waiting[j] = 0;
        trust[j] = here;
        queue[end++] = j;
      }
    }
    if (end > ringEnd) depth++;
  }
  return trust;
}

/** Peels the hole from its rim inwards, each pixel the mean of its known neighbours: a plain start for the voting. */
function startFromRim(level: FillLevel): void {
  const { width, height, pixels, known, targets } = level;
  const filled = Uint8Array.from(known);
  let rest = [...targets].filter((t) => !known[t]);
  while (rest.length > 0) {
    const ready: number[] = [];
    const later: number[] = [];
    for (const t of rest) {
      let n = 0;
      const sum = [0, 0, 0];
      for (let k = 0; k < 9; k++) {
        const x = (t % width) + (k % 3) - 1;
        const y = ((t / width) | 0) + ((k / 3) | 0) - 1;
        if (x < 0 || y < 0 || x >= width || y >= height) continue;
        const j = y * width + x;
        if (!filled[j]) continue;
        n++;
        for (let c = 0; c < 3; c++) sum[c]! += pixels[j * 4 + c]!;
      }
      if (n > 0) {
        ready.push(t);
        for (let c = 0; c < 3; c++) pixels[t * 4 + c] = sum[c]! / n;
      } else later.push(t);
    }
    for (const t of ready) filled[t] = 1;
    if (ready.length === 0) return;
    rest = later;
  }
}

function writeHole(
  out: Rgba,
  level: FillLevel,
  area: { x: number; y: number; width: number; height: number },
  hole: Bytes,
  scale: number,
): void {
  for (let y = area.y; y < area.y + area.height; y++) {
    for (let x = area.x; x < area.x + area.width; x++) {
      const i = y * out.width + x;
      if (!hole.data[i]) continue;
      const lx = Math.min(level.width - 2 * patchRadius - 1, Math.floor((x - area.x) / scale)) + patchRadius;
      const ly = Math.min(level.height - 2 * patchRadius - 1, Math.floor((y - area.y) / scale)) + patchRadius;
      const p = (ly * level.width + lx) * 4;
      out.data[i * 4] = level.pixels[p]!;
      out.data[i * 4 + 1] = level.pixels[p + 1]!;
      out.data[i * 4 + 2] = level.pixels[p + 2]!;
      out.data[i * 4 + 3] = 255;
    }
  }
}

function withHole(
  picture: Rgba,
  level: FillLevel,
  area: { x: number; y: number; width: number; height: number },
  hole: Bytes,
  scale: number,
): Rgba {
  const copy: Rgba = { ...picture, data: new Uint8ClampedArray(picture.data) };
  writeHole(copy, level, area, hole, scale);
  return copy;
}
