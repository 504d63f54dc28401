import { defineFinish, set } from './finish.ts';
import { throughTables } from './operations/colour.ts';

export const invert = defineFinish({
  id: 'invert',
  name: 'Invert',
  family: 'colour',
  purpose: 'Turns light to dark and every colour into its opposite.',
  settings: { amount: set.percent('Amount', 1) },
  apply(pixels, { amount }) {
    throughTables(pixels, [Float32Array.from({ length: 256 }, (_, v) => v + (255 - 2 * v) * amount)]);
  },
});
