import { seededRandom } from '../pixels/random.ts';
import { quarter } from '../path/forms.ts';
import { corner, type PathPoint } from '../path/path.ts';
import { defineShape, set, shareHandle } from './shape-kind.ts';

/** How far down the edge between two drops lies, as a share of the height. */
const rim = 0.16;

export const drip = defineShape({
  id: 'drip',
  name: 'Drip edge',
  family: 'plain',
  purpose: 'A straight edge above, drops of unlike length below, as of wax or wet paint.',
  proportion: 0.7,
  settings: {
    drops: set.count('Drops', 6, 60),
    length: set.percent('Length', 0.75),
    width: set.percent('Drop width', 0.52, 0.95, 0.1),
    uneven: set.percent('Unevenness', 0.6),
    seed: set.seed,
  },
  outlines({ drops, length, width, uneven, seed }, size) {
    const random = seededRandom(seed);
    const count = Math.round(drops);
    const longest = Array.from({ length: count }, () => 1 - uneven * random());
    const { width: wide, height: tall } = size;
    const lower: PathPoint[] = [];
    for (let k = count - 1; k >= 0; k--) {
      const low = tall * (rim + (1 - rim) * length * longest[k]!);
      const middle = (wide * (k + 0.5)) / count;
      const half = (wide * width) / count / 2;
      const inner = half * 0.92;
      // From the edge it sets off in a hollow that reaches half way to the next drop.
      const hollow = inner + 0.48 * ((wide / count) * (1 - width) + 2 * (half - inner));
      // A drop ends round: as far above its lowest point as it is wide to one side.
      const round = Math.min(inner, (low - tall * rim) * 0.5);
      const neck = low - round - tall * rim;
      const bend: [number, number] = [inner * quarter, round * quarter];
      lower.push(
        { at: [middle + hollow, tall * rim], in: null, out: [(inner - hollow) * 0.9, 0], smooth: false },
        { at: [middle + inner, low - round], in: [0, -neck * 0.75], out: [0, bend[1]], smooth: true },
        { at: [middle, low], in: [bend[0], 0], out: [-bend[0], 0], smooth: true },
        { at: [middle - inner, low - round], in: [0, bend[1]], out: [0, -neck * 0.75], smooth: true },
        { at: [middle - hollow, tall * rim], in: [(hollow - inner) * 0.9, 0], out: null, smooth: false },
      );
    }
    const ends = [corner([0, 0]), corner([wide, 0]), corner([wide, tall * rim])];
    return [{ closed: true, points: [...ends, ...lower, corner([0, tall * rim])] }];
  },
  handles: {
    length: shareHandle('length', [1, rim], [1, 1]),
    drops: {
      at: ({ drops }, { width }) => [width / Math.round(drops), 0],
      value: ([x], _, { width }) => Math.max(1, Math.min(60, Math.round(width / Math.max(x, 1)))),
    },
  },
});
