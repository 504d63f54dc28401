import { atRest, defineArrival } from './arrival.ts';

export const spring = defineArrival({
  id: 'spring',
  name: 'Spring',
  purpose: 'Shoots out of a point, too far, and swings to rest; a bubble shoots out of its tail.',
  settings: {
    bounce: { kind: 'number', name: 'Bounce', unit: '%', least: 0, most: 1, start: 0.5 },
    tail: { kind: 'switch', name: 'From its tail', start: true },
    about: { kind: 'place', name: 'Otherwise from', start: [0, 1] },
    twist: { kind: 'angle', name: 'Twist', start: -12 },
  },
  ownCourse: true,
  // A damped swing that has come to rest exactly when its time is over.
  at: (share, { bounce, tail, about, twist }, unit) => {
    const left = (1 - share) * Math.exp(-4.5 * share) * Math.cos(2 * Math.PI * (0.25 + 1.5 * bounce) * share);
    const size = 1 - left;
    const from = tail && unit.tail ? unit.tail : about;
    return { ...atRest, grow: [size, size], turn: twist * left, about: from, opacity: Math.min(1, share * 12) };
  },
});
