import { atRest, defineArrival, fadeIn } from './arrival.ts';

export const turnIn = defineArrival({
  id: 'turn-in',
  name: 'Turn in',
  purpose: 'Turns into place about a point.',
  settings: {
    turn: { kind: 'angle', name: 'Turned by', start: -90 },
    about: { kind: 'place', name: 'Turns about', start: [0, 1] },
  },
  at: (share, { turn, about }) => ({ ...atRest, turn: turn * (1 - share), about, opacity: fadeIn(share, 0.5) }),
});
