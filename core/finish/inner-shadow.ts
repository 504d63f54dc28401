import { defineFinish, set } from './finish.ts';
import { gaussian } from './operations/gaussian.ts';
import { layAtop, shiftedAlpha, throughCurve } from './operations/planes.ts';

export const innerShadow = defineFinish({
  id: 'inner-shadow',
  name: 'Inner shadow',
  family: 'edge',
  purpose: 'Shades the inside along the edge, as if it were cut out of what is in front.',
  settings: {
    angle: set.angle('Direction', 60),
    distance: set.pixels('Distance', 8, 400),
    softness: set.pixels('Softness', 12, 400),
    colour: set.colour('Colour', 16, 24, 30, 0.7),
  },
  apply(pixels, { angle, distance, softness, colour }, { scale }) {
    const radians = (angle * Math.PI) / 180;
    const way = distance * scale;
    const hole = shiftedAlpha(pixels, way * Math.cos(radians), way * Math.sin(radians));
    throughCurve(hole, (v) => 1 - v);
    gaussian(hole, (softness * scale) / 2);
    layAtop(pixels, hole, colour);
  },
});
