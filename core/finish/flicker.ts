import { defineFinish, set } from './finish.ts';
import { throughTables } from './operations/colour.ts';
import { hash } from './operations/noise.ts';

/** Seeded light noise over whole periods of the shot, so that it loops; steady at strength 0. */
export const flicker = defineFinish({
  id: 'flicker',
  name: 'Flicker',
  family: 'light',
  purpose: 'Lets the light tremble as a lamp or a fire does.',
  settings: {
    strength: set.percent('Strength', 0.3),
    interval: { kind: 'number', name: 'Interval', unit: 'frames', least: 1, most: 240, start: 4 },
    smooth: { kind: 'switch', name: 'Smooth', start: true },
    seed: set.seed,
  },
  moves: ({ strength }) => strength > 0,
  apply(pixels, { strength, interval, smooth, seed }, { frame, length }) {
    const count = Math.max(1, Math.round(length / interval));
    const at = (((frame % length) + length) % length) * (count / length);
    const step = Math.floor(at);
    const level = (n: number): number => hash(n % count, seed, 17);
    const t = smooth ? (at - step) ** 2 * (3 - 2 * (at - step)) : 0;
    const light = 1 - strength * (level(step) + (level(step + 1) - level(step)) * t);
    throughTables(pixels, [Float32Array.from({ length: 256 }, (_, v) => v * light)]);
  },
});
