import { defineFinish, set } from './finish.ts';
import { gaussian, premultiplied, writeBack } from './pixels.ts';

export const gaussianBlur = defineFinish({
  id: 'gaussian-blur',
  name: 'Blur',
  family: 'blur',
  purpose: 'Softens everything alike; the border fades, or goes on.',
  settings: {
    size: set.pixels('Size', 10, 400),
    border: { kind: 'choice', name: 'Border', options: ['fades', 'goes on'], start: 'fades' },
  },
  reach: ({ size, border }) => (border === 'fades' ? 3 * size : 0),
  apply(pixels, { size, border }, { scale }) {
    const [r, g, b, a] = premultiplied(pixels).map((plane) => gaussian(plane, size * scale)) as ReturnType<
      typeof premultiplied
    >;
    if (border === 'goes on') {
      // The colours spread; what was there stays there, as much of it as it was.
      for (let k = 0; k < a.data.length; k++) {
        const there = pixels.data[k * 4 + 3]! / 255;
        const share = a.data[k]! > 1e-4 ? there / a.data[k]! : 0;
        for (const plane of [r, g, b]) plane.data[k] = plane.data[k]! * share;
        a.data[k] = there;
      }
    }
    writeBack(pixels, [r, g, b, a]);
  },
});
