import { tinted } from './field.ts';
import { defineProp, set } from './prop.ts';

export const lamp = defineProp({
  id: 'lamp',
  name: 'Lamp glow',
  family: 'light',
  purpose: 'A soft glow round a lamp, without bands.',
  settings: {
    place: set.place('Place', 0.5, 0.5),
    size: set.pixels('Size', 520, 6000, 2),
    strength: set.percent('Strength', 0.8),
    falloff: set.percent('Falloff', 0.5),
    colour: set.colour('Colour', 255, 190, 104),
  },
  blend: 'plus-lighter',
  moves: () => false,
  make({ place, size, strength, falloff, colour }, moment) {
    const [cx, cy] = [place[0]! * moment.width, place[1]! * moment.height];
    const power = 1 + 5 * falloff;
    return [
      tinted(moment, 2, colour, (x, y) => {
        const near = 1 - Math.min(1, Math.hypot(x - cx, y - cy) / size);
        return strength * near ** power * near * near * (3 - 2 * near);
      }),
    ];
  },
});
