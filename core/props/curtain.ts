import { coloured } from './field.ts';
import { cloudLattices, noiseAt, passedCells } from './noise.ts';
import type { Point } from '../path/path.ts';
import { defineProp, set } from './prop.ts';

export const curtain = defineProp({
  id: 'curtain',
  name: 'Curtain of light',
  family: 'light',
  purpose: 'A wavering band of light across the sky, with upright folds.',
  settings: {
    left: set.place('Left end', -0.05, 0.62),
    right: set.place('Right end', 1.05, 0.5),
    along: set.layer('Along', 'path'),
    height: set.pixels('Height', 330, 4000, 4),
    wave: set.pixels('Wave', 70, 2000),
    folds: set.count('Folds', 26, 300, 1),
    speed: set.percent('Speed', 0.5, 4),
    strength: set.percent('Strength', 0.8),
    low: set.colour('Below', 90, 255, 170),
    high: set.colour('Above', 120, 90, 255),
    seed: set.seed,
  },
  blend: 'plus-lighter',
  moves: ({ speed }) => speed > 0,
  make({ left, right, height, wave, folds, speed, strength, low, high, seed }, moment) {
    const { width, height: tall, frame, loop } = moment;
    const time = passedCells(frame, speed / 24, loop);
    const lattice = cloudLattices(seed, 4096, 1, time.cells, 1)[0]!;
    const z = speed === 0 ? 0 : time.at;
    const path = moment.related?.along?.path;
    const foot = path && path.length > 1 ? footOfPath(path) : null;
    const start = foot ? foot.from : left[0]! * width;
    const span = (foot ? foot.to - foot.from : (right[0]! - left[0]!) * width) || 1;
    /** What every column of the field needs, made once for each. */
    const columns: { foot: number; fold: number; reach: number; edge: number }[] = [];
    const columnAt = (x: number) => {
      const share = (x - start) / span;
      const line = foot ? foot.at(x) : (left[1]! + (right[1]! - left[1]!) * share) * tall;
      const slow = noiseAt(lattice, share * 5 + 40, 0, z) - 0.5;
      const fold =
        noiseAt(lattice, share * folds + 800, 0, z) * 0.6 + noiseAt(lattice, share * folds * 3 + 1700, 0, z) * 0.4;
      return {
        foot: line + (foot ? 0.5 : 2) * wave * slow,
        fold: Math.max(0, (fold - 0.25) / 0.75),
        reach: height * (0.6 + 0.8 * noiseAt(lattice, share * folds * 0.5 + 2600, 0, z)),
        edge: Math.max(0, Math.min(1, Math.min(share, 1 - share) * 6)),
      };
    };
    return [
      coloured(moment, 5, (x, y, out) => {
        const column = (columns[Math.round(x * 4)] ??= columnAt(x));
        const up = (column.foot - y) / column.reach;
        // Sharp below, fading slowly upwards.
        const seen = up < 0 ? Math.max(0, 1 + up * 14) : Math.max(0, 1 - up) ** 1.7;
        const mix = Math.max(0, Math.min(1, up * 1.15));
        for (let n = 0; n < 3; n++) out[n] = low[n]! + (high[n]! - low[n]!) * mix;
        out[3] = strength * seen * (0.2 + 0.8 * column.fold) * column.edge;
      }),
    ];
  },
});

/** A path as the line the curtain stands on: for every place across the box, how far down it runs there at its lowest. */
function footOfPath(path: readonly Point[]): { from: number; to: number; at(x: number): number } {
  const xs = path.map(([x]) => x);
  const [from, to] = [Math.min(...xs), Math.max(...xs)];
  const at = (x: number): number => {
    let low = -Infinity;
    for (let k = 0; k + 1 < path.length; k++) {
      const [a, b] = [path[k]!, path[k + 1]!];
      if ((a[0] - x) * (b[0] - x) > 0) continue;
      const share = b[0] === a[0] ? 0 : (x - a[0]) / (b[0] - a[0]);
      low = Math.max(low, a[1] + (b[1] - a[1]) * share);
    }
    // Beyond its ends it goes on level.
    if (low > -Infinity) return low;
    return path.reduce((near, p) => (Math.abs(p[0] - x) < Math.abs(near[0] - x) ? p : near))[1];
  };
  return { from, to, at };
}
