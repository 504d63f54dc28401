import { ageOf, birthplace, born, speckList, swing } from './particles.ts';
import { defineProp, set } from './prop.ts';

export const smoke = defineProp({
  id: 'smoke',
  name: 'Smoke',
  family: 'weather',
  purpose: 'Rises from a place, widens, leans with the wind and thins out.',
  settings: {
    from: set.place('From', 0.5, 0.8),
    layer: set.layer('From the edge of', 'edge'),
    amount: set.count('Puffs', 80, 1200, 4),
    rise: set.pixels('Rise', 620, 6000),
    width: set.pixels('Start width', 60, 2000, 1),
    widening: set.pixels('Widening', 260, 3000),
    wind: set.pixels('Lean', 120, 4000, -4000),
    life: { kind: 'number', name: 'Life', unit: 'frames', least: 10, most: 1200, start: 150 },
    colour: set.colour('Colour', 120, 122, 128, 0.5),
    seed: set.seed,
  },
  blend: 'normal',
  slab: true,
  moves: () => true,
  make({ from, amount, rise, width, widening, wind, life, colour, seed }, moment) {
    const list = speckList(amount);
    for (let k = 0; k < Math.round(amount); k++) {
      // Puffs follow one another evenly, each a little different.
      const { random, deep } = born(seed, k);
      const { age } = ageOf(life, k / Math.round(amount), moment);
      const spread = width + widening * age;
      const curl = 0.35 * spread * swing(life * (0.3 + 0.3 * random(0)), random(1) + age, moment);
      const [fromX, fromY] = birthplace(from, moment, random(7));
      const x = fromX + wind * age ** 1.5 + (random(2) - 0.5) * spread * 0.8 + curl;
      const y = fromY - rise * age ** 0.85 + (random(3) - 0.5) * spread * 0.4;
      const radius = spread * (0.45 + 0.35 * random(4));
      const thin = Math.min(1, age * 9) * (1 - age) ** 1.6;
      list.add(x, y, radius, radius * (0.75 + 0.25 * random(5)), random(6) * Math.PI, thin, deep);
    }
    return [{ kind: 'specks', form: 'disc', soft: 1, colour, values: list.values() }];
  },
});
