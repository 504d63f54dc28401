import { circle, reversed, smooth, straight } from './outline-tools.ts';
import type { Point } from '../path/path.ts';
import { defineShape, set } from './shape-kind.ts';

export const windRose = defineShape({
  id: 'wind-rose',
  name: 'Wind rose',
  family: 'ornaments',
  purpose: 'Long and short points in a ring, as on a chart.',
  proportion: 1,
  settings: {
    slender: set.percent('Slenderness', 0.7),
    short: set.percent('Short points', 0.55),
    ring: set.percent('Ring', 0.5),
  },
  outlines({ slender, short, ring }, size) {
    const waist = 0.5 * (0.34 - 0.24 * slender);
    const points = Array.from({ length: 16 }, (_, k): Point => {
      const r = k % 2 === 1 ? waist : k % 4 === 0 ? 0.5 : 0.5 * (0.2 + 0.7 * short);
      const angle = (2 * Math.PI * k) / 16 - Math.PI / 2;
      return [0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle)];
    });
    const rose = straight(size, points);
    if (ring <= 0) return [rose];
    const [outer, wide] = [0.37, 0.012 + 0.03 * ring];
    return [rose, smooth(size, circle([0.5, 0.5], outer)), reversed(smooth(size, circle([0.5, 0.5], outer - wide)))];
  },
  handles: {},
});
