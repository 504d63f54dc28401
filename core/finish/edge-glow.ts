import { defineFinish, set } from './finish.ts';
import { gaussian } from './operations/gaussian.ts';
import { alphaPlane, layUnder, throughCurve } from './operations/planes.ts';

export const edgeGlow = defineFinish({
  id: 'edge-glow',
  name: 'Edge glow',
  family: 'edge',
  purpose: 'Lets a tinted glow shine out from behind the edge.',
  settings: {
    size: set.pixels('Size', 40, 400),
    strength: set.percent('Strength', 1, 4),
    colour: set.colour('Colour', 255, 196, 92),
  },
  reach: ({ size }) => 1.5 * size + 2,
  apply(pixels, { size, strength, colour }, { scale }) {
    if (size === 0) return;
    const glow = alphaPlane(pixels);
    gaussian(glow, (size * scale) / 2);
    throughCurve(glow, (v) => 1 - (1 - v) ** (2 * strength));
    layUnder(pixels, glow, colour);
  },
});
