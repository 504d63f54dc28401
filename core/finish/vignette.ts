import { defineFinish, set } from './finish.ts';
import { floatsLike, kernelOf } from './operations/memory.ts';
import { ditherAt } from './operations/noise.ts';
import { layAtop } from './operations/planes.ts';

export const vignette = defineFinish({
  id: 'vignette',
  name: 'Vignette',
  family: 'light',
  purpose: 'Darkens, or tints, towards the corners so that the eye stays in the middle.',
  settings: {
    strength: set.percent('Strength', 0.6),
    size: set.percent('Size', 0.75, 2),
    softness: set.percent('Softness', 0.6, 2, 0.02),
    centre: { kind: 'place', name: 'Middle', start: [0.5, 0.5] },
    colour: set.colour('Colour', 10, 16, 22),
  },
  apply(pixels, { strength, size, softness, centre, colour }, { box }) {
    const { width, height } = pixels;
    const shade = floatsLike(pixels);
    const [cx, cy] = [box.x + centre[0] * box.width, box.y + centre[1] * box.height];
    const [rx, ry] = [Math.max(1, box.width / 2), Math.max(1, box.height / 2)];
    const kernel = kernelOf(shade.data);
    if (kernel) kernel.ellipse(shade.data.byteOffset, width, height, cx, cy, rx, ry, size, softness, strength);
    else
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const t = Math.max(0, Math.min(1, (Math.hypot((x + 0.5 - cx) / rx, (y + 0.5 - cy) / ry) - size) / softness));
          const value = t * t * (3 - 2 * t) * strength;
          // A slow ramp of 8 bits shows rings: dithered by less than a step it does not.
          shade.data[y * width + x] = Math.max(0, value + (value > 0 ? ditherAt(x, y) / 128 : 0));
        }
    layAtop(pixels, shade, colour);
  },
});
