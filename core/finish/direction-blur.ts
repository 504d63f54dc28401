import { defineFinish, set } from './finish.ts';
import { averagedAlong } from './streak.ts';

export const directionBlur = defineFinish({
  id: 'direction-blur',
  name: 'Direction blur',
  family: 'blur',
  purpose: 'Smears along one direction, as if it had moved that way.',
  heavy: true,
  settings: { length: set.pixels('Length', 30, 600), angle: set.angle('Direction', 0) },
  reach: ({ length }) => length / 2 + 1,
  apply(pixels, { length, angle }, { scale }) {
    const way = length * scale;
    const [dx, dy] = [way * Math.cos((angle * Math.PI) / 180), way * Math.sin((angle * Math.PI) / 180)];
    averagedAlong(pixels, way, (x, y, t, out) => {
      out[0] = x + dx * t;
      out[1] = y + dy * t;
    });
  },
});
