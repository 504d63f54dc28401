import { ease } from '../motion/easing.ts';
import { atRest, defineArrival, fadeIn } from './arrival.ts';

export const drop = defineArrival({
  id: 'drop',
  name: 'Drop',
  purpose: 'Falls from above, bounces and settles.',
  settings: {
    height: { kind: 'number', name: 'Height', unit: 'px', least: 0, most: 8000, start: 260 },
    tilt: { kind: 'angle', name: 'Tilt', start: 6 },
  },
  ownCourse: true,
  at: (share, { height, tilt }, { scale, random }) => {
    const left = 1 - ease('bounce', share);
    return {
      ...atRest,
      move: [0, -height * scale * left],
      turn: tilt * (2 * random(0) - 1) * left,
      about: [0.5, 1],
      opacity: fadeIn(share, 0.15),
    };
  },
});
