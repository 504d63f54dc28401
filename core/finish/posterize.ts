import { defineFinish } from './finish.ts';
import { throughTables } from './operations/colour.ts';

export const posterize = defineFinish({
  id: 'posterize',
  name: 'Posterize',
  family: 'colour',
  purpose: 'Leaves only a few levels of each channel, as a print in few inks.',
  settings: { levels: { kind: 'number', name: 'Levels', unit: '', least: 2, most: 32, start: 5 } },
  apply(pixels, { levels }) {
    const steps = Math.round(levels) - 1;
    throughTables(pixels, [
      Float32Array.from({ length: 256 }, (_, v) => (255 * Math.round((v / 255) * steps)) / steps),
    ]);
  },
});
