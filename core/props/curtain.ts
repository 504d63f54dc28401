import { coloured } from './field.ts';
import { cloudLattices, noiseAt, passedCells } from './noise.ts';
import { defineProp, set } from './prop.ts';

export const curtain = defineProp({
  id: 'curtain',
  name: 'Curtain of light',
  family: 'light',
  purpose: 'A wavering band of light across the sky, with upright folds.',
  settings: {
    left: set.place('Left end', -0.05, 0.62),
    right: set.place('Right end', 1.05, 0.5),
    height: set.pixels('Height', 330, 4000, 4),
    wave: set.pixels('Wave', 70, 2000),
    folds: set.count('Folds', 26, 300, 1),
    speed: set.percent('Speed', 0.5, 4),
    strength: set.percent('Strength', 0.8),
    low: set.colour('Colour below', 90, 255, 170),
    high: set.colour('Colour above', 120, 90, 255),
    seed: set.seed,
  },
  blend: 'plus-lighter',
  moves: ({ speed }) => speed > 0,
  make({ left, right, height, wave, folds, speed, strength, low, high, seed }, moment) {
    const { width, height: tall, frame, loop } = moment;
    const time = passedCells(frame, speed / 24, loop);
    const lattice = cloudLattices(seed, 4096, 1, time.cells, 1)[0]!;
    const z = speed === 0 ? 0 : time.at;
    const span = (right[0]! - left[0]!) * width || 1;
    /** What every column of the field needs, made once for each. */
    const columns: { foot: number; fold: number; reach: number; edge: number }[] = [];
    const columnAt = (x: number) => {
      const share = (x - left[0]! * width) / span;
      const line = (left[1]! + (right[1]! - left[1]!) * share) * tall;
      const slow = noiseAt(lattice, share * 5 + 40, 0, z) - 0.5;
      const fold =
        noiseAt(lattice, share * folds + 800, 0, z) * 0.6 + noiseAt(lattice, share * folds * 3 + 1700, 0, z) * 0.4;
      return {
        foot: line + 2 * wave * slow,
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
