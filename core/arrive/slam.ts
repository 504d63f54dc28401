import { atRest, defineArrival, fadeIn } from './arrival.ts';

/** Share of the time at which it hits. */
const hit = 0.45;

export const slam = defineArrival({
  id: 'slam',
  name: 'Slam',
  purpose: 'Comes down large and fast, hits, shakes and rests.',
  settings: {
    from: { kind: 'number', name: 'Start size', unit: '%', least: 1, most: 20, start: 3 },
    shake: { kind: 'number', name: 'Shake', unit: 'px', least: 0, most: 200, start: 10 },
  },
  ownCourse: true,
  at: (share, { from, shake }, { scale, random }) => {
    if (share >= 1) return atRest;
    if (share < hit) {
      // It gets faster until it hits.
      const way = (share / hit) ** 3;
      const size = from + (1 - from) * way;
      return { ...atRest, grow: [size, size], opacity: fadeIn(share, hit * 0.5) };
    }
    // A shaking that dies away, about two and a half times to and fro.
    const after = (share - hit) / (1 - hit);
    const swing = Math.sin(after * 5 * Math.PI) * (1 - after) ** 2;
    const squash = 1 - 0.08 * swing;
    const side = random(0) < 0.5 ? -1 : 1;
    return {
      ...atRest,
      move: [side * shake * scale * 0.4 * swing, shake * scale * swing],
      grow: [2 - squash, squash],
      about: [0.5, 1],
    };
  },
});
