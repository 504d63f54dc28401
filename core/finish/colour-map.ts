import { defineFinish, set } from './finish.ts';
import { eachColour, lightOf } from './pixels.ts';

export const colourMap = defineFinish({
  id: 'colour-map',
  name: 'Map to colours',
  family: 'colour',
  purpose: 'Draws the picture in two or three colours, from dark to light.',
  settings: {
    dark: set.colour('Dark', 28, 42, 48),
    middle: set.colour('Middle', 174, 59, 39),
    light: set.colour('Light', 245, 242, 235),
    three: { kind: 'switch', name: 'With a middle colour', start: true },
    amount: set.percent('Amount', 1),
  },
  apply(pixels, { dark, middle, light, three, amount }) {
    eachColour(pixels, (rgb) => {
      const t = lightOf(...rgb) / 255;
      const [from, to, share] = !three
        ? [dark, light, t]
        : t < 0.5
          ? [dark, middle, 2 * t]
          : [middle, light, 2 * t - 1];
      for (let c = 0; c < 3; c++) {
        const mapped = from[c]! + (to[c]! - from[c]!) * share;
        rgb[c] = rgb[c]! + (mapped - rgb[c]!) * amount;
      }
    });
  },
});
