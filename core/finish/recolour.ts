import { falloff, fromHsl, hueDistance, toHsl } from './colour-model.ts';
import { defineFinish, set } from './finish.ts';
import { eachColour } from './operations/colour.ts';
import { kernelOf, laid } from './operations/memory.ts';

/** One colour becomes another: its shades go along, as their saturation and lightness are taken along in proportion. */
export const recolour = defineFinish({
  id: 'recolour',
  name: 'Recolour',
  family: 'colour',
  purpose: 'Turns one colour of the picture into another, with all its shades; other hues stay.',
  settings: {
    from: set.colour('From', 200, 60, 40),
    to: set.colour('To', 40, 110, 170),
    width: { kind: 'number', name: 'Range', unit: '°', least: 2, most: 180, start: 30 },
    softness: { kind: 'number', name: 'Softness', unit: '°', least: 0, most: 90, start: 15 },
  },
  apply(pixels, { from, to, width, softness }) {
    const [old, wanted, hsl] = [
      [0, 0, 0],
      [0, 0, 0],
      [0, 0, 0],
    ];
    toHsl(from[0]!, from[1]!, from[2]!, old!);
    toHsl(to[0]!, to[1]!, to[2]!, wanted!);
    const stronger = wanted![1]! / Math.max(0.05, old![1]!);
    const lighter = wanted![2]! - old![2]!;
    const turn = wanted![0]! - old![0]!;
    const soft = softness + 1e-3;
    const { data } = pixels;
    const kernel = kernelOf(data);
    const numbers = Float32Array.of(old![0]!, width / 2, soft, turn, stronger, lighter);
    if (kernel && laid([numbers], (at) => kernel.recolour(data.byteOffset, data.length / 4, at))) return;
    const rgb2 = [0, 0, 0];
    eachColour(pixels, (rgb) => {
      toHsl(...rgb, hsl!);
      const near = falloff(hueDistance(hsl![0]!, old![0]!), width / 2, soft);
      const part = near * Math.min(1, hsl![1]! * 5);
      if (part === 0) return;
      // Black stays black and white white: lightness moves most in the middle.
      const room = 4 * hsl![2]! * (1 - hsl![2]!);
      fromHsl(
        hsl![0]! + turn,
        Math.max(0, Math.min(1, hsl![1]! * stronger)),
        Math.max(0, Math.min(1, hsl![2]! + lighter * room)),
        rgb2,
      );
      for (let c = 0; c < 3; c++) rgb[c] = rgb[c]! + (rgb2[c]! - rgb[c]!) * part;
    });
  },
});
