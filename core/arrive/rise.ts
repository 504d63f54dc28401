import { atRest, defineArrival } from './arrival.ts';

export const rise = defineArrival({
  id: 'rise',
  name: 'Rise',
  purpose: 'Rises out of its own line, as if from behind an edge.',
  settings: {
    from: { kind: 'choice', name: 'From', options: ['below', 'above'], start: 'below' },
    turn: { kind: 'angle', name: 'Turned by', start: 0 },
  },
  at: (share, { from, turn }, { height }) => ({
    ...atRest,
    move: [0, (from === 'below' ? 1.05 : -1.05) * height * (1 - share)],
    turn: turn * (1 - share),
    about: [0, 1],
    reveal: { form: 'line' },
  }),
});
