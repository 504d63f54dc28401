import { atRest, defineArrival } from './arrival.ts';

export const unroll = defineArrival({
  id: 'unroll',
  name: 'Wipe on',
  purpose: 'An edge goes over it and leaves it behind; layers can follow that edge.',
  settings: { angle: { kind: 'angle', name: 'Direction', start: 0 } },
  at: (share, { angle }) => ({ ...atRest, reveal: { form: 'sweep', angle, share } }),
});
