import { defineFinish, set } from './finish.ts';
import { hash } from './operations/noise.ts';

/** The picture cut across into strips, each moved along itself by a seed; in bursts, or always. */
export const strips = defineFinish({
  id: 'strips',
  name: 'Strips',
  family: 'texture',
  purpose: 'Cuts across into strips that are shifted against each other.',
  settings: {
    height: { kind: 'number', name: 'Strip height', unit: 'px', least: 2, most: 1000, start: 28 },
    shift: set.pixels('Shift', 24, 600),
    upright: { kind: 'switch', name: 'Upright strips', start: false },
    /** What leaves on one side comes in on the other, so that nothing is bare. */
    round: { kind: 'switch', name: 'Goes round', start: true, before: false },
    interval: { kind: 'number', name: 'Changes every', unit: 'frames', least: 0, most: 240, start: 0 },
    share: set.percent('Share of time', 1),
    seed: set.seed,
  },
  reach: ({ shift, round }) => (round ? 0 : shift),
  moves: ({ interval }) => interval >= 1,
  apply(pixels, { height: tall, shift, upright, round, interval, share, seed }, { frame, length, scale, box }) {
    const count = interval >= 1 ? Math.max(1, Math.round(length / interval)) : 1;
    const turn = Math.floor((((frame % length) + length) % length) * (count / length));
    if (hash(turn, seed, 5) >= share) return;
    const { data, width, height } = pixels;
    const colours = new Uint32Array(data.buffer, data.byteOffset, width * height);
    const source = colours.slice();
    const cell = Math.max(1, tall * scale);
    const [first, size] = upright ? [box.x, width] : [box.y, height];
    const [start, span, most] = upright ? [box.y, box.height, height] : [box.x, box.width, width];
    const stripOf = (at: number): number => Math.floor((at - first + 1e-6) / cell);
    for (let from = 0; from < size;) {
      const strip = stripOf(from);
      let to = from + 1;
      while (to < size && stripOf(to) === strip) to++;
      const by = Math.round((hash(strip, seed, 1000 + turn) * 2 - 1) * shift * scale);
      // Where along the strip each of its places comes from; outside of the picture nothing does.
      const origins = Int32Array.from({ length: most }, (_, at) =>
        round ? within(at - by, at, start, span) : at - by,
      );
      const [across, along] = upright ? [1, width] : [width, 1];
      for (let n = from; n < to; n++)
        for (let at = 0; at < most; at++) {
          const origin = origins[at]!;
          colours[n * across + at * along] = origin < 0 || origin >= most ? 0 : source[n * across + origin * along]!;
        }
      from = to;
    }
  },
});

/** A coordinate brought back into a span from its other end; one that began outside of it stays where it was. */
function within(moved: number, at: number, first: number, length: number): number {
  const [from, count] = [Math.round(first), Math.max(1, Math.round(length))];
  if (at < from || at >= from + count) return at;
  return from + ((((moved - from) % count) + count) % count);
}
