import { defineFinish, set } from './finish.ts';
import { throughTables } from './operations/colour.ts';

export const flash = defineFinish({
  id: 'flash',
  name: 'Flash',
  family: 'light',
  purpose: 'Bleaches towards a colour; with keys, a burst of light.',
  settings: { strength: set.percent('Strength', 0.5), colour: set.colour('Colour', 255, 252, 240) },
  apply(pixels, { strength, colour }) {
    throughTables(
      pixels,
      [0, 1, 2].map((c) => Float32Array.from({ length: 256 }, (_, v) => v + (colour[c]! - v) * strength)),
    );
  },
});
