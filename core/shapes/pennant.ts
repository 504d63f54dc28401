import { along, smooth } from './outline-tools.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const pennant = defineShape({
  id: 'pennant',
  name: 'Pennant',
  family: 'ornaments',
  purpose: 'A long flag with a forked tail that hangs in the wind.',
  proportion: 0.45,
  settings: { fork: set.percent('Fork', 0.22, 0.8), wind: set.percent('Wind', 0.5) },
  outlines({ fork, wind }, size) {
    const bend = (x: number): number => 0.1 * wind * Math.sin(5 * x);
    const upper = along(8, (x) => [x, 0.12 + 0.16 * x + bend(x)]);
    const lower = along(8, (x) => [1 - x, 0.88 - 0.16 * (1 - x) + bend(1 - x)]);
    const path = smooth(size, [...upper, [1 - fork, 0.5 + bend(1 - fork)], ...lower]);
    for (const k of [0, 8, 9, 10, 18]) path.points[k] = { at: path.points[k]!.at, in: null, out: null, smooth: false };
    return [path];
  },
  handles: { fork: shareHandle('fork', [1, 0.5], [0, 0.5], [0, 0.8]) },
});
