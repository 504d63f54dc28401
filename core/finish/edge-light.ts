import { makePlane } from '../pixels/raster.ts';
import { defineFinish, set } from './finish.ts';
import { alphaPlane, gaussian, layAtop, shifted } from './pixels.ts';

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
    const alpha = alphaPlane(pixels);
    const way = width * scale;
    const dark = gaussian(shifted(alpha, -way * Math.cos(radians), -way * Math.sin(radians)), (softness * scale) / 2);
    const lit = makePlane(alpha.width, alpha.height);
    for (let k = 0; k < lit.data.length; k++) lit.data[k] = Math.max(0, alpha.data[k]! - dark.data[k]!);
    layAtop(pixels, lit, colour);
  },
});
