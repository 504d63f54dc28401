import { atRest, defineArrival, fadeIn, towards } from './arrival.ts';

export const gather = defineArrival({
  id: 'gather',
  name: 'Gather',
  purpose: 'Comes together from scattered places.',
  settings: {
    distance: { kind: 'number', name: 'Distance', unit: 'px', least: 0, most: 8000, start: 300 },
    turn: { kind: 'angle', name: 'Turned by', start: 120 },
    from: { kind: 'number', name: 'Start size', unit: '%', least: 0, most: 10, start: 0.5 },
  },
  at: (share, { distance, turn, from }, { scale, random }) => {
    const left = 1 - share;
    const size = from + (1 - from) * share;
    return {
      ...atRest,
      move: towards(360 * random(0), distance * scale * left * (0.4 + 0.6 * random(1))),
      turn: turn * (2 * random(2) - 1) * left,
      grow: [size, size],
      opacity: fadeIn(share, 0.5),
    };
  },
});
