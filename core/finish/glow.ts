import { defineFinish, set } from './finish.ts';
import { gaussian, lightOf, premultiplied, writeBack } from './pixels.ts';

export const glow = defineFinish({
  id: 'glow',
  name: 'Glow',
  family: 'light',
  purpose: 'Makes what is bright shine into its surroundings.',
  heavy: true,
  settings: {
    threshold: set.percent('From brightness', 0.65),
    size: set.pixels('Size', 36, 400),
    strength: set.percent('Strength', 0.8, 4),
    tint: set.colour('Tint', 255, 244, 224),
  },
  reach: ({ size }) => 1.5 * size,
  apply(pixels, { threshold, size, strength, tint }, { scale }) {
    const planes = premultiplied(pixels);
    const bright = premultiplied(pixels);
    for (let k = 0; k < planes[3].data.length; k++) {
      const alpha = planes[3].data[k]!;
      const light =
        alpha > 0 ? lightOf(...([0, 1, 2].map((c) => planes[c]!.data[k]! / alpha) as [number, number, number])) : 0;
      const part = Math.max(0, (light - threshold) / Math.max(0.02, 1 - threshold));
      for (let c = 0; c < 4; c++) bright[c]!.data[k] = bright[c]!.data[k]! * part;
    }
    const blurred = bright.map((plane) => gaussian(plane, (size * scale) / 2));
    for (let k = 0; k < planes[3].data.length; k++) {
      for (let c = 0; c < 3; c++) {
        const added = Math.min(1, blurred[c]!.data[k]! * strength * (tint[c]! / 255));
        // Screened, premultiplied: light adds and never clips hard.
        planes[c]!.data[k] = planes[c]!.data[k]! + added * (1 - Math.min(1, planes[c]!.data[k]!));
      }
      const shining = Math.min(1, blurred[3]!.data[k]! * strength);
      planes[3].data[k] = planes[3].data[k]! + shining * (1 - planes[3].data[k]!);
    }
    writeBack(pixels, planes);
  },
});
