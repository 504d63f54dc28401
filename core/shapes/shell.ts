import type { Point } from '../path/path.ts';
import { reversed, smooth } from './outline-tools.ts';
import { defineShape, set } from './shape-kind.ts';

export const shell = defineShape({
  id: 'shell',
  name: 'Shell',
  family: 'ornaments',
  purpose: 'Ribs that open from a hinge to a scalloped rim.',
  proportion: 0.9,
  settings: { ribs: set.count('Ribs', 7, 24, 3), groove: set.percent('Groove', 0.45) },
  outlines({ ribs, groove }, size) {
    const count = Math.round(ribs);
    const on = (share: number, radius: number): Point => {
      const angle = Math.PI * (1.04 - 1.08 * share);
      return [0.5 + 0.48 * radius * Math.cos(angle), 0.86 - 0.82 * radius * Math.sin(angle)];
    };
    const rim = Array.from({ length: 2 * count + 1 }, (_, k) => on(k / (2 * count), k % 2 === 0 ? 0.9 : 1));
    const body = smooth(size, [...rim, [0.62, 0.98], [0.5, 1], [0.38, 0.98]]);
    const grooves = Array.from({ length: count - 1 }, (_, k) => {
      const share = (k + 1) / count;
      const wide = (0.012 + 0.03 * groove) / count;
      return reversed(smooth(size, [on(share, 0.3), on(share - 3 * wide, 0.82), on(share + 3 * wide, 0.82)]));
    });
    return groove > 0 ? [body, ...grooves] : [body];
  },
  handles: {},
});
