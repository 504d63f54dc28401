import { born, speckList, swing, travelled } from './particles.ts';
import { defineProp, set } from './prop.ts';

export const dust = defineProp({
  id: 'dust',
  name: 'Dust in the light',
  family: 'particles',
  purpose: 'Slow specks that come into focus and out of it, as discs of light.',
  settings: {
    amount: set.count('Specks', 140, 3000),
    size: set.pixels('Size', 84, 400, 1),
    speed: set.pixels('Speed', 0.9, 60),
    direction: set.angle('Direction', -60),
    twinkle: set.percent('Twinkle', 0.7),
    colour: set.colour('Colour', 255, 232, 190, 0.5),
    seed: set.seed,
  },
  blend: 'plus-lighter',
  slab: true,
  moves: ({ speed, twinkle }) => speed > 0 || twinkle > 0,
  make({ amount, size, speed, direction, twinkle, colour, seed }, moment) {
    const [sharp, wide] = [speckList(amount), speckList(amount)];
    const [ux, uy] = [Math.cos((direction * Math.PI) / 180), Math.sin((direction * Math.PI) / 180)];
    for (let k = 0; k < Math.round(amount); k++) {
      const { random, deep, near } = born(seed, k);
      const way = speed * near * (0.4 + 1.2 * random(0));
      const x = travelled(ux * way, random(1), moment.width, moment);
      const y = travelled(uy * way, random(2), moment.height, moment);
      // The middle of the slab is in focus: what lies nearer or further is a disc.
      const off = Math.abs(deep - 0.5) * 2;
      const radius = (size * near * (0.25 + 0.75 * off) * (0.6 + 0.6 * random(3))) / 2;
      const light = 1 - twinkle * (0.5 + 0.5 * swing(50 + 120 * random(4), random(5), moment));
      const list = off > 0.45 ? wide : sharp;
      list.add(x, y, radius, radius, 0, (light * (0.9 - 0.6 * off) * (0.5 + 0.5 * random(6))) as number, deep);
    }
    return [
      { kind: 'specks', form: 'bokeh', soft: 0, colour, values: wide.values() },
      { kind: 'specks', form: 'disc', soft: 1, colour, values: sharp.values() },
    ];
  },
});
