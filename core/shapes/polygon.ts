import { polygon as outline } from '../path/forms.ts';
import { rounded } from './outline-tools.ts';
import { countHandle, defineShape, set } from './shape-kind.ts';

export const polygon = defineShape({
  id: 'polygon',
  name: 'Polygon',
  family: 'plain',
  purpose: 'As many equal sides as wanted.',
  proportion: 1,
  settings: { sides: set.count('Sides', 6, 40, 3), radius: set.pixels('Corner radius', 0, 2000) },
  outlines: ({ sides, radius }, { width, height }) => [
    rounded(outline({ x: 0, y: 0, width, height }, Math.round(sides)), radius),
  ],
  handles: { sides: countHandle('sides', 3, 40) },
});
