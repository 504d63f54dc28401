import { defineFinish, set } from './finish.ts';
import { averagedAlong } from './operations/carried.ts';

export const zoomBlur = defineFinish({
  id: 'zoom-blur',
  name: 'Zoom blur',
  family: 'blur',
  purpose: 'Smears from a point outwards, as in a fast push.',
  heavy: true,
  settings: { amount: set.percent('Amount', 0.1, 1), centre: { kind: 'place', name: 'From', start: [0.5, 0.5] } },
  reach: ({ amount }) => 200 * amount,
  apply(pixels, { amount, centre }, { box }) {
    const [cx, cy] = [box.x + centre[0] * box.width, box.y + centre[1] * box.height];
    const longest = Math.hypot(box.width, box.height) * 0.5 * amount;
    // Growths multiply: equal shares of the way are equal shares of its logarithm.
    const whole = Math.log1p(amount / 2) - Math.log1p(-amount / 2 / (1 + amount));
    averagedAlong(pixels, longest, (share) => {
      const factor = Math.exp(whole * share);
      return [factor, 0, 0, factor, cx - cx * factor, cy - cy * factor];
    });
  },
});
