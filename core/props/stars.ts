import { born, speckList, swing } from './particles.ts';
import { cloudAt, cloudLattices } from './noise.ts';
import { defineProp, set } from './prop.ts';

export const stars = defineProp({
  id: 'stars',
  name: 'Stars',
  family: 'light',
  purpose: 'A night sky, thicker in some places than in others, that twinkles.',
  settings: {
    amount: set.count('Stars', 1800, 12_000),
    size: set.pixels('Size', 7, 60, 0.4),
    clusters: set.percent('Clusters', 0.6),
    fades: set.percent('Fades towards the horizon', 0.6),
    twinkle: set.percent('Twinkle', 0.5),
    colour: set.colour('Colour', 232, 238, 255),
    seed: set.seed,
  },
  blend: 'plus-lighter',
  moves: ({ twinkle }) => twinkle > 0,
  make({ amount, size, clusters, fades, twinkle, colour, seed }, moment) {
    const list = speckList(amount);
    const clouds = cloudLattices(seed + 5, 6, 4, 1, 3);
    for (let k = 0; k < Math.round(amount); k++) {
      const { random } = born(seed, k);
      // Of some places drawn the one that lies thickest is taken, the more so the more they are to cluster.
      const drawn = Array.from({ length: 1 + Math.round(5 * clusters) }, (_, n) => [random(2 * n), random(2 * n + 1)]);
      const thick = ([x, y]: number[]): number => cloudAt(clouds, x! * 6, y! * 4, 0.5);
      const [x, y] = drawn.reduce((a, b) => (thick(b) > thick(a) ? b : a)) as [number, number];
      const bright = random(40) ** 3;
      const radius = (size * (0.35 + 1.3 * bright)) / 2;
      const shine =
        1 - twinkle * (0.5 + 0.5 * swing(18 + 60 * random(41), random(42), moment)) * (0.4 + 0.6 * random(43));
      const light = (0.35 + 0.65 * bright) * shine * (1 - fades * y ** 2);
      list.add(x * moment.width, y * moment.height, radius, radius, 0, Math.max(0, light), 1);
    }
    return [{ kind: 'specks', form: 'disc', soft: 0.75, colour, values: list.values() }];
  },
});
