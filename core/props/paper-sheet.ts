import { coloured } from './field.ts';
import { cloudAt, cloudLattices } from './noise.ts';
import { defineProp, set } from './prop.ts';

export const paperSheet = defineProp({
  id: 'paper-sheet',
  name: 'Paper',
  family: 'patterns',
  purpose: 'A sheet of paper with fibres and a little shade, to lie under things.',
  settings: {
    grain: set.percent('Grain', 0.35),
    size: set.pixels('Grain size', 7, 100, 1),
    shade: set.percent('Shade', 0.3),
    colour: set.colour('Colour', 238, 229, 206),
    seed: set.seed,
  },
  blend: 'normal',
  moves: () => false,
  make({ grain, size, shade, colour, seed }, moment) {
    const { width, height } = moment;
    const fine = cloudLattices(seed, 64, 64, 1, 3);
    const wide = cloudLattices(seed + 9, 4, 3, 1, 3);
    return [
      coloured(moment, 1, (x, y, out) => {
        const fibre = cloudAt(fine, x / size / 1.6, y / size, 0.5) - 0.5;
        const light =
          1 + grain * 0.42 * fibre - shade * 0.3 * (cloudAt(wide, (x / width) * 4, (y / height) * 3, 0.5) - 0.4);
        for (let n = 0; n < 3; n++) out[n] = colour[n]! * light;
        out[3] = colour[3] ?? 1;
      }),
    ];
  },
});
