import { defineFinish, set } from './finish.ts';
import { gaussian } from './operations/gaussian.ts';
import { premultiplied, writeColours, writePremultiplied } from './operations/premultiplied.ts';

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
    const soft = premultiplied(pixels);
    gaussian(soft, size * scale);
    // Where the border goes on, colours spread; what was there stays there, as much of it as it was.
    if (border === 'goes on') writeColours(pixels, soft);
    else writePremultiplied(pixels.data, soft.data, pixels.width);
  },
});
