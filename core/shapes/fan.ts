import type { Point } from '../path/path.ts';
import { straight } from './outline-tools.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const fan = defineShape({
  id: 'fan',
  name: 'Fan',
  family: 'ornaments',
  purpose: 'Folded paper spread from its foot.',
  proportion: 0.56,
  settings: { folds: set.count('Folds', 9, 40, 3), foot: set.percent('Foot', 0.16, 0.8, 0.02) },
  outlines({ folds, foot }, size) {
    const count = 2 * Math.round(folds);
    const on = (k: number, radius: number): Point => {
      const angle = Math.PI * (1 - k / count);
      return [0.5 + 0.5 * radius * Math.cos(angle), 1 - radius * Math.sin(angle)];
    };
    const rim = Array.from({ length: count + 1 }, (_, k) => on(k, k % 2 === 0 ? 0.93 : 1));
    const inner = Array.from({ length: count + 1 }, (_, k) => on(count - k, foot * (k % 2 === 0 ? 1 : 0.94)));
    return [straight(size, [...rim, ...inner])];
  },
  handles: { foot: shareHandle('foot', [0.5, 1], [0.5, 0], [0.02, 0.8]) },
});
