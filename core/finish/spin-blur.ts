import { defineFinish } from './finish.ts';
import { averagedRound } from './operations/rings.ts';

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
    const about = { x: box.x + centre[0] * box.width, y: box.y + centre[1] * box.height };
    averagedRound(pixels, about, (turn * Math.PI) / 180);
  },
});
