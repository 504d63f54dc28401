import { atRest, defineArrival, fadeIn } from './arrival.ts';

export const grow = defineArrival({
  id: 'grow',
  name: 'Grow',
  purpose: 'Grows from its middle, a corner or any other point.',
  settings: {
    from: { kind: 'number', name: 'Start size', unit: '%', least: 0, most: 10, start: 0 },
    about: { kind: 'place', name: 'Grows from', start: [0.5, 0.5] },
    fades: { kind: 'switch', name: 'Fades in', start: true },
  },
  at: (share, { from, about, fades }) => {
    const size = from + (1 - from) * share;
    return { ...atRest, grow: [size, size], about, opacity: fades ? fadeIn(share, 0.4) : 1 };
  },
});
