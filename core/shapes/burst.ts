import { seededRandom } from '../pixels/random.ts';
import { spikes, straight } from './outline-tools.ts';
import { countHandle, defineShape, set, shareHandle } from './shape-kind.ts';

export const burst = defineShape({
  id: 'burst',
  name: 'Burst',
  family: 'plain',
  purpose: 'A ring of short spikes behind a price, a number or a shout.',
  proportion: 1,
  settings: {
    points: set.count('Points', 18, 90, 5),
    depth: set.percent('Ray depth', 0.22, 0.9),
    uneven: set.percent('Unevenness', 0),
    seed: set.seed,
  },
  outlines({ points, depth, uneven, seed }, size) {
    const random = seededRandom(seed);
    const long = Array.from({ length: Math.round(points) }, () => 1 - uneven * depth * 0.8 * random());
    return [
      straight(
        size,
        spikes(Math.round(points), 1 - depth, (k) => long[k]!),
      ),
    ];
  },
  handles: { points: countHandle('points', 5, 90), depth: shareHandle('depth', [0.5, 1], [0.5, 0.5], [0, 0.9]) },
});
