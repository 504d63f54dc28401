import { defineFinish, set } from './finish.ts';
import { gaussian, softColours } from './operations/gaussian.ts';
import { premultiplied, writeColours, writeSoft } from './operations/premultiplied.ts';
import { grownPart, whereSeen, type Part } from './operations/seen-part.ts';

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
    const sigma = size * scale;
    if (border === 'fades') {
      const spread = (seen: Part): Part => grownPart(seen, 3 * sigma + 2);
      return whereSeen(pixels, spread, (part) => writeSoft(part, softColours(part, sigma)));
    }
    // Where the border goes on, colours spread; what was there stays there, as much of it as it was.
    const soft = premultiplied(pixels);
    gaussian(soft, sigma);
    writeColours(pixels, soft);
  },
});
