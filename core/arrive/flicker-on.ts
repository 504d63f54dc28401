import { atRest, defineArrival } from './arrival.ts';

export const flickerOn = defineArrival({
  id: 'flicker-on',
  name: 'Flicker on',
  purpose: 'Flickers like a lamp that is switched on.',
  settings: { flashes: { kind: 'number', name: 'Flashes', unit: '', least: 1, most: 40, start: 6 } },
  ownCourse: true,
  at: (share, { flashes }, { random }) => {
    if (share >= 1) return atRest;
    if (share <= 0) return { ...atRest, opacity: 0 };
    const step = Math.floor(share * flashes * 2);
    // The further it has come, the likelier it is lit, and the brighter.
    const lit = random(step) < 0.25 + 0.7 * share;
    return { ...atRest, opacity: lit ? 0.55 + 0.45 * random(step + 100) : 0.06 * share };
  },
});
