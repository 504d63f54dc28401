import { falloff, fromHsl, hueDistance, toHsl } from './colour-model.ts';
import { defineFinish, set } from './finish.ts';
import { eachColour } from './operations/colour.ts';
import { kernelOf, laid } from './operations/memory.ts';

const centres = { all: 0, reds: 0, yellows: 60, greens: 120, cyans: 180, blues: 240, magentas: 300 } as const;

/** Degrees of hue around the middle of a range that belong to it, and over which it fades. */
const [core, soft] = [22, 22];

export const hueSaturation = defineFinish({
  id: 'hue-saturation',
  name: 'Hue and saturation',
  family: 'colour',
  purpose: 'Turns hues, makes colours stronger or paler, all of them or one range.',
  settings: {
    range: {
      kind: 'choice',
      name: 'Range',
      options: ['all', 'reds', 'yellows', 'greens', 'cyans', 'blues', 'magentas'],
      start: 'all',
    },
    hue: set.angle('Hue', 30),
    saturation: set.percent('Saturation', 0, 1, -1),
    lightness: set.percent('Lightness', 0, 1, -1),
  },
  apply(pixels, { range, hue, saturation, lightness }) {
    const { data } = pixels;
    const kernel = kernelOf(data);
    const whole = range === 'all' ? 1 : 0;
    const numbers = Float32Array.of(centres[range], core, soft, whole, hue, saturation, lightness);
    if (kernel && laid([numbers], (at) => kernel.turnHues(data.byteOffset, data.length / 4, at))) return;
    const hsl = [0, 0, 0];
    eachColour(pixels, (rgb) => {
      toHsl(...rgb, hsl);
      // What is nearly grey has no hue to belong to a range by.
      const part =
        range === 'all' ? 1 : falloff(hueDistance(hsl[0]!, centres[range]), core, soft) * Math.min(1, hsl[1]! * 6);
      if (part === 0) return;
      const s = hsl[1]! * (1 + saturation * part);
      const l = hsl[2]! + lightness * part * (lightness > 0 ? 1 - hsl[2]! : hsl[2]!);
      fromHsl(hsl[0]! + hue * part, Math.max(0, Math.min(1, s)), Math.max(0, Math.min(1, l)), rgb);
    });
  },
});
