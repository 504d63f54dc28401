import { defineFinish, set } from './finish.ts';
import { throughTables } from './operations/colour.ts';

/** Light adds, contrast turns about the middle, shadows and highlights move one end only (smooth weights). */
export const lightContrast = defineFinish({
  id: 'light-contrast',
  name: 'Light and contrast',
  family: 'colour',
  purpose: 'Brightens or darkens, and parts or joins light and dark.',
  settings: {
    light: set.percent('Light', 0.1, 1, -1),
    contrast: set.percent('Contrast', 0.15, 1, -1),
    shadows: set.percent('Shadows', 0, 1, -1),
    highlights: set.percent('Highlights', 0, 1, -1),
  },
  apply(pixels, { light, contrast, shadows, highlights }) {
    const slope = Math.tan(((contrast + 1) * Math.PI) / 4);
    const table = Float32Array.from({ length: 256 }, (_, byte) => {
      const v = byte / 255;
      const lifted = v + 0.5 * shadows * (1 - v) ** 2 * Math.min(1, 4 * v) + 0.5 * highlights * v * v;
      return 255 * ((lifted - 0.5) * Math.min(slope, 1e4) + 0.5 + light);
    });
    throughTables(pixels, [table]);
  },
});
