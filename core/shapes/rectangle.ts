import { rectangle as outline } from '../path/forms.ts';
import { defineShape, set } from './shape-kind.ts';

export const rectangle = defineShape({
  id: 'rectangle',
  name: 'Rectangle',
  family: 'plain',
  purpose: 'A panel, a bar or a ground; its corners can be round.',
  proportion: 1,
  settings: { radius: set.pixels('Corner radius', 0, 2000) },
  outlines: ({ radius }, { width, height }) => [outline({ x: 0, y: 0, width, height }, radius)],
  handles: {
    radius: {
      at: ({ radius }, { width, height }) => [Math.min(radius, width / 2, height / 2), 0],
      value: ([x], _, { width, height }) => Math.max(0, Math.min(x, width / 2, height / 2)),
    },
  },
});
