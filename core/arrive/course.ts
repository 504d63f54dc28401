import { ease, type Easing } from '../motion/easing.ts';
import { hashOf } from '../pixels/random.ts';
import { arrivalKind } from './arrivals.ts';
import { atRest, type Unit, type UnitState } from './arrival.ts';

/** What arrives as one. */
export const unitsBy = ['whole', 'line', 'word', 'letter'] as const;
export type UnitsBy = (typeof unitsBy)[number];

export const orders = ['first to last', 'last to first', 'from the middle', 'from the ends', 'at random'] as const;
export type Order = (typeof orders)[number];

/** An arrival as it stands at one frame; of a leaving, what is left of it. */
export interface ArrivalNow {
  kind: string;
  values: Record<string, unknown>;
  by: UnitsBy;
  order: Order;
  /** 0: the next begins when one has come; 1: all come at once. */
  overlap: number;
  easing: Easing;
  seed: number;
  /** Share of the whole time that has passed, 0..1. */
  passed: number;
  /** Pixels of the source a frame pixel has. */
  scale: number;
}

/** When each of some units begins: its step, and how many steps there are. */
export function stepsOf(order: Order, count: number, seed: number): { steps: number[]; last: number } {
  const indices = Array.from({ length: count }, (_, k) => k);
  const middle = (count - 1) / 2;
  const fromMiddle = indices.map((k) => Math.floor(Math.abs(k - middle)));
  const furthest = Math.max(0, ...fromMiddle);
  const byOrder: Record<Order, () => number[]> = {
    'first to last': () => indices,
    'last to first': () => indices.map((k) => count - 1 - k),
    'from the middle': () => fromMiddle,
    'from the ends': () => fromMiddle.map((step) => furthest - step),
    'at random': () => {
      const drawn = [...indices].sort((a, b) => hashOf(seed, a) - hashOf(seed, b) || a - b);
      return indices.map((k) => drawn.indexOf(k));
    },
  };
  const steps = byOrder[order]();
  return { steps, last: Math.max(0, ...steps) };
}

/** The share of its own time that a unit has passed. All are done when the whole is. */
export function shareOf(passed: number, step: number, last: number, overlap: number): number {
  const each = 1 / (1 + last * (1 - overlap));
  const begin = step * each * (1 - overlap);
  // What has passed entirely has come entirely, whatever rounding says.
  if (passed >= 1) return 1;
  return Math.max(0, Math.min(1, (passed - begin) / each));
}

/** How a unit stands; `index` is its place among the units. */
export function stateOf(
  arrival: ArrivalNow,
  index: number,
  course: { steps: readonly number[]; last: number },
  box: Pick<Unit, 'width' | 'height' | 'tail'>,
): UnitState {
  const kind = arrivalKind(arrival.kind);
  if (!kind) return atRest;
  const { passed, overlap, easing, seed, scale, values } = arrival;
  const share = shareOf(passed, course.steps[index] ?? 0, course.last, overlap);
  if (share >= 1) return atRest;
  const random = (k: number): number => hashOf(seed, index, k);
  const state = kind.at(kind.ownCourse ? share : ease(easing, share), values as never, { ...box, scale, random });
  // Before its own time nothing of it is seen, whatever its kind would show.
  return share <= 0 ? { ...state, opacity: 0 } : state;
}
