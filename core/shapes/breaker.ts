import type { Point } from '../path/path.ts';
import { along, smooth } from './outline-tools.ts';
import { defineShape, set } from './shape-kind.ts';

export const breaker = defineShape({
  id: 'breaker',
  name: 'Breaker',
  family: 'ornaments',
  purpose: 'A row of waves that curl over.',
  proportion: 0.32,
  settings: { waves: set.count('Waves', 4, 24), curl: set.percent('Curl', 0.7) },
  outlines({ waves, curl }, size) {
    const count = Math.round(waves);
    const crest = (k: number): Point[] =>
      along(7, (s): Point => {
        // Up the back, over, and under the lip.
        const x = s < 0.6 ? s * 1.25 : 0.75 + 0.2 * curl * Math.sin((s - 0.6) * 7) - (s - 0.6) * 0.3 * curl;
        const y = s < 0.6 ? 0.75 - 0.72 * (s / 0.6) ** 1.6 : 0.03 + (s - 0.6) * (1.1 + 0.4 * curl);
        return [(k + Math.min(0.98, x)) / count, y];
      });
    const top = Array.from({ length: count }, (_, k) => crest(k)).flat();
    const path = smooth(size, [...top, [1, 0.75], [1, 1], [0, 1]]);
    for (const k of [path.points.length - 1, path.points.length - 2, path.points.length - 3])
      path.points[k] = { at: path.points[k]!.at, in: null, out: null, smooth: false };
    return [path];
  },
  handles: {},
});
