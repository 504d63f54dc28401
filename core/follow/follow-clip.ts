import type { Cutting } from './cutting.ts';
import { Follower, type Followed } from './follower.ts';
import type { Point } from './flow.ts';

/** A place where a point was marked by hand. */
export interface Mark {
  frame: number;
  at: Point;
}

/** The frames of a clip, of which only what is around a point is looked at. */
export interface Frames {
  count: number;
  /** The square of a frame around a place, `reach` pixels each way; what lies beyond the frame is not in it. */
  cutting(frame: number, around: Point, reach: number): Promise<Cutting>;
}

export interface Following {
  /** Half the side of the patch that is followed, pixels. */
  radius: number;
  /** Called with the share of the way that was gone; throws to cancel. */
  report?: (share: number) => void;
}

/**
 * Follows a marked point through a clip. Before the first mark it is followed backwards and after the last forwards; between
 * two marks from both, going over from one to the other, so that it meets every mark.
 * @param marks at least one, at different frames
 * @param from, to frames that are wanted: from `from` up to, but not with, `to`
 * @returns one place for each wanted frame
 */
export async function followPoint(
  frames: Frames,
  marks: readonly Mark[],
  [from, to]: readonly [number, number],
  { radius, report }: Following,
): Promise<Followed[]> {
  const sorted = [...marks].sort((a, b) => a.frame - b.frame);
  const out = new Map<number, Followed>();
  for (const mark of sorted) out.set(mark.frame, { at: mark.at, doubt: 0 });
  const legs = legsBetween(sorted, frames.count).filter(({ first, last }) => last >= from && first < to);
  const total = legs.reduce((sum, leg) => sum + leg.steps, 0);
  let done = 0;
  const walk = (start: Mark, end: number): Promise<Map<number, Followed>> =>
    walked(frames, start, end, radius, () => report?.(++done / Math.max(1, total)));
  for (const { before, after, first, last } of legs) {
    const forwards = before ? await walk(before, last) : null;
    const backwards = after ? await walk(after, first) : null;
    for (let frame = first; frame <= last; frame++)
      out.set(frame, joinedOf(forwards?.get(frame), backwards?.get(frame), (frame - first + 1) / (last - first + 2)));
  }
  return Array.from({ length: to - from }, (_, k) => out.get(from + k)!);
}

interface Leg {
  before: Mark | null;
  after: Mark | null;
  /** Frames strictly between the marks. */
  first: number;
  last: number;
  steps: number;
}

function legsBetween(marks: readonly Mark[], count: number): Leg[] {
  const ends = [null, ...marks, null];
  return ends.slice(1).flatMap((after, k): Leg[] => {
    const before = ends[k]!;
    const [first, last] = [before ? before.frame + 1 : 0, after ? after.frame - 1 : count - 1];
    const steps = (last - first + 1) * (before && after ? 2 : 1);
    return last >= first && (before || after) ? [{ before, after, first, last, steps }] : [];
  });
}

/** From a mark to a frame, in either direction. */
async function walked(
  frames: Frames,
  start: Mark,
  end: number,
  radius: number,
  step: () => void,
): Promise<Map<number, Followed>> {
  const out = new Map<number, Followed>();
  const direction = Math.sign(end - start.frame);
  const reach = Math.ceil(radius * 1.5 + 56);
  const follower = new Follower(await frames.cutting(start.frame, start.at, reach), start.at, radius);
  for (let frame = start.frame + direction; direction !== 0; frame += direction) {
    out.set(frame, follower.next(await frames.cutting(frame, follower.expected, follower.reach)));
    step();
    if (frame === end) break;
  }
  return out;
}

/** @param share of the second */
function joinedOf(first: Followed | undefined, second: Followed | undefined, share: number): Followed {
  if (!first || !second) return (first ?? second)!;
  // What is doubted gives way to what is not.
  const [a, b] = [(1 - share) * (1.05 - first.doubt), share * (1.05 - second.doubt)];
  const t = b / (a + b);
  const at: Point = [first.at[0] + (second.at[0] - first.at[0]) * t, first.at[1] + (second.at[1] - first.at[1]) * t];
  const apart = Math.hypot(second.at[0] - first.at[0], second.at[1] - first.at[1]);
  return { at, doubt: Math.min(1, first.doubt * (1 - t) + second.doubt * t + Math.max(0, apart - 1) / 12) };
}
