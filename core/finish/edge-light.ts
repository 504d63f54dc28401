import { defineFinish, set } from './finish.ts';
import { gaussian } from './operations/gaussian.ts';
import { alphaPlane, difference, layAtop, shiftedAlpha } from './operations/planes.ts';

/** Where the silhouette, moved away from the light, leaves the layer bare, the light falls. */
export const edgeLight = defineFinish({
  id: 'edge-light',
  name: 'Edge light',
  family: 'edge',
  purpose: 'Lights the edge from one side, as a lamp beside it would.',
  settings: {
    angle: set.angle('Light from', -50),
    width: set.pixels('Width', 10, 200),
    softness: set.pixels('Softness', 8, 200),
    colour: set.colour('Colour', 255, 214, 150, 0.8),
  },
  apply(pixels, { angle, width, softness, colour }, { scale }) {
    const radians = (angle * Math.PI) / 180;
    const way = width * scale;
    const lit = shiftedAlpha(pixels, -way * Math.cos(radians), -way * Math.sin(radians));
    gaussian(lit, (softness * scale) / 2);
    difference(alphaPlane(pixels), lit);
    layAtop(pixels, lit, colour);
  },
});
