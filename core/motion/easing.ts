import { z } from 'zod';

/** The names of CSS Easing Functions, `hold` (no change until the next key) and `overshoot` (past the value and back). */
export const easingNames = ['linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out', 'hold', 'overshoot'] as const;

export const easingSchema = z.union([
  z.enum(easingNames),
  z.tuple([z.number().min(0).max(1), z.number(), z.number().min(0).max(1), z.number()]),
]);

/** A named easing, or the four numbers of a CSS cubic-bezier(). */
export type Easing = z.infer<typeof easingSchema>;

const curves: Record<Exclude<(typeof easingNames)[number], 'hold' | 'linear'>, [number, number, number, number]> = {
  ease: [0.25, 0.1, 0.25, 1],
  'ease-in': [0.42, 0, 1, 1],
  'ease-out': [0, 0, 0.58, 1],
  'ease-in-out': [0.42, 0, 0.58, 1],
  overshoot: [0.34, 1.56, 0.64, 1],
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
  const [x1, y1, x2, y2] = typeof easing === 'string' ? curves[easing] : easing;
  return bezier(y1, y2, parameterAt(x1, x2, t));
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
