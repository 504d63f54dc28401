import { atRest, defineArrival } from './arrival.ts';

export const fade = defineArrival({
  id: 'fade',
  name: 'Fade in',
  purpose: 'Becomes visible where it is.',
  settings: {},
  at: (share) => ({ ...atRest, opacity: Math.max(0, Math.min(1, share)) }),
});
