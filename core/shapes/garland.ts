import type { Point } from '../path/path.ts';
import { along, band, smooth, straight } from './outline-tools.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const garland = defineShape({
  id: 'garland',
  name: 'Garland',
  family: 'ornaments',
  purpose: 'Small flags on a line that hangs between its ends.',
  proportion: 0.35,
  settings: { flags: set.count('Flags', 9, 40, 2), sag: set.percent('Sag', 0.45), size: set.percent('Flag size', 0.8) },
  outlines({ flags, sag, size: large }, size) {
    const count = Math.round(flags);
    const line = (x: number): Point => [x, 0.04 + 0.55 * sag * (1 - (2 * x - 1) ** 2)];
    const rope = smooth(
      size,
      band(along(24, line), () => 0.012),
    );
    const each = Array.from({ length: count }, (_, k) => {
      const middle = (k + 0.5) / count;
      const half = (0.42 * large) / count;
      const [a, b] = [line(middle - half), line(middle + half)];
      const foot: Point = [middle, Math.min(1, line(middle)[1] + 0.4 * large)];
      return straight(size, [a, b, foot]);
    });
    return [rope, ...each];
  },
  handles: { sag: shareHandle('sag', [0.5, 0.04], [0.5, 0.59]) },
});
