import { checkpoint, type Progress } from '../pixels/progress.ts';
import type { Bytes, Rgba } from '../pixels/raster.ts';
import { halve, halveMask } from '../pixels/resample.ts';
import { Room, roomFor, type PatchMemory } from './patch-memory.ts';
import {
  besideLine,
  listBytes,
  mostLines,
  newLists,
  patchRadius,
  type FillLevel,
  type LevelLine,
} from './fill-level.ts';

/** A level and how much a patch centred at each of its pixels counts. */
export interface PyramidLevel {
  level: FillLevel;
  trust: Float32Array;
}

/** A picture at one size with its hole, and 1 in `barred` where nothing may be copied from. */
export interface Step {
  picture: Rgba;
  hole: Bytes;
  barred: Bytes | null;
}

/** Steps from the full size down, until the hole is only a few patches deep or the picture is small. */
export async function shrinkingSteps(first: Step, progress?: Progress): Promise<Step[]> {
  const steps: Step[] = [first];
  for (;;) {
    await checkpoint(progress);
    const { picture, hole } = steps.at(-1)!;
    if (steps.length > 8 || Math.min(picture.width, picture.height) < 40 || holeDepth(hole) < 4) return steps;
    steps.push(halvedStep(steps.at(-1)!));
  }
}

/** The same at half the size; what is in the hole stays out of what surrounds it. */
export const halvedStep = ({ picture, hole, barred }: Step): Step => ({
  picture: halveKnown(picture, hole),
  hole: halveMask(hole),
  barred: barred && halveMask(barred),
});

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
      const o = (y * out.width + x) * 4;
      out.data[o] = r / n;
      out.data[o + 1] = g / n;
      out.data[o + 2] = b / n;
    }
  }
  return out;
}

/** Bytes of all lists of a level, with its padding. */
export function levelBytes(picture: Rgba): number {
  const [width, height] = [picture.width + 2 * patchRadius, picture.height + 2 * patchRadius];
  const count = width * height;
  return roomFor(...[4, 4, 4, 4, 1, 1, 1].map((bytes) => bytes * count)) + listBytes(width, height);
}

/**
 * Lays a step out for the search; null when it leaves too little to copy from.
 * @param lines lines that must run through the hole, in pixels of the step
 * @param memory where its lists are to lie, so that it is worked on there
 */
export async function makeLevel(
  { picture, hole, barred }: Step,
  lines: readonly LevelLine[] = [],
  progress?: Progress,
  memory?: PatchMemory,
): Promise<PyramidLevel | null> {
  const width = picture.width + 2 * patchRadius;
  const height = picture.height + 2 * patchRadius;
  const room = memory?.room(levelBytes(picture)) ?? new Room();
  const pixels = room.bytes(width * height * 4);
  const known = room.bytes(width * height);
  layOut(picture, hole, pixels, known);
  await checkpoint(progress);
  const overlap = touchingHole(known, width, height);
  await checkpoint(progress);
  const isSource = room.bytes(width * height);
  const [sources, targets] = centresOf(overlap, picture, barred, isSource, [
    room.ints(width * height),
    room.ints(width * height),
  ]);
  if (sources.length < 16) return null;
  await checkpoint(progress);
  const trust = trustByDepth(known, width, targets, room);
  const level = {
    width,
    height,
    room,
    pixels,
    known,
    isSource,
    sources,
    targets,
    lines: linesThrough(lines, width, height, targets, room),
    lists: newLists(room, width, height),
  };
  return { level, trust };
}

/** Writes a picture into a level, and what is known of it; the border is repeated outwards. */
function layOut(picture: Rgba, hole: Bytes, pixels: Uint8Array, known: Uint8Array): void {
  const pad = patchRadius;
  const width = picture.width + 2 * pad;
  for (let y = 0; y < picture.height + 2 * pad; y++) {
    const row = Math.max(0, Math.min(picture.height - 1, y - pad)) * picture.width;
    const at = y * width;
    pixels.set(picture.data.subarray(row * 4, (row + picture.width) * 4), (at + pad) * 4);
    for (let x = 0; x < picture.width; x++) known[at + pad + x] = 1 - hole.data[row + x]!;
    for (let x = 0; x < pad; x++) {
      const right = at + width - 1 - x;
      pixels.copyWithin((at + x) * 4, (at + pad) * 4, (at + pad + 1) * 4);
      pixels.copyWithin(right * 4, (at + width - 1 - pad) * 4, (at + width - pad) * 4);
      known[at + x] = known[at + pad]!;
      known[right] = known[at + width - 1 - pad]!;
    }
  }
}

