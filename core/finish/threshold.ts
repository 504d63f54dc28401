import { defineFinish, set } from './finish.ts';
import { eachColour, lightOf } from './pixels.ts';

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
    eachColour(pixels, (rgb) => {
      const t = Math.max(0, Math.min(1, (lightOf(...rgb) / 255 - level) / Math.max(1e-4, softness) + 0.5));
      for (let c = 0; c < 3; c++) rgb[c] = dark[c]! + (light[c]! - dark[c]!) * t;
    });
  },
});
