import { along, circle, reversed, smooth } from './outline-tools.ts';
import { countHandle, defineShape, set, shareHandle } from './shape-kind.ts';

export const rosette = defineShape({
  id: 'rosette',
  name: 'Rosette',
  family: 'ornaments',
  purpose: 'Round petals about an open middle.',
  proportion: 1,
  settings: {
    petals: set.count('Petals', 10, 48, 3),
    depth: set.percent('Petal depth', 0.24, 0.8),
    hole: set.percent('Hole', 0.28, 0.9),
  },
  outlines({ petals, depth, hole }, size) {
    const count = Math.round(petals);
    const flower = smooth(
      size,
      along(8 * count - 1, (s) => {
        const turn = (s * (8 * count - 1)) / (8 * count);
        const r = 0.5 * (1 - depth + depth * Math.abs(Math.cos(Math.PI * count * turn)) ** 0.6);
        const angle = 2 * Math.PI * turn - Math.PI / 2;
        return [0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle)];
      }),
    );
    if (hole <= 0) return [flower];
    return [flower, reversed(smooth(size, circle([0.5, 0.5], 0.5 * hole * (1 - depth))))];
  },
  handles: { petals: countHandle('petals', 3, 48), hole: shareHandle('hole', [0.5, 0.5], [1, 0.5], [0, 0.9]) },
});
