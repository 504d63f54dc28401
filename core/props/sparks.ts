import { ageOf, birthplace, born, speckList, swing } from './particles.ts';
import { defineProp, set, type PropMoment } from './prop.ts';

export const sparks = defineProp({
  id: 'sparks',
  name: 'Sparks and embers',
  family: 'particles',
  purpose: 'Glowing specks that rise from a place, swirl and go out.',
  settings: {
    amount: set.count('Sparks', 220, 4000),
    from: set.place('From', 0.5, 0.95),
    layer: set.layer('From the edge of', 'edge'),
    spread: set.pixels('Spread', 760, 6000),
    rise: set.pixels('Rise', 900, 6000),
    swirl: set.pixels('Swirl', 60, 1000),
    life: { kind: 'number', name: 'Life', unit: 'frames', least: 4, most: 600, start: 70 },
    size: set.pixels('Size', 15, 100, 0.5),
    streak: set.percent('Streak', 0.35),
    hot: set.colour('Hot', 255, 226, 150),
    cool: set.colour('Cool', 255, 96, 28),
    seed: set.seed,
  },
  blend: 'plus-lighter',
  slab: true,
  moves: () => true,
  make(values, moment) {
    const [hot, cool] = [speckList(values.amount), speckList(values.amount)];
    for (let k = 0; k < Math.round(values.amount); k++) {
      const spark = at(values, k, moment);
      const before = at(values, k, { ...moment, frame: moment.frame - 1 });
      // A new one has no way behind it.
      const [dx, dy] = spark.age < 0.03 ? [0, 0] : [spark.x - before.x, spark.y - before.y];
      const length = values.streak * Math.min(80, Math.hypot(dx, dy)) * 3;
      const list = spark.age < 0.45 ? hot : cool;
      list.add(spark.x, spark.y, spark.radius + length / 2, spark.radius, Math.atan2(dy, dx), spark.light, spark.deep);
    }
    return [
      { kind: 'specks', form: 'disc', soft: 0.9, colour: values.cool, values: cool.values() },
      { kind: 'specks', form: 'disc', soft: 0.9, colour: values.hot, values: hot.values() },
    ];
  },
});

type Values = Parameters<typeof sparks.make>[0];

function at({ from, spread, rise, swirl, life, size, seed }: Values, k: number, moment: PropMoment) {
  const first = born(seed, k);
  const own = life * (0.6 + 0.8 * first.random(0));
  const { age, round } = ageOf(own, first.random(1), moment);
  // Without a loop each life goes another way.
  const { random, deep, near } = round === 0 ? first : born(seed + 7919 * round, k);
  const away = (random(2) - 0.5) * spread * (0.3 + 0.7 * age);
  const turn = swirl * near * age * swing(own * (0.5 + random(3)), random(4), moment);
  const [fromX, fromY] = birthplace(from, moment, random(9));
  // From an edge they rise where they are born; from a place they spread.
  const x = fromX + (moment.related?.layer?.edge ? away * 0.15 : away) + turn;
  const y = fromY - rise * near * (0.5 + random(5)) * (1 - (1 - age) ** 1.6);
  const light =
    Math.min(1, age * 12) * (1 - age) ** 1.3 * (0.6 + 0.4 * swing(5 + 6 * random(6), random(7), moment) ** 2);
  return { x, y, age, deep, light, radius: (size * near * (0.5 + random(8)) * (1 - 0.5 * age)) / 2 };
}
