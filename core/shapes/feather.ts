import type { Point } from '../path/path.ts';
import { straight } from './outline-tools.ts';
import { defineShape, set } from './shape-kind.ts';

export const feather = defineShape({
  id: 'feather',
  name: 'Feather',
  family: 'ornaments',
  purpose: 'A quill with barbs that stand apart here and there.',
  proportion: 0.3,
  settings: { barbs: set.count('Barbs', 16, 60, 4), open: set.percent('Openness', 0.5) },
  outlines({ barbs, open }, size) {
    const count = Math.round(barbs);
    const side = (sign: number): Point[] =>
      Array.from({ length: 2 * count + 1 }, (_, k): Point => {
        const s = k / (2 * count);
        const wide = 0.47 * Math.sin(Math.PI * Math.min(1, 0.08 + s * 0.92)) ** 0.6;
        const cut = k % 2 === 1 ? 1 - 0.5 * open : 1;
        return [0.2 + 0.8 * s - (k % 2 === 1 ? 0.02 : 0), 0.5 - sign * Math.max(0.015, wide * cut)];
      });
    return [straight(size, [[0, 0.485], ...side(1), ...side(-1).reverse(), [0, 0.515]])];
  },
  handles: {},
});
