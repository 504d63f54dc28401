import { defineFinish, set } from './finish.ts';
import { averagedOutwards } from './operations/fan.ts';

export const zoomBlur = defineFinish({
  id: 'zoom-blur',
  name: 'Zoom blur',
  family: 'blur',
  purpose: 'Smears from a point outwards, as in a fast push.',
  heavy: true,
  settings: { amount: set.percent('Amount', 0.1, 1), centre: { kind: 'place', name: 'From', start: [0.5, 0.5] } },
  reach: ({ amount }) => 200 * amount,
  apply(pixels, { amount, centre }, { box }) {
    const about = { x: box.x + centre[0] * box.width, y: box.y + centre[1] * box.height };
    // Growths multiply: equal shares of the way are equal shares of its logarithm.
    averagedOutwards(pixels, about, Math.log1p(amount / 2) - Math.log1p(-amount / 2 / (1 + amount)));
  },
});
