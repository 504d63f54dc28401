import { defineFinish, set } from './finish.ts';
import { gaussian, softColours } from './operations/gaussian.ts';
import { kernelOf } from './operations/memory.ts';
import { alphaPlane } from './operations/planes.ts';

/** What lies behind, blurred, is screened over the inside of the edge, fading inwards. */
export const lightWrap = defineFinish({
  id: 'light-wrap',
  name: 'Light wrap',
  family: 'match',
  purpose: 'Lets what lies behind shine a little round the edge.',
  behind: true,
  settings: { width: set.pixels('Width', 12, 200), amount: set.percent('Amount', 0.6) },
  apply(pixels, { width, amount }, { behind, scale }) {
    if (!behind || amount === 0 || width === 0) return;
    const sigma = (width * scale) / 2;
    const inside = alphaPlane(pixels);
    gaussian(inside, sigma);
    const { plane: shine, halved } = softColours(behind, sigma);
    const { data, width: columns, height: rows } = pixels;
    const kernel = kernelOf(data, inside.data, shine.data);
    if (kernel) {
      const [at, from, light] = [data, inside.data, shine.data].map(({ byteOffset }) => byteOffset);
      return kernel.wrap(at!, columns, rows, from!, light!, halved ? 1 : 0, amount);
    }
    for (let i = 0, k = 0; i < data.length; i += 4, k++) {
      const edge = Math.max(0, Math.min(1, 2 * (1 - inside.data[k]!))) * amount;
      if (edge < 1 / 1024 || data[i + 3] === 0) continue;
      for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! + (255 - data[i + c]!) * (shine.data[i + c]! / 255) * edge;
    }
  },
});
