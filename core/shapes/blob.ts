import { seededRandom } from '../pixels/random.ts';
import type { Point } from '../path/path.ts';
import { smooth } from './outline-tools.ts';
import { defineShape, set } from './shape-kind.ts';

export const blob = defineShape({
  id: 'blob',
  name: 'Blob',
  family: 'plain',
  purpose: 'A soft round thing of its own; another seed makes another.',
  proportion: 0.85,
  settings: { bumps: set.count('Bumps', 8, 40, 3), uneven: set.percent('Unevenness', 0.3), seed: set.seed },
  outlines({ bumps, uneven, seed }, size) {
    const random = seededRandom(seed);
    const count = Math.round(bumps);
    const points = Array.from({ length: count }, (_, k): Point => {
      const angle = (2 * Math.PI * k) / count;
      const r = 0.5 * (1 - uneven * random());
      return [0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle)];
    });
    return [smooth(size, points)];
  },
  handles: {},
});
