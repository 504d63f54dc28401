import { smooth } from './outline-tools.ts';
import { corner, type Point } from '../path/path.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const wave = defineShape({
  id: 'wave',
  name: 'Wave',
  family: 'plain',
  purpose: 'A band whose edges go up and down.',
  proportion: 0.4,
  settings: {
    waves: set.count('Waves', 3, 40),
    height: set.percent('Wave height', 0.5),
    shift: set.percent('Shift', 0, 10, -10),
  },
  outlines({ waves, height, shift }, size) {
    const steps = Math.max(4, Math.round(6 * waves));
    const half = height / 4;
    const edge = (k: number, base: number): Point => [
      k / steps,
      base + half * Math.sin(2 * Math.PI * ((waves * k) / steps - shift)),
    ];
    const upper = Array.from({ length: steps + 1 }, (_, k) => edge(k, half));
    const lower = Array.from({ length: steps + 1 }, (_, k) => edge(steps - k, 1 - half));
    const path = smooth(size, [...upper, ...lower]);
    // The ends are cut upright.
    for (const k of [0, steps, steps + 1, 2 * steps + 1]) path.points[k] = corner(path.points[k]!.at);
    return [path];
  },
  handles: { height: shareHandle('height', [0.5, 0], [0.5, 0.5]) },
});
