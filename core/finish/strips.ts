import { defineFinish, set } from './finish.ts';
import { hash } from './pixels.ts';

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
    const source = pixels.data.slice();
    const { data, width, height } = pixels;
    const cell = Math.max(1, tall * scale);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const strip = Math.floor(((upright ? x - box.x : y - box.y) + 1e-6) / cell);
        const by = Math.round((hash(strip, seed, 1000 + turn) * 2 - 1) * shift * scale);
        let [u, v] = upright ? [x, y - by] : [x - by, y];
        if (round) [u, v] = [within(u, x, box.x, box.width), within(v, y, box.y, box.height)];
        const to = (y * width + x) * 4;
        const inside = u >= 0 && v >= 0 && u < width && v < height;
        const from = (v * width + u) * 4;
        for (let c = 0; c < 4; c++) data[to + c] = inside ? source[from + c]! : 0;
      }
  },
});

/** A coordinate brought back into a span from its other end; one that began outside of it stays where it was. */
function within(moved: number, at: number, first: number, length: number): number {
  const [from, count] = [Math.round(first), Math.max(1, Math.round(length))];
  if (at < from || at >= from + count) return at;
  return from + ((((moved - from) % count) + count) % count);
}
