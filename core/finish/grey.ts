import { defineFinish, set } from './finish.ts';
import { throughMatrix } from './operations/colour.ts';

export const grey = defineFinish({
  id: 'grey',
  name: 'Black and white',
  family: 'colour',
  purpose: 'Takes the colour away; the weights say how bright each channel becomes.',
  settings: {
    amount: set.percent('Amount', 1),
    red: set.percent('Red', 0.21, 2, -1),
    green: set.percent('Green', 0.72, 2, -1),
    blue: set.percent('Blue', 0.07, 2, -1),
  },
  apply(pixels, { amount, red, green, blue }) {
    // How much of each channel becomes light, and how much of its own stays.
    const row = (channel: number): [number, number, number] => {
      const [r, g, b] = [red, green, blue].map((weight, c) => weight * amount + (c === channel ? 1 - amount : 0));
      return [r!, g!, b!];
    };
    throughMatrix(pixels, [row(0), row(1), row(2)], [0, 0, 0]);
  },
});
