import { z } from 'zod';

/**
 * The names of CSS Easing Functions, and presets of our own: `hold` (no change until the next key), `overshoot` (past the
 * value and back), `wind-up` (back before it goes), both of them, and `bounce`.
 */
export const easingNames = [
  'linear',
  'ease',
  'ease-in',
  'ease-out',
  'ease-in-out',
  'hold',
  'wind-up',
  'overshoot',
  'wind-up-overshoot',
  'bounce',
] as const;

export const easingSchema = z.union([
  z.enum(easingNames),
  z.tuple([z.number().min(0).max(1), z.number(), z.number().min(0).max(1), z.number()]),
]);

/** A named easing, or the four numbers of a CSS cubic-bezier(). */
export type Easing = z.infer<typeof easingSchema>;

const curves: Record<
  Exclude<(typeof easingNames)[number], 'hold' | 'linear' | 'bounce'>,
  [number, number, number, number]
> = {
  ease: [0.25, 0.1, 0.25, 1],
  'ease-in': [0.42, 0, 1, 1],
  'ease-out': [0, 0, 0.58, 1],
  'ease-in-out': [0.42, 0, 0.58, 1],
  'wind-up': [0.36, 0, 0.66, -0.56],
  overshoot: [0.34, 1.56, 0.64, 1],
  'wind-up-overshoot': [0.68, -0.55, 0.32, 1.55],
};

/**
 * Progress after easing, by CSS Easing Functions Level 1, section 2.2.
 * @param t share of the time between two keys, 0..1
 * @returns share of the change, 0 at t = 0 and 1 at t = 1; may leave 0..1 in between
 */
export function ease(easing: Easing, t: number): number {
  if (t <= 0) return 0;
  if (t >= 1) return 1;
  if (easing === 'linear') return t;
  if (easing === 'hold') return 0;
  if (easing === 'bounce') return bounce(t);
  const [x1, y1, x2, y2] = typeof easing === 'string' ? curves[easing] : easing;
  return bezier(y1, y2, parameterAt(x1, x2, t));
}

/** Speed kept by each bounce. */
const restitution = 0.5;
const bounces = 4;
/** From the first touch; a first fall takes 1, each arc twice the restitution of the fall before it. */
const arcs = Array.from({ length: bounces }, (_, k) => 2 * restitution ** (k + 1));
const bounceTime = 1 + arcs.reduce((a, b) => a + b, 0);

/** Falls to 1 and bounces there, every bounce with half the speed of the one before (free fall, unit gravity). */
function bounce(t: number): number {
  let time = t * bounceTime;
  if (time < 1) return time * time;
  time -= 1;
  for (const arc of arcs) {
    if (time < arc) return 1 - time * (arc - time);
    time -= arc;
  }
  return 1;
}

/** The four numbers of an easing's curve; null for those that are no single Bezier. */
export function curveOf(easing: Easing): [number, number, number, number] | null {
  if (typeof easing !== 'string') return [...easing];
  if (easing === 'linear') return [0, 0, 1, 1];
  return easing === 'hold' || easing === 'bounce' ? null : curves[easing];
}

/** One coordinate of a cubic Bezier from 0 to 1 with inner control values a and b. */
function bezier(a: number, b: number, s: number): number {
  const r = 1 - s;
  return 3 * r * r * s * a + 3 * r * s * s * b + s * s * s;
}

/** The curve parameter whose x is `x`: Newton, then bisection where the slope is too flat. */
function parameterAt(x1: number, x2: number, x: number): number {
  let s = x;
  for (let k = 0; k < 8; k++) {
    const error = bezier(x1, x2, s) - x;
    if (Math.abs(error) < 1e-7) return s;
    const r = 1 - s;
    const slope = 3 * r * r * x1 + 6 * r * s * (x2 - x1) + 3 * s * s * (1 - x2);
    if (Math.abs(slope) < 1e-6) break;
    s -= error / slope;
  }
  let low = 0;
  let high = 1;
  for (let k = 0; k < 40; k++) {
    s = (low + high) / 2;
    if (bezier(x1, x2, s) < x) low = s;
    else high = s;
  }
  return s;
}
