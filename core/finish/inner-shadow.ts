import { makePlane } from '../pixels/raster.ts';
import { defineFinish, set } from './finish.ts';
import { alphaPlane, gaussian, layAtop, shifted } from './pixels.ts';

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
    const moved = shifted(alphaPlane(pixels), way * Math.cos(radians), way * Math.sin(radians));
    const hole = makePlane(pixels.width, pixels.height);
    for (let k = 0; k < hole.data.length; k++) hole.data[k] = 1 - moved.data[k]!;
    layAtop(pixels, gaussian(hole, (softness * scale) / 2), colour);
  },
});
