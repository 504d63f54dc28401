import { atRest, defineArrival, fadeIn, towards } from './arrival.ts';

export const fromSide = defineArrival({
  id: 'from-side',
  name: 'Slide in',
  purpose: 'Comes from a side and stops where it belongs.',
  settings: {
    side: { kind: 'angle', name: 'Comes from', start: 0 },
    distance: { kind: 'number', name: 'Distance', unit: 'px', least: 0, most: 8000, start: 320 },
    fades: { kind: 'switch', name: 'Fades in', start: true },
  },
  at: (share, { side, distance, fades }, { scale }) => ({
    ...atRest,
    move: towards(side, distance * scale * (1 - share)),
    opacity: fades ? fadeIn(share) : 1,
  }),
});
