import { rounded, spikes, straight } from './outline-tools.ts';
import { countHandle, defineShape, set } from './shape-kind.ts';

export const star = defineShape({
  id: 'star',
  name: 'Star',
  family: 'plain',
  purpose: 'Points around a middle, as many and as deep as wanted.',
  proportion: 1,
  settings: {
    points: set.count('Points', 5, 60, 3),
    depth: set.percent('Point depth', 0.58, 0.95),
    radius: set.pixels('Corner radius', 0, 400),
  },
  outlines: ({ points, depth, radius }, size) => [
    rounded(straight(size, spikes(Math.round(points), 1 - depth)), radius),
  ],
  handles: {
    points: countHandle('points', 3, 60),
    depth: {
      at({ points, depth }, { width, height }) {
        const angle = Math.PI / Math.round(points) - Math.PI / 2;
        const r = (1 - depth) / 2;
        return [width * (0.5 + r * Math.cos(angle)), height * (0.5 + r * Math.sin(angle))];
      },
      value: ([x, y], _, { width, height }) =>
        Math.max(0, Math.min(0.95, 1 - 2 * Math.hypot(x / width - 0.5, y / height - 0.5))),
    },
  },
});
