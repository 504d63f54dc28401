import type { Point } from '../path/path.ts';
import { reversed, smooth, straight } from './outline-tools.ts';
import { defineShape, set } from './shape-kind.ts';

export const bow = defineShape({
  id: 'bow',
  name: 'Bow',
  family: 'ornaments',
  purpose: 'Two loops, a knot and two tails of a tied band.',
  proportion: 0.75,
  settings: { loops: set.percent('Loops', 0.7, 1, 0.2), tails: set.percent('Tails', 0.7) },
  outlines({ loops, tails }, size) {
    const sides = [-1, 1].flatMap((sign) => {
      const at = (x: number, y: number): Point => [0.5 + sign * x, y];
      const wide = 0.2 + 0.3 * loops;
      const loop: Point[] = [
        at(0.04, 0.34),
        at(0.6 * wide, 0.08),
        at(wide, 0.12),
        at(wide * 0.94, 0.5),
        at(0.6 * wide, 0.58),
        at(0.04, 0.42),
      ];
      const low = 0.5 + 0.5 * tails;
      const tail: Point[] = [at(0.02, 0.4), at(0.08, 0.42), at(0.32, low), at(0.24, low - 0.08), at(0.19, low)];
      const parts = tails > 0 ? [smooth(size, loop), straight(size, tail)] : [smooth(size, loop)];
      // All of it runs the same way round, or it would be empty where it lies over itself.
      return sign > 0 ? parts : parts.map(reversed);
    });
    return [
      ...sides,
      smooth(size, [
        [0.44, 0.3],
        [0.56, 0.3],
        [0.57, 0.46],
        [0.43, 0.46],
      ]),
    ];
  },
  handles: {},
});
