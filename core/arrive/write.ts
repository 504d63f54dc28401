import { atRest, defineArrival } from './arrival.ts';

export const write = defineArrival({
  id: 'write',
  name: 'Write',
  purpose: 'Written stroke after stroke, evenly, as a hand would; a layer with a pen can follow.',
  settings: {},
  writes: true,
  at: (share) => ({ ...atRest, reveal: { form: 'written', share } }),
});
