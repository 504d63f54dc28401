import { straight } from './outline-tools.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const arrow = defineShape({
  id: 'arrow',
  name: 'Arrow',
  family: 'plain',
  purpose: 'Points to the right; head and shaft are led by handles.',
  proportion: 0.6,
  settings: { head: set.percent('Head length', 0.42, 1, 0.02), shaft: set.percent('Shaft width', 0.36, 1, 0.02) },
  outlines({ head, shaft }, size) {
    const [x, top, low] = [1 - head, 0.5 - shaft / 2, 0.5 + shaft / 2];
    return [
      straight(size, [
        [0, top],
        [x, top],
        [x, 0],
        [1, 0.5],
        [x, 1],
        [x, low],
        [0, low],
      ]),
    ];
  },
  handles: {
    head: shareHandle('head', [1, 0], [0, 0], [0.02, 1]),
    shaft: shareHandle('shaft', [0, 0.5], [0, 0], [0.02, 1]),
  },
});