/**
 * Centres of patches that may be copied from, which are marked too, and of those that overlap the hole, in scan order.
 * @param barred 1 where none may be, in the picture's pixels  @param room lists long enough for both
 */
function centresOf(
  overlap: Uint8Array,
  picture: Rgba,
  barred: Bytes | null,
  isSource: Uint8Array,
  room: readonly [Int32Array, Int32Array],
): [Int32Array, Int32Array] {
  const pad = patchRadius;
  const [width, height] = [picture.width + 2 * pad, picture.height + 2 * pad];
  const [sources, targets] = room;
  let sourceCount = 0;
  let targetCount = 0;
  for (let y = pad; y < height - pad; y++) {
    for (let x = pad; x < width - pad; x++) {
      const i = y * width + x;
      if (overlap[i]) targets[targetCount++] = i;
      else if (x >= 2 * pad && y >= 2 * pad && x < width - 2 * pad && y < height - 2 * pad) {
        if (barred?.data[(y - pad) * picture.width + x - pad]) continue;
        sources[sourceCount++] = i;
        isSource[i] = 1;
      }
    }
  }
  return [sources.subarray(0, sourceCount), targets.subarray(0, targetCount)];
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
function trustByDepth(known: Uint8Array, width: number, targets: Int32Array, room: Room): Float32Array {
  const trust = room.floats(known.length);
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

/** Half width in pixels of the strip along a guide line in which it rules. */
const strip = 6;

/** Which targets lie along a line, and how far beside it; null without lines. */
function linesThrough(
  lines: readonly LevelLine[],
  width: number,
  height: number,
  targets: Int32Array,
  room: Room,
): FillLevel['lines'] {
  if (lines.length === 0) return null;
  const padded = lines
    .slice(0, mostLines)
    .map((line) => ({ ...line, x: line.x + patchRadius, y: line.y + patchRadius }));
  const at = room.bytes(width * height);
  for (const t of targets) {
    const [x, y] = [t % width, (t / width) | 0];
    let nearest = strip;
    for (let k = 0; k < padded.length; k++) {
      const line = padded[k]!;
      const d = Math.abs(besideLine(line, x, y));
      if (d > nearest) continue;
      const along = (x - line.x) * line.dx + (y - line.y) * line.dy;
      if (along < -1 || along > line.length + 1) continue;
      nearest = d;
      at[t] = k + 1;
    }
  }
  return { all: padded, at };
}

/** Peels the hole from its rim inwards, each pixel the mean of its known neighbours: a plain start for the voting. */
export function startFromRim(level: FillLevel): void {
  const { known, targets } = level;
  const filled = Uint8Array.from(known);
  let rest = targets.filter((t) => !known[t]);
  while (rest.length > 0) {
    const ready = rest.filter((t) => fillFromAround(level, filled, t));
    for (const t of ready) filled[t] = 1;
    if (ready.length === 0) return;
    rest = rest.filter((t) => !filled[t]);
  }
}

/** Makes a pixel the mean of the filled ones around it; false where there are none. */
function fillFromAround({ width, height, pixels }: FillLevel, filled: Uint8Array, t: number): boolean {
  const [x, y] = [t % width, (t / width) | 0];
  const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
  let [n, r, g, b] = [0, 0, 0, 0];
  for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
    for (let j = v * width + left; j <= v * width + right; j++) {
      if (!filled[j]) continue;
      n++;
      r += pixels[j * 4]!;
      g += pixels[j * 4 + 1]!;
      b += pixels[j * 4 + 2]!;
    }
  }
  if (n === 0) return false;
  pixels[t * 4] = r / n;
  pixels[t * 4 + 1] = g / n;
  pixels[t * 4 + 2] = b / n;
  return true;
}
