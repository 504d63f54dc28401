import { pyramidOf, type Cutting } from './cutting.ts';
import { flowOf, type Point } from './flow.ts';
import { Patch, type Pose } from './patch.ts';
import type { Plane } from '../pixels/raster.ts';

/** Where a point is in a frame, and how much that is to be doubted: 0 not at all, 1 entirely. */
export interface Followed {
  at: Point;
  doubt: number;
}

const levels = 4;
/** Likeness from which a patch found again is believed, and below which what it has become is the better patch. */
const believed = 0.8;
/** Likeness from one frame to the next of a thing that nothing came before. */
const unchanged = 0.85;
/** Pixels by which a point taken there and back again may miss itself. */
const mostMissed = 0.7;
/** Likeness from which a patch that was lost counts as found. */
const foundAgain = 0.75;

/** Follows one point from frame to frame; each frame is asked for around where the point is thought to be. */
export class Follower {
  private patch: Patch;
  private pose: Pose;
  private pace: Point = [0, 0];
  /** Whether it was not found in the frame before: what is there now may be something else. */
  private lost = false;
  private before: { cutting: Cutting; pyramid: Plane[] };

  /**
   * @param first the frame the point was marked in, at least `reach` pixels around it
   * @param at the point, pixels of the frame with the middle of the first at (0.5, 0.5)
   * @param radius half the side of the patch that is followed, pixels
   */
  constructor(
    first: Cutting,
    at: Point,
    private readonly radius: number,
  ) {
    this.pose = { at, across: [1, 0] };
    this.patch = new Patch(first.plane, within(first, at), radius);
    this.before = { cutting: first, pyramid: pyramidOf(first, levels) };
  }

  /** Half the side of the square of the next frame that is needed, pixels. */
  get reach(): number {
    return Math.ceil(this.radius * 1.5 + 56 + 1.5 * Math.hypot(...this.pace));
  }

  /** Where the point is thought to be in the next frame. */
  get expected(): Point {
    return [this.pose.at[0] + this.pace[0], this.pose.at[1] + this.pace[1]];
  }

  /** Goes on to the next frame. @param cutting `reach` pixels around `expected` */
  next(cutting: Cutting): Followed {
    const pyramid = pyramidOf(cutting, levels);
    const found = this.byFlow(cutting, pyramid) ?? this.bySearch(cutting);
    const at = found?.pose.at ?? this.expected;
    this.pace = found ? [at[0] - this.pose.at[0], at[1] - this.pose.at[1]] : [this.pace[0] / 2, this.pace[1] / 2];
    this.pose = found?.pose ?? { ...this.pose, at };
    this.before = { cutting, pyramid };
    this.lost = !found;
    return { at, doubt: found?.doubt ?? 1 };
  }

  /** From the frame before, made exact by the patch as it was marked, so that small errors do not add up. */
  private byFlow(cutting: Cutting, pyramid: Plane[]): { pose: Pose; doubt: number } | null {
    const { before } = this;
    // Both lie on one ground for the flow: that of the frame before.
    const [ox, oy] = [cutting.x - before.cutting.x, cutting.y - before.cutting.y];
    const from = within(before.cutting, this.pose.at);
    const flowed = flowOf(before.pyramid, pyramid, from, [this.pace[0] - ox, this.pace[1] - oy]);
    if (!flowed || outside(cutting, flowed)) return null;
    const back = flowOf(pyramid, before.pyramid, flowed, [from[0] - flowed[0], from[1] - flowed[1]]);
    const missed = back ? Math.hypot(back[0] - from[0], back[1] - from[1]) : Infinity;
    const start: Pose = { at: flowed, across: this.pose.across };
    const refined = this.patch.refined(cutting.plane, start);
    const likeness = this.patch.likeness(cutting.plane, refined);
    const strayed = Math.hypot(refined.at[0] - flowed[0], refined.at[1] - flowed[1]);
    if (likeness >= believed && strayed < Math.max(4, this.radius / 2) && sound(refined))
      return { pose: onFrame(cutting, refined), doubt: doubtOf(likeness) };
    const alike = new Patch(before.cutting.plane, from, this.radius).likeness(cutting.plane, {
      at: flowed,
      across: [1, 0],
    });
    if (this.lost || missed > mostMissed || alike < unchanged) return null;
    // It came to look otherwise little by little: from here on the patch is what it has become.
    this.patch = new Patch(cutting.plane, flowed, this.radius);
    return { pose: onFrame(cutting, { at: flowed, across: [1, 0] }), doubt: 0.35 };
  }

  /** Where nothing leads from the frame before: the patch is looked for all around. */
  private bySearch(cutting: Cutting): { pose: Pose; doubt: number } | null {
    const { at, likeness: roughly } = this.patch.searched(cutting.plane, this.pose.across);
    if (roughly < foundAgain / 2) return null;
    const refined = this.patch.refined(cutting.plane, { at, across: this.pose.across });
    const likeness = this.patch.likeness(cutting.plane, refined);
    if (likeness < foundAgain || !sound(refined) || outside(cutting, refined.at)) return null;
    return { pose: onFrame(cutting, refined), doubt: Math.max(0.3, doubtOf(likeness)) };
  }
}

const doubtOf = (likeness: number): number => Math.max(0, Math.min(1, (0.97 - likeness) / 0.5));

/** A place of the frame in the pixels of a cutting, whose middles are at whole numbers; and back. */
const within = ({ x, y }: Cutting, at: Point): Point => [at[0] - x - 0.5, at[1] - y - 0.5];
const onFrame = ({ x, y }: Cutting, { at, across }: Pose): Pose => ({ at: [at[0] + x + 0.5, at[1] + y + 0.5], across });

const outside = ({ plane }: Cutting, [x, y]: Point): boolean =>
  x < 0 || y < 0 || x > plane.width - 1 || y > plane.height - 1;

/** Whether a pose is one a thing can have come to: neither swollen nor shrunk to nothing. */
function sound({ across }: Pose): boolean {
  const size = Math.hypot(...across);
  return size > 0.3 && size < 3;
}
