import { ellipse as outline } from '../path/forms.ts';
import { reversed } from './outline-tools.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

export const ellipse = defineShape({
  id: 'ellipse',
  name: 'Ellipse',
  family: 'plain',
  purpose: 'A disc; with a hole it is a ring.',
  proportion: 1,
  settings: { hole: set.percent('Hole', 0, 0.98) },
  outlines({ hole }, { width, height }) {
    const disc = outline({ x: 0, y: 0, width, height });
    if (hole <= 0) return [disc];
    const [w, h] = [width * hole, height * hole];
    return [disc, reversed(outline({ x: (width - w) / 2, y: (height - h) / 2, width: w, height: h }))];
  },
  handles: { hole: shareHandle('hole', [0.5, 0.5], [1, 0.5], [0, 0.98]) },
});
