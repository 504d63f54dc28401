import { born, speckList, travelled } from './particles.ts';
import { defineProp, set } from './prop.ts';

export const rain = defineProp({
  id: 'rain',
  name: 'Rain',
  family: 'weather',
  purpose: 'Falling drops as streaks, near ones larger and faster.',
  settings: {
    amount: set.count('Drops', 900, 6000),
    speed: set.pixels('Speed', 34, 300),
    length: set.pixels('Length', 110, 600, 1),
    thickness: set.pixels('Thickness', 5, 40, 0.2),
    slant: set.angle('Slant', 8),
    colour: set.colour('Colour', 220, 230, 242, 0.8),
    seed: set.seed,
  },
  blend: 'screen',
  slab: true,
  moves: ({ speed }) => speed > 0,
  make({ amount, speed, length, thickness, slant, colour, seed }, moment) {
    const list = speckList(amount);
    const turn = ((90 + slant) * Math.PI) / 180;
    const side = -Math.tan((slant * Math.PI) / 180);
    for (let k = 0; k < Math.round(amount); k++) {
      const { random, deep, near } = born(seed, k);
      const way = speed * near * (0.85 + 0.3 * random(0));
      const y = travelled(way, random(1), moment.height, moment);
      // Sideways as far as it has fallen since it came in, so that its way is a straight line.
      const x = random(2) * moment.width * 1.24 - 0.12 * moment.width + side * (y - moment.height / 2);
      list.add(x, y, (length * near) / 2, (thickness * near) / 2, turn, 0.35 + 0.65 * near, deep);
    }
    return [{ kind: 'specks', form: 'disc', soft: 0.7, colour, values: list.values() }];
  },
});
