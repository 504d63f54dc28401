import { born, speckList, swing, travelled } from './particles.ts';
import { defineProp, set, type PropPart } from './prop.ts';

export const confetti = defineProp({
  id: 'confetti',
  name: 'Confetti',
  family: 'particles',
  purpose: 'Pieces of paper in three colours that tumble down.',
  settings: {
    amount: set.count('Pieces', 220, 3000),
    speed: set.pixels('Speed', 6, 100),
    size: set.pixels('Size', 46, 200, 1),
    sway: set.pixels('Sway', 40, 600),
    tumble: { kind: 'number', name: 'Tumble', unit: 'frames', least: 4, most: 600, start: 34 },
    first: set.colour('First colour', 217, 154, 0),
    second: set.colour('Second colour', 174, 59, 39),
    third: set.colour('Third colour', 14, 91, 80),
    seed: set.seed,
  },
  blend: 'normal',
  slab: true,
  moves: () => true,
  make({ amount, speed, size, sway, tumble, first, second, third, seed }, moment) {
    const colours = [first, second, third];
    const lists = colours.map(() => speckList(amount));
    for (let k = 0; k < Math.round(amount); k++) {
      const { random, deep, near } = born(seed, k);
      const y = travelled(speed * near * (0.7 + 0.6 * random(0)), random(1), moment.height, moment);
      const x = random(2) * moment.width + sway * near * swing(60 + 60 * random(3), random(4), moment);
      const half = (size * near * (0.6 + 0.6 * random(5))) / 2;
      // A piece that turns over is seen edge on twice.
      const seen = Math.abs(swing(tumble * (0.7 + 0.8 * random(6)), random(7), moment));
      const turn = random(8) * 6.28 + 0.6 * swing(90, random(9), moment);
      lists[k % 3]!.add(x, y, half, half * 0.62 * Math.max(0.06, seen), turn, 0.82 + 0.18 * seen, deep);
    }
    return colours.map((colour, n): PropPart => ({
      kind: 'specks',
      form: 'paper',
      soft: 0,
      colour,
      values: lists[n]!.values(),
    }));
  },
});
