import { coverage, coloured } from './field.ts';
import { defineProp, set } from './prop.ts';

export const chequer = defineProp({
  id: 'chequer',
  name: 'Chequer',
  family: 'patterns',
  purpose: 'Squares of two colours by turns.',
  settings: {
    step: set.pixels('Size', 80, 2000, 3),
    angle: set.angle('Angle', 0),
    first: set.colour('First colour', 28, 42, 48),
    second: set.colour('Second colour', 245, 242, 235),
  },
  blend: 'normal',
  moves: () => false,
  make({ step, angle, first, second }, moment) {
    const { width, height, raster } = moment;
    const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    /** 1 within even squares, -1 within odd ones, between them in the pixels of an edge. */
    const side = (v: number): number => {
      const share = v / step - 2 * Math.floor(v / step / 2);
      const signed = share < 1 ? Math.min(share, 1 - share) : -Math.min(share - 1, 2 - share);
      return 2 * coverage(signed * step * raster) - 1;
    };
    return [
      coloured(moment, 0, (x, y, out) => {
        const [dx, dy] = [x - width / 2, y - height / 2];
        const mix = (1 + side(dx * cos + dy * sin) * side(-dx * sin + dy * cos)) / 2;
        for (let n = 0; n < 3; n++) out[n] = second[n]! + (first[n]! - second[n]!) * mix;
        out[3] = (second[3] ?? 1) + ((first[3] ?? 1) - (second[3] ?? 1)) * mix;
      }),
    ];
  },
});
