import { makeBytes, makePlane, type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';
import { halvedTo } from '../pixels/resample.ts';
import { cameraMotion, joinedMotion, still, type Motion } from './camera-motion.ts';
import { carriedMask } from './carried-mask.ts';
import { carriedBy, flowField, sizesOf, type FlowField } from './flow-field.ts';
import { groundPlate, plateSeen, type GroundPlate, type PlateFrame } from './ground-plate.ts';
import { softAlpha } from './soft-alpha.ts';

/** The frames of a film at full size. */
export interface FilmFrames {
  count: number;
  picture(index: number): Promise<Rgba>;
}

/** A frame whose mask is known: found in it, or put right by strokes. */
export interface KeyMask {
  frame: number;
  /** 0/1, at full size. */
  mask: Bytes;
}

export interface CarryWork {
  /** Called with every frame that is done. @param doubt how much it is to be doubted, 0..1 */
  take(index: number, alpha: Bytes, doubt: number): Promise<void> | void;
  /** Called with the share of the way that was gone; throws to cancel. */
  report?(share: number, doing: string): void;
}

/** Longest side of the size masks are carried at. */
const carriedEdge = 640;
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
    const picture = await frames.picture(key.frame);
    await work.take(key.frame, softAlpha(picture, softened(smallMask(key.mask, look.size))), 0);
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
    const { picture } = halvedTo(await frames.picture(k), carriedEdge);
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
    if (index >= from && index < to) await work.take(index, softAlpha(picture, soft), doubtOf(changed));
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
  const start = halvedTo(await frames.picture(key.frame), carriedEdge).picture;
  let before = { picture: start, mask: smallMask(key.mask, look.size), sizes: sizesOf(start) };
  let soft = softened(before.mask);
  for (let index = key.frame + direction; direction !== 0; index += direction) {
    const whole = await frames.picture(index);
    const { picture } = halvedTo(whole, carriedEdge);
    const sizes = sizesOf(picture);
    const field = flowField(sizes, before.sizes, nearMask(before.mask));
    const ground = look.plate && plateSeen(look.plate, look.motions[index]!, width, height);
    const { mask, changed } = carriedMask(picture, before, field, { ground });
    soft = steadied(softened(mask), soft, field);
    await each(index, whole, { soft, changed });
    before = { picture, mask, sizes };
    if (index === end) return;
  }
}

/** Share of the carried edge that stays in a frame's own: what jumps to and fro by less than a pixel comes to rest. */
const inertia = 0.45;

function steadied(now: Plane, before: Plane, field: FlowField): Plane {
  const carried = carriedBy(field, before);
  const out = makePlane(now.width, now.height);
  for (let i = 0; i < out.data.length; i++) {
    const [a, b] = [now.data[i]!, carried.data[i]!];
    // A real change of shape is not held back.
    out.data[i] = Math.abs(a - b) < 0.6 ? a + (b - a) * inertia : a;
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
    for (let r = Math.max(0, row - 3); r <= Math.min(rows - 1, row + 3); r++)
      for (let c = Math.max(0, column - 3); c <= Math.min(columns - 1, column + 3); c++)
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

/** A mask with an edge one pixel wide. */
function softened({ width, height, data }: Bytes): Plane {
  const out = makePlane(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let v = -1; v <= 1; v++)
        for (let u = -1; u <= 1; u++) {
          const [px, py] = [Math.max(0, Math.min(width - 1, x + u)), Math.max(0, Math.min(height - 1, y + v))];
          sum += data[py * width + px]! * (u === 0 && v === 0 ? 4 : u === 0 || v === 0 ? 2 : 1);
        }
      out.data[y * width + x] = sum / 16;
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

/** A frame whose mask had to leave what was carried to it by a tenth of its area is one to look at. */
const doubtOf = (changed: number): number => Math.min(1, changed / 0.3);
