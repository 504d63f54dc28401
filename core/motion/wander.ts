import { z } from 'zod';

export const jitterSchema = z.object({
  /** Largest way from the value, to both sides. */
  amount: z.number().min(0).max(1e5),
  /** Frames between two random values. */
  period: z.number().min(1).max(100_000),
  seed: z.number().int().min(0).max(1e9),
});
export type Jitter = z.infer<typeof jitterSchema>;

export const bobSchema = <T extends z.ZodType>(value: T) =>
  z.object({
    amount: value,
    /** Frames for a way there and back. */
    period: z.number().min(1).max(100_000),
    /** Share of the period it is ahead. */
    phase: z.number().min(-1).max(1),
  });
export interface Bob<T> {
  amount: T;
  period: number;
  phase: number;
}

/** -1..1 like a sine: 0 at frame 0 with phase 0, its peak a quarter of a period later. */
export const bobAt = ({ period, phase }: { period: number; phase: number }, frame: number): number =>
  Math.sin(2 * Math.PI * (frame / period + phase));

/**
 * Smooth noise in -amount..amount: a random value at every whole multiple of the period, joined by the quintic of Perlin
 * 2002 ("Improving Noise"), so that speed never jumps. Each component has noise of its own.
 */
export function jitterAt({ amount, period, seed }: Jitter, component: number, frame: number): number {
  const at = frame / period;
  const cell = Math.floor(at);
  const t = at - cell;
  const s = t * t * t * (t * (t * 6 - 15) + 10);
  const a = randomOf(seed, component, cell);
  const b = randomOf(seed, component, cell + 1);
  return amount * (a + (b - a) * s);
}

/** -1..1, always the same for the same three integers (integer hash of the PCG family, Jarzynski & Olano 2020). */
export function randomOf(seed: number, component: number, cell: number): number {
  let h = (Math.imul(seed, 747796405) + Math.imul(component, 2891336453) + Math.imul(cell, 277803737)) >>> 0;
  h = Math.imul(h ^ (h >>> ((h >>> 28) + 4)), 277803737) >>> 0;
  h = Math.imul(h ^ (h >>> 15), 2246822519) >>> 0;
  h = (h ^ (h >>> 13)) >>> 0;
  return h / 2147483647.5 - 1;
}
