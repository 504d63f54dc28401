import { defineFinish } from './finish.ts';
import { averagedAlong } from './streak.ts';

export const spinBlur = defineFinish({
  id: 'spin-blur',
  name: 'Spin blur',
  family: 'blur',
  purpose: 'Smears round a point, as a turning wheel.',
  heavy: true,
  settings: {
    turn: { kind: 'number', name: 'Turn', unit: '°', least: 0, most: 180, start: 12 },
    centre: { kind: 'place', name: 'About', start: [0.5, 0.5] },
  },
  reach: ({ turn }) => Math.min(200, 3 * turn),
  apply(pixels, { turn, centre }, { box }) {
    const [cx, cy] = [box.x + centre[0] * box.width, box.y + centre[1] * box.height];
    const radians = (turn * Math.PI) / 180;
    averagedAlong(pixels, (radians * Math.hypot(box.width, box.height)) / 2, (x, y, t, out) => {
      const [cos, sin] = [Math.cos(radians * t), Math.sin(radians * t)];
      out[0] = cx + (x - cx) * cos - (y - cy) * sin;
      out[1] = cy + (x - cx) * sin + (y - cy) * cos;
    });
  },
});
