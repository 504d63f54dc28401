import { defineFinish, set } from './finish.ts';
import { alphaPlane, gaussian, layUnder } from './pixels.ts';

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
    const glow = gaussian(alphaPlane(pixels), (size * scale) / 2);
    for (let k = 0; k < glow.data.length; k++) glow.data[k] = 1 - (1 - Math.min(1, glow.data[k]!)) ** (2 * strength);
    layUnder(pixels, glow, colour);
  },
});
