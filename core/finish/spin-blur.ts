import { defineFinish } from './finish.ts';
import { averagedAlong } from './operations/carried.ts';

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
    averagedAlong(pixels, (radians * Math.hypot(box.width, box.height)) / 2, (share) => {
      const [cos, sin] = [Math.cos(radians * share), Math.sin(radians * share)];
      return [cos, sin, -sin, cos, cx - cx * cos + cy * sin, cy - cx * sin - cy * cos];
    });
  },
});
