import { defineFinish, set } from './finish.ts';
import { eachColour } from './pixels.ts';

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
    eachColour(pixels, (rgb) => {
      const light = red * rgb[0] + green * rgb[1] + blue * rgb[2];
      for (let c = 0; c < 3; c++) rgb[c] = rgb[c]! + (light - rgb[c]!) * amount;
    });
  },
});
