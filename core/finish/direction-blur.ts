import { defineFinish, set } from './finish.ts';
import { averagedOver } from './operations/slid.ts';

export const directionBlur = defineFinish({
  id: 'direction-blur',
  name: 'Direction blur',
  family: 'blur',
  purpose: 'Smears along one direction, as if it had moved that way.',
  heavy: true,
  settings: { length: set.pixels('Length', 30, 600), angle: set.angle('Direction', 0) },
  reach: ({ length }) => length / 2 + 1,
  apply(pixels, { length, angle }, { scale }) {
    const [way, radians] = [length * scale, (angle * Math.PI) / 180];
    averagedOver(pixels, way * Math.cos(radians), way * Math.sin(radians));
  },
});
