import type { Point } from '../path/path.ts';
import { reversed, smooth, straight } from './outline-tools.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const paperLantern = defineShape({
  id: 'paper-lantern',
  name: 'Lantern',
  family: 'ornaments',
  purpose: 'A paper lantern with its ribs, cap and tassel.',
  proportion: 1.3,
  settings: { ribs: set.count('Ribs', 5, 16, 0), belly: set.percent('Belly', 0.9, 1, 0.3) },
  outlines({ ribs, belly }, size) {
    const half = (y: number): number => 0.16 + (0.5 * belly - 0.16) * Math.sin(Math.PI * y) ** 0.7;
    const [top, low] = [0.1, 0.82];
    const at = (y: number, sign: number): Point => [0.5 + sign * half(y), top + (low - top) * y];
    const steps = Array.from({ length: 9 }, (_, k) => k / 8);
    const body = smooth(size, [...steps.map((y) => at(y, 1)), ...steps.toReversed().map((y) => at(y, -1))]);
    const cut = Array.from({ length: Math.round(ribs) }, (_, k) => {
      const y = (k + 1) / (Math.round(ribs) + 1);
      const wide = half(y) - 0.02;
      const middle = top + (low - top) * y;
      const rib: Point[] = [
        [0.5 - wide, middle],
        [0.5, middle + 0.028],
        [0.5 + wide, middle],
        [0.5, middle + 0.04],
      ];
      return reversed(smooth(size, rib));
    });
    const bar = (y: number, tall: number, wide: number) =>
      straight(size, [
        [0.5 - wide, y],
        [0.5 + wide, y],
        [0.5 + wide, y + tall],
        [0.5 - wide, y + tall],
      ]);
    return [body, ...cut, bar(0.05, 0.06, 0.2), bar(0, 0.06, 0.02), bar(0.81, 0.05, 0.17), bar(0.85, 0.15, 0.02)];
  },
  handles: { belly: shareHandle('belly', [0.5, 0.46], [1, 0.46], [0.3, 1]) },
});
