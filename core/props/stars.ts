import { born, speckList, swing } from './particles.ts';
import { cloudAt, cloudLattices } from './noise.ts';
import type { BrushStroke } from '../settings/setting.ts';
import { defineProp, set, type PropMoment } from './prop.ts';

export const stars = defineProp({
  id: 'stars',
  name: 'Stars',
  family: 'light',
  purpose: 'A night sky, thicker in some places than in others, that twinkles.',
  settings: {
    amount: set.count('Stars', 1800, 12_000),
    size: set.pixels('Size', 7, 60, 0.4),
    clusters: set.percent('Clusters', 0.6),
    painted: { kind: 'strokes', name: 'Painted clusters', start: [] },
    share: set.percent('Share in painted clusters', 0.65),
    fades: set.percent('Fades towards the horizon', 0.6),
    twinkle: set.percent('Twinkle', 0.5),
    colour: set.colour('Colour', 232, 238, 255),
    seed: set.seed,
  },
  blend: 'plus-lighter',
  moves: ({ twinkle }) => twinkle > 0,
  make({ amount, size, clusters, painted, share, fades, twinkle, colour, seed }, moment) {
    const list = speckList(amount);
    const clouds = cloudLattices(seed + 5, 6, 4, 1, 3);
    for (let k = 0; k < Math.round(amount); k++) {
      const { random } = born(seed, k);
      // Of some places drawn the one that lies thickest is taken, the more so the more they are to cluster.
      const drawn = Array.from({ length: 1 + Math.round(5 * clusters) }, (_, n) => [random(2 * n), random(2 * n + 1)]);
      const thick = ([x, y]: number[]): number => cloudAt(clouds, x! * 6, y! * 4, 0.5);
      const somewhere = drawn.reduce((a, b) => (thick(b) > thick(a) ? b : a)) as [number, number];
      const [x, y] = (random(44) < share && placeIn(painted, random, moment)) || somewhere;
      if (isErased(painted, x, y, moment)) continue;
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

const wayOf = ({ points }: BrushStroke, { width, height }: PropMoment): number =>
  points.reduce((sum, [x, y], k) => {
    const [px, py] = points[Math.max(0, k - 1)]!;
    return sum + Math.hypot((x - px) * width, (y - py) * height);
  }, 0);

/** A place under the brush's marks, denser in the middle of each; null where there are none. Shares of the box. */
function placeIn(
  strokes: readonly BrushStroke[],
  random: (k: number) => number,
  moment: PropMoment,
): [number, number] | null {
  const marks = strokes.filter(({ erases }) => !erases);
  if (marks.length === 0) return null;
  // A dot counts as much as a line as long as it is wide.
  const weights = marks.map((mark) => (wayOf(mark, moment) + mark.width * moment.height) * mark.width);
  let left = random(45) * weights.reduce((sum, weight) => sum + weight, 0);
  const found = marks.find((_, k) => (left -= weights[k]!) <= 0) ?? marks.at(-1)!;
  const { points, width } = found;
  const at = random(46) * (points.length - 1);
  const [k, t] = [Math.floor(at), at % 1];
  const [a, b] = [points[k]!, points[Math.min(k + 1, points.length - 1)]!];
  // Box & Muller 1958; a quarter of the width is one standard deviation.
  const far = Math.sqrt(-2 * Math.log(Math.max(1e-9, random(47)))) * 0.25 * width * moment.height;
  const angle = 2 * Math.PI * random(48);
  return [
    a[0] + (b[0] - a[0]) * t + (far * Math.cos(angle)) / moment.width,
    a[1] + (b[1] - a[1]) * t + (far * Math.sin(angle)) / moment.height,
  ];
}

/** Whether a place lies under a mark that takes away. */
function isErased(strokes: readonly BrushStroke[], x: number, y: number, { width, height }: PropMoment): boolean {
  return strokes.some(
    (mark) =>
      mark.erases &&
      mark.points.some(([u, v], k) => {
        const [pu, pv] = mark.points[Math.max(0, k - 1)]!;
        return (
          distanceTo([x * width, y * height], [pu * width, pv * height], [u * width, v * height]) <
          (mark.width * height) / 2
        );
      }),
  );
}

function distanceTo([x, y]: [number, number], [ax, ay]: [number, number], [bx, by]: [number, number]): number {
  const [dx, dy] = [bx - ax, by - ay];
  const long = dx * dx + dy * dy;
  const t = long > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / long)) : 0;
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}
