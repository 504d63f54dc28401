import { straight } from './outline-tools.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const ribbon = defineShape({
  id: 'ribbon',
  name: 'Ribbon',
  family: 'plain',
  purpose: 'A band with notched ends, to carry words.',
  proportion: 0.28,
  settings: { notch: set.percent('Notch', 0.08, 0.45) },
  outlines: ({ notch }, size) => [
    straight(size, [
      [0, 0],
      [1, 0],
      [1 - notch, 0.5],
      [1, 1],
      [0, 1],
      [notch, 0.5],
    ]),
  ],
  handles: { notch: shareHandle('notch', [0, 0.5], [1, 0.5], [0, 0.45]) },
});
