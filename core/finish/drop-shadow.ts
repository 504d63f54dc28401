import { defineFinish, set } from './finish.ts';
import { gaussian } from './operations/gaussian.ts';
import { layUnder, shiftedAlpha, throughCurve } from './operations/planes.ts';

export const dropShadow = defineFinish({
  id: 'drop-shadow',
  name: 'Drop shadow',
  family: 'edge',
  purpose: 'Lays a soft shadow on what is close behind.',
  settings: {
    angle: set.angle('Direction', 60),
    distance: set.pixels('Distance', 14, 2000),
    softness: set.pixels('Softness', 18, 400),
    spread: set.percent('Spread', 0),
    colour: set.colour('Colour', 16, 24, 30, 0.55),
    alone: { kind: 'switch', name: 'Shadow alone', start: false },
  },
  reach: ({ distance, softness }) => distance + 1.5 * softness + 2,
  apply(pixels, { angle, distance, softness, spread, colour, alone }, { scale }) {
    const radians = (angle * Math.PI) / 180;
    const way = distance * scale;
    const shadow = shiftedAlpha(pixels, way * Math.cos(radians), way * Math.sin(radians));
    gaussian(shadow, (softness * scale) / 2);
    if (spread > 0) throughCurve(shadow, (v) => Math.min(1, v / Math.max(0.02, 1 - spread)));
    if (alone) for (let i = 3; i < pixels.data.length; i += 4) pixels.data[i] = 0;
    layUnder(pixels, shadow, colour);
  },
});
