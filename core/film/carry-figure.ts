import { boundsOf, growRect, makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { cameraMotion, joinedMotion, still, type Motion } from './camera-motion.ts';
import { carriedMask } from './carried-mask.ts';
import { carriedBy, flowField, sizesOf, type FlowField } from './flow-field.ts';
import { groundPlate, plateSeen, type GroundPlate, type PlateFrame } from './ground-plate.ts';
import { softAlpha } from './soft-alpha.ts';

/** A frame at full size, and at the size masks are carried at: see carriedSize. */
export interface FilmFrame {
  whole(): Rgba;
  small: Rgba;
}

/** The frames of a film. One stays valid until the next one is asked for. */
export interface FilmFrames {
  count: number;
  frame(index: number): Promise<FilmFrame>;
}

/** A frame whose mask is known: found in it, or put right by strokes. */
export interface KeyMask {
  frame: number;
  /** 0/1, at full size. */
  mask: Bytes;
}

export interface CarryWork {
  /** Called with every frame that is done. @param changed by which share of its area it left what was carried to it */
  take(index: number, alpha: Bytes, changed: number): Promise<void> | void;
  /** Called with the share of the way that was gone; throws to cancel. */
  report?(share: number, doing: string): void;
}

/** Longest side of the size masks are carried at. */
const carriedEdge = 480;

/** The size at which the masks of a film are carried along. */
export function carriedSize(width: number, height: number): { width: number; height: number } {
  const scale = Math.min(1, carriedEdge / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** Frames the ground's plate is made of at most. */
const plateFrames = 25;

/**
 * Carries a figure through a film, from frames in which its mask is known to those in between: forwards from one, backwards
 * from the next, and between two from both, the nearer one counting more.
 * @param keys at least one
 * @param from, to frames that are wanted: from `from` up to, but not with, `to`
 */
export async function carryFigure(
  frames: FilmFrames,
  keys: readonly KeyMask[],
  [from, to]: readonly [number, number],
  work: CarryWork,
): Promise<void> {
  const sorted = [...keys].sort((a, b) => a.frame - b.frame);
  const look = await lookedThrough(frames, (share) => work.report?.(share * 0.3, 'Looking through the clip'));
  const legs = legsOf(sorted, frames.count).filter(({ first, last }) => last >= from && first < to);
  const total = legs.reduce((sum, leg) => sum + leg.last - leg.first + 1, 0) + sorted.length;
  let done = 0;
  const step = (): void => work.report?.(0.3 + (0.7 * ++done) / total, 'Cutting frame by frame');
  for (const key of sorted) {
    if (key.frame < from || key.frame >= to) continue;
    const { whole } = await frames.frame(key.frame);
    await work.take(key.frame, softAlpha(whole(), softened(smallMask(key.mask, look.size))), 0);
    step();
  }
  for (const leg of legs) await walkLeg(frames, look, leg, [from, to], work, step);
}

interface Look {
  /** Size masks are carried at. */
  size: { width: number; height: number };
  /** Where places of each frame lie in the first. */
  motions: Motion[];
  plate: GroundPlate | null;
}

/** The way of the lens through all frames, and the ground without what moves before it. */
async function lookedThrough(frames: FilmFrames, report: (share: number) => void): Promise<Look> {
  const motions: Motion[] = [];
  const kept: PlateFrame[] = [];
  const stride = Math.max(1, Math.ceil(frames.count / plateFrames));
  let before: Plane[] | null = null;
  let size = { width: 0, height: 0 };
  for (let k = 0; k < frames.count; k++) {
    const { small: picture } = await frames.frame(k);
    size = { width: picture.width, height: picture.height };
    // Half the size tells the lens's way as well, in a quarter of the time.
    const sizes: Plane[] = sizesOf(picture).slice(1);
    const motion = before ? doubled(cameraMotion(flowField(sizes, before, everySecond))) : still;
    motions.push(before ? joinedMotion(motions[k - 1]!, motion) : still);
    before = sizes;
    if (k % stride === 0) kept.push({ picture, motion: motions[k]!, figure: null });
    report((k + 1) / frames.count);
  }
  return { size, motions, plate: groundPlate(kept) };
}

const doubled = ({ a, b, tx, ty }: Motion): Motion => ({ a, b, tx: tx * 2, ty: ty * 2 });
const everySecond = (x: number, y: number): boolean => (Math.floor(x / 10) + Math.floor(y / 10)) % 2 === 0;

interface Leg {
  before: KeyMask | null;
  after: KeyMask | null;
  /** Frames strictly between the keys. */
  first: number;
  last: number;
}

function legsOf(keys: readonly KeyMask[], count: number): Leg[] {
  const ends = [null, ...keys, null];
  return ends.slice(1).flatMap((after, k): Leg[] => {
    const before = ends[k]!;
    const [first, last] = [before ? before.frame + 1 : 0, after ? after.frame - 1 : count - 1];
    return last >= first && (before || after) ? [{ before, after, first, last }] : [];
  });
}

/** One frame on the way: its mask, softened over time, and how far it left what was carried to it. */
interface Carried {
  soft: Plane;
  changed: number;
}

async function walkLeg(
  frames: FilmFrames,
  look: Look,
  { before, after, first, last }: Leg,
  [from, to]: readonly [number, number],
  work: CarryWork,
  step: () => void,
): Promise<void> {
  const there = after && before ? new Map<number, Carried>() : null;
  const lay = async (index: number, picture: Rgba, { soft, changed }: Carried): Promise<void> => {
    if (index >= from && index < to) await work.take(index, softAlpha(picture, soft), changed);
    step();
  };
  if (after)
    await walk(frames, look, after, first, async (index, picture, carried) => {
      if (there) there.set(index, carried);
      else await lay(index, picture, carried);
    });
  if (before)
    await walk(frames, look, before, last, async (index, picture, carried) => {
      const other = there?.get(index);
      const share = (index - first + 1) / (last - first + 2);
      await lay(index, picture, other ? joinedCarried(carried, other, share) : carried);
    });
}

/** Carries a mask from a key to a frame, forwards or backwards. */
async function walk(
  frames: FilmFrames,
  look: Look,
  key: KeyMask,
  end: number,
  each: (index: number, picture: Rgba, carried: Carried) => Promise<void>,
): Promise<void> {
  const direction = Math.sign(end - key.frame);
  const { width, height } = look.size;
  const start = (await frames.frame(key.frame)).small;
  let before = { picture: start, mask: smallMask(key.mask, look.size), sizes: sizesOf(start) };
  let soft = softened(before.mask);
  for (let index = key.frame + direction; direction !== 0; index += direction) {
    const { small: picture, whole } = await frames.frame(index);
    const sizes = sizesOf(picture);
    const field = flowField(sizes, before.sizes, nearMask(before.mask));
    const ground = look.plate && plateSeen(look.plate, look.motions[index]!, width, height);
    const { mask, changed } = carriedMask(picture, before, field, { ground });
    soft = steadied(softened(mask), mask, soft, field);
    await each(index, whole(), { soft, changed });
    before = { picture, mask, sizes };
    if (index === end) return;
  }
}

/** Share of the carried edge that stays in a frame's own: what jumps to and fro by less than a pixel comes to rest. */
const inertia = 0.45;

function steadied(now: Plane, mask: Bytes, before: Plane, field: FlowField): Plane {
  const bounds = boundsOf(mask);
  const out = { ...now, data: now.data.slice() };
  if (!bounds) return out;
  const area = growRect(bounds, 4, now.width, now.height);
  const carried = carriedBy(field, before, area);
  for (let y = 0; y < area.height; y++)
    for (let x = 0; x < area.width; x++) {
      const i = (area.y + y) * now.width + area.x + x;
      const [a, b] = [now.data[i]!, carried.data[y * area.width + x]!];
      // A real change of shape is not held back.
      if (Math.abs(a - b) < 0.6) out.data[i] = a + (b - a) * inertia;
    }
  return out;
}

/** Whether a place is so near to a mask that its motion matters; looked up in coarse cells. */
function nearMask({ width, height, data }: Bytes): (x: number, y: number) => boolean {
  const coarse = 10;
  const [columns, rows] = [Math.ceil(width / coarse), Math.ceil(height / coarse)];
  const set = new Uint8Array(columns * rows);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (data[y * width + x]) set[Math.floor(y / coarse) * columns + Math.floor(x / coarse)] = 1;
  return (x, y) => {
    const [column, row] = [Math.floor(x / coarse), Math.floor(y / coarse)];
    for (let r = Math.max(0, row - 2); r <= Math.min(rows - 1, row + 2); r++)
      for (let c = Math.max(0, column - 2); c <= Math.min(columns - 1, column + 2); c++)
        if (set[r * columns + c]) return true;
    return false;
  };
}

function smallMask({ width, height, data }: Bytes, size: { width: number; height: number }): Bytes {
  const out = makeBytes(size.width, size.height);
  const [sx, sy] = [width / size.width, height / size.height];
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const [u, v] = [Math.floor((x + 0.5) * sx), Math.floor((y + 0.5) * sy)];
      out.data[y * size.width + x] = data[Math.min(height - 1, v) * width + Math.min(width - 1, u)]!;
    }
  return out;
}

/** A mask with an edge one pixel wide: (1 2 1) / 4 across and down. */
function softened({ width, height, data }: Bytes): Plane {
  const across = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0, i = y * width; x < width; x++, i++)
      across[i] = (data[x > 0 ? i - 1 : i]! + 2 * data[i]! + data[x + 1 < width ? i + 1 : i]!) / 4;
  const out = makePlane(width, height);
  for (let y = 0, i = 0; y < height; y++) {
    const [up, down] = [y > 0 ? -width : 0, y + 1 < height ? width : 0];
    for (let x = 0; x < width; x++, i++) out.data[i] = (across[i + up]! + 2 * across[i]! + across[i + down]!) / 4;
  }
  return out;
}

/** Both ways to a frame as one. @param share of the second */
function joinedCarried(a: Carried, b: Carried, share: number): Carried {
  const soft = makePlane(a.soft.width, a.soft.height);
  // Where they disagree the nearer key is believed, going over within a few frames.
  const t = Math.max(0, Math.min(1, (share - 0.5) * 3 + 0.5));
  let [apart, area] = [0, 0];
  for (let i = 0; i < soft.data.length; i++) {
    soft.data[i] = a.soft.data[i]! * (1 - t) + b.soft.data[i]! * t;
    apart += Math.abs(a.soft.data[i]! - b.soft.data[i]!);
    area += soft.data[i]!;
  }
  return { soft, changed: Math.max(a.changed, b.changed, (apart / Math.max(1, area)) * 0.6) };
}

/** Frames around one that tell what is usual there. */
const around = 8;

/**
 * Frames to be looked at: those whose mask had to leave what was carried to it by much more than those around did.
 * @param changed share of its area by which each frame left what was carried to it; null where it was not cut
 */
export function troubleFrames(changed: readonly (number | null)[]): number[] {
  return changed.flatMap((value, k) => {
    if (value === null) return [];
    const near = changed.slice(Math.max(0, k - around), k + around + 1).filter((v) => v !== null);
    const usual = near.sort((a, b) => a - b)[near.length >> 1]!;
    return value > 0.06 + 2 * usual ? [k] : [];
  });
}
