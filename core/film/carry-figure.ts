import { boundsOf, growRect, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { cameraMotion, joinedMotion, still, type Motion } from './camera-motion.ts';
import { carriedMask } from './carried-mask.ts';
import { resizedMask } from '../pixels/resample.ts';
import { carriedBy, flowField, sizesOf, type FlowField } from './flow-field.ts';
import { groundPlate, plateSeen, type GroundPlate, type PlateFrame } from './ground-plate.ts';

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
  /**
   * Called with every frame that is done; softAlpha makes its alpha of both.
   * @param soft its mask, 0..1, at the size masks are carried at
   * @param changed by which share of its area it left what was carried to it
   */
  take(index: number, picture: Rgba, soft: Plane, changed: number): Promise<void> | void;
  /** Called with the share of the way that was gone. */
  report?(share: number, doing: string): void;
  /** Called between frames; throws to cancel. */
  between?(): Promise<void>;
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
  const look = await lookedThrough(frames, async (share) => {
    work.report?.(share * 0.3, 'Looking through the clip');
    await work.between?.();
  });
  const legs = legsOf(sorted, frames.count).filter(({ first, last }) => last >= from && first < to);
  const wanted = sorted.filter(({ frame }) => frame >= from && frame < to);
  const total = legs.reduce((sum, leg) => sum + leg.last - leg.first + 1, 0) + wanted.length;
  let done = 0;
  const step = async (): Promise<void> => {
    work.report?.(0.3 + (0.7 * ++done) / total, 'Cutting frame by frame');
    await work.between?.();
  };
  for (const key of wanted) {
    const { whole } = await frames.frame(key.frame);
    await work.take(key.frame, whole(), keySoftness(key.mask), 0);
    await step();
  }
  for (const leg of legs) await walkLeg(frames, look, leg, [from, to], work, step);
}

/** A frame's mask that is known, as those beside it are carried. @param mask 0/1, at full size */
export function keySoftness(mask: Bytes): Plane {
  const { width, height } = carriedSize(mask.width, mask.height);
  return softened(resizedMask(mask, width, height));
}

/** What was found out by looking through a film. */
export interface Look {
  /** Size masks are carried at. */
  size: { width: number; height: number };
  /** Where places of each frame lie in the first. */
  motions: Motion[];
  plate: GroundPlate | null;
}

/** Pairs of frames, spread over the film, by which it is told whether the lens moves at all. */
const probes = 7;

/** The way of the lens through all frames, and the ground without what moves before it. */
export async function lookedThrough(frames: FilmFrames, report: (share: number) => Promise<void>): Promise<Look> {
  const motions: Motion[] = [];
  const kept: PlateFrame[] = [];
  const stride = Math.max(1, Math.ceil(frames.count / plateFrames));
  const stays = await lensStays(frames);
  let before: Plane[] | null = null;
  let size = { width: 0, height: 0 };
  for (let k = 0; k < frames.count; k++) {
    if (stays) motions.push(still);
    if (stays && k % stride !== 0) continue;
    const { small: picture } = await frames.frame(k);
    size = { width: picture.width, height: picture.height };
    if (!stays) {
      const sizes = halfSizesOf(picture);
      const motion: Motion = before ? motionBetween(sizes, before) : still;
      motions.push(before ? joinedMotion(motions[k - 1]!, motion) : still);
      before = sizes;
    }
    if (k % stride === 0) kept.push({ picture, motion: motions[k]!, figure: null });
    await report((k + 1) / frames.count);
  }
  return { size, motions, plate: groundPlate(kept) };
}

async function lensStays(frames: FilmFrames): Promise<boolean> {
  for (let k = 0; k < probes; k++) {
    const at = Math.round((k * (frames.count - 2)) / (probes - 1));
    if (at < 0) return true;
    const first = halfSizesOf((await frames.frame(at)).small);
    const second = halfSizesOf((await frames.frame(at + 1)).small);
    if (motionBetween(second, first) !== still) return false;
  }
  return true;
}

/** Half the size tells the lens's way as well, in a quarter of the time. */
const halfSizesOf = (picture: Rgba): Plane[] => sizesOf(picture).slice(1);

const motionBetween = (sizes: Plane[], before: Plane[]): Motion => {
  const motion = cameraMotion(flowField(sizes, before, everySecond));
  return motion === still ? still : doubled(motion);
};

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
  step: () => Promise<void>,
): Promise<void> {
  const there = after && before ? new Map<number, Carried>() : null;
  const lay = async (index: number, picture: Rgba, { soft, changed }: Carried): Promise<void> => {
    if (index >= from && index < to) await work.take(index, picture, soft, changed);
    await step();
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
  let before = {
    picture: start,
    mask: resizedMask(key.mask, look.size.width, look.size.height),
    sizes: sizesOf(start),
  };
  let soft = softened(before.mask);
  for (let index = key.frame + direction; direction !== 0; index += direction) {
    const { small: picture, whole } = await frames.frame(index);
    const sizes = sizesOf(picture);
    const field = flowField(sizes, before.sizes, nearEdge(before.mask));
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

/** Whether a place is so near to a mask's edge that its motion matters; looked up in coarse cells. */
function nearEdge({ width, height, data }: Bytes): (x: number, y: number) => boolean {
  const coarse = 10;
  const [columns, rows] = [Math.ceil(width / coarse), Math.ceil(height / coarse)];
  const set = new Uint8Array(columns * rows);
  for (let y = 0; y + 1 < height; y++)
    for (let x = 0; x + 1 < width; x++) {
      const i = y * width + x;
      if (data[i] !== data[i + 1] || data[i] !== data[i + width])
        set[Math.floor(y / coarse) * columns + Math.floor(x / coarse)] = 1;
    }
  return (x, y) => {
    const [column, row] = [Math.floor(x / coarse), Math.floor(y / coarse)];
    for (let r = Math.max(0, row - 1); r <= Math.min(rows - 1, row + 1); r++)
      for (let c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c++)
        if (set[r * columns + c]) return true;
    return false;
  };
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
