import type { Key, Point } from './property.ts';

/** Straight pieces a curved way is measured by. */
const pieces = 96;

/**
 * The point a share of the way between two keys, along the cubic Bezier of their handles and measured in length, so that
 * an easing is an easing of the way travelled and `linear` means even speed. Shares outside 0..1 go on straight.
 */
export function alongWay(from: Key<Point>, to: Key<Point>, share: number): Point {
  const { at, length } = measured(from, to);
  const total = length[pieces]!;
  if (total === 0) return from.value;
  if (share < 0 || share > 1) {
    const [a, b] = share < 0 ? [at[0]!, at[1]!] : [at[pieces - 1]!, at[pieces]!];
    const step = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    const beyond = ((share < 0 ? share : share - 1) * total) / step;
    const base = share < 0 ? a : b;
    return [base[0] + (b[0] - a[0]) * beyond, base[1] + (b[1] - a[1]) * beyond];
  }
  const wanted = share * total;
  let low = 0;
  let high = pieces;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (length[middle]! <= wanted) low = middle;
    else high = middle;
  }
  const within = (wanted - length[low]!) / (length[high]! - length[low]! || 1);
  const [a, b] = [at[low]!, at[high]!];
  return [a[0] + (b[0] - a[0]) * within, a[1] + (b[1] - a[1]) * within];
}

/** Length of the way between two keys, in frame pixels. */
export const lengthOfWay = (from: Key<Point>, to: Key<Point>): number => measured(from, to).length[pieces]!;

interface MeasuredWay {
  to: Key<Point>;
  at: Point[];
  /** From the start to each point. */
  length: number[];
}

/** Keys are never changed in place, so a way stays measured for as long as its first key lives. */
const known = new WeakMap<Key<Point>, MeasuredWay>();

function measured(from: Key<Point>, to: Key<Point>): MeasuredWay {
  const there = known.get(from);
  if (there && there.to === to) return there;
  const [a, d] = [from.value, to.value];
  const b: Point = [a[0] + (from.out?.[0] ?? 0), a[1] + (from.out?.[1] ?? 0)];
  const c: Point = [d[0] + (to.in?.[0] ?? 0), d[1] + (to.in?.[1] ?? 0)];
  const at = Array.from({ length: pieces + 1 }, (_, k): Point => {
    const t = k / pieces;
    const s = 1 - t;
    const [wa, wb, wc, wd] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    return [wa * a[0] + wb * b[0] + wc * c[0] + wd * d[0], wa * a[1] + wb * b[1] + wc * c[1] + wd * d[1]];
  });
  const length = [0];
  for (let k = 1; k <= pieces; k++)
    length.push(length[k - 1]! + Math.hypot(at[k]![0] - at[k - 1]![0], at[k]![1] - at[k - 1]![1]));
  const made = { to, at, length };
  known.set(from, made);
  return made;
}
