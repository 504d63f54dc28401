import { defineFinish, set } from './finish.ts';
import { byLight } from './operations/colour.ts';

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
    const between = (from: readonly number[], to: readonly number[], t: number): [number, number, number] => [
      from[0]! + (to[0]! - from[0]!) * t,
      from[1]! + (to[1]! - from[1]!) * t,
      from[2]! + (to[2]! - from[2]!) * t,
    ];
    const colourAt = (t: number): [number, number, number] => {
      if (!three) return between(dark, light, t);
      return t < 0.5 ? between(dark, middle, 2 * t) : between(middle, light, 2 * t - 1);
    };
    byLight(pixels, colourAt, amount);
  },
});
