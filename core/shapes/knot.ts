import type { Point } from '../path/path.ts';
import { along, band, smooth } from './outline-tools.ts';
import { defineShape, set } from './shape-kind.ts';

/** A line that crosses itself three times. */
function trefoil(t: number): Point {
  const a = 2 * Math.PI * t;
  return [0.5 + (Math.sin(a) + 2 * Math.sin(2 * a)) / 5.8, 0.42 - (Math.cos(a) - 2 * Math.cos(2 * a)) / 5.8];
}

/** Where the line first crosses itself, as a share of its length: at minus acos(-1/4), a third of a turn on. */
const under = 1 / 3 - Math.acos(-1 / 4) / (2 * Math.PI);

export const knot = defineShape({
  id: 'knot',
  name: 'Knot',
  family: 'ornaments',
  purpose: 'A rope laid over and under itself three times.',
  proportion: 1,
  settings: { rope: set.percent('Rope width', 0.5, 1, 0.1), gap: set.percent('Gap', 0.5) },
  outlines({ rope, gap }, size) {
    // Three strands; each ends short of where it would run under the next.
    const short = 0.012 + 0.028 * (rope + gap);
    return [0, 1, 2].map((k) => {
      const [from, to] = [under + k / 3 + short, under + (k + 1) / 3 - short];
      const line = along(18, (s) => trefoil(from + (to - from) * s));
      const strand = smooth(
        size,
        band(line, () => 0.075 * rope),
      );
      for (const n of [0, 18, 19, 37])
        strand.points[n] = { at: strand.points[n]!.at, in: null, out: null, smooth: false };
      return strand;
    });
  },
  handles: {},
});
