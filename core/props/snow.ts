import { born, speckList, swing, travelled } from './particles.ts';
import { defineProp, set } from './prop.ts';

export const snow = defineProp({
  id: 'snow',
  name: 'Snow',
  family: 'weather',
  purpose: 'Flakes that sink and sway, near ones larger and softer.',
  settings: {
    amount: set.count('Flakes', 700, 6000),
    speed: set.pixels('Speed', 3.2, 100),
    size: set.pixels('Size', 20, 200, 0.5),
    sway: set.pixels('Sway', 34, 600),
    wind: set.pixels('Wind', 0.8, 100, -100),
    colour: set.colour('Colour', 255, 255, 255, 0.95),
    seed: set.seed,
  },
  blend: 'normal',
  slab: true,
  moves: ({ speed, wind, sway }) => speed > 0 || wind !== 0 || sway > 0,
  make({ amount, speed, size, sway, wind, colour, seed }, moment) {
    const list = speckList(amount);
    for (let k = 0; k < Math.round(amount); k++) {
      const { random, deep, near } = born(seed, k);
      const y = travelled(speed * near * (0.7 + 0.6 * random(0)), random(1), moment.height, moment);
      const drift = travelled(wind * near, random(2), moment.width, moment);
      const x = drift + sway * near * swing(70 + 90 * random(3), random(4), moment);
      const radius = (size * near * (0.55 + 0.9 * random(5))) / 2;
      list.add(x, y, radius, radius, 0, 0.5 + 0.5 * random(6), deep);
    }
    return [{ kind: 'specks', form: 'disc', soft: 0.85, colour, values: list.values() }];
  },
});
