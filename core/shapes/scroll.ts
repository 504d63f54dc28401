import type { Point } from '../path/path.ts';
import { along, band, smooth } from './outline-tools.ts';
import { defineShape, set } from './shape-kind.ts';

export const scroll = defineShape({
  id: 'scroll',
  name: 'Scroll',
  family: 'ornaments',
  purpose: 'A line that rolls up at both ends.',
  proportion: 0.5,
  settings: { turns: set.count('Turns', 2, 5, 1), thickness: set.percent('Thickness', 0.4, 1, 0.05) },
  outlines({ turns, thickness }, size) {
    const wide = size.width / size.height;
    /** From the left eye outwards, over the middle, into the right one, turned half round. */
    const half = (s: number): Point => {
      const angle = Math.PI / 2 - 2 * Math.PI * turns * s;
      const r = 0.04 + 0.18 * (1 - s);
      return [(0.24 * wide - r * Math.cos(angle)) / wide, 0.5 - r * 1.9 * Math.sin(angle)];
    };
    const left = along(Math.round(16 * turns), (s) => half(1 - s));
    const right = left.map(([x, y]): Point => [1 - x, 1 - y]).reverse();
    const [from, to] = [left.at(-1)!, right[0]!];
    const between = along(10, (s): Point => [
      from[0] + (to[0] - from[0]) * s,
      from[1] + (to[1] - from[1]) * s * s * (3 - 2 * s),
    ]).slice(1, -1);
    const line = [...left, ...between, ...right];
    const path = smooth(
      size,
      band(line, (s) => 0.05 * thickness * (0.25 + Math.sin(Math.PI * s))),
    );
    return [path];
  },
  handles: {},
});
