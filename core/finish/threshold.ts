import { defineFinish, set } from './finish.ts';
import { byLight } from './operations/colour.ts';

export const threshold = defineFinish({
  id: 'threshold',
  name: 'Threshold',
  family: 'colour',
  purpose: 'Makes everything lighter than a level one colour and the rest another.',
  settings: {
    level: set.percent('Level', 0.5),
    softness: set.percent('Softness', 0.04),
    dark: set.colour('Dark', 28, 42, 48),
    light: set.colour('Light', 245, 242, 235),
  },
  apply(pixels, { level, softness, dark, light }) {
    const colourAt = (value: number): [number, number, number] => {
      const t = Math.max(0, Math.min(1, (value - level) / Math.max(1e-4, softness) + 0.5));
      const [r, g, b] = [0, 1, 2].map((c) => dark[c]! + (light[c]! - dark[c]!) * t);
      return [r!, g!, b!];
    };
    byLight(pixels, colourAt, 1);
  },
});
