import { coverage, tinted } from './field.ts';
import { defineProp, set } from './prop.ts';

export const stripes = defineProp({
  id: 'stripes',
  name: 'Stripes',
  family: 'patterns',
  purpose: 'Straight stripes, or stripes that shoot out from a point.',
  settings: {
    form: { kind: 'choice', name: 'Form', options: ['straight', 'from a point'], start: 'straight' },
    step: set.pixels('Distance', 60, 2000, 2),
    count: set.count('Count from a point', 24, 400, 2),
    size: set.percent('Width', 0.5),
    angle: set.angle('Angle', 30),
    shift: set.percent('Shift', 0, 100, -100),
    middle: set.place('Point', 0.5, 0.5),
    hole: set.pixels('Hole', 0, 4000),
    colour: set.colour('Colour', 217, 154, 0),
  },
  blend: 'normal',
  moves: () => false,
  make({ form, step, count, size, angle, shift, middle, hole, colour }, moment) {
    const { width, height, raster } = moment;
    const turn = (angle * Math.PI) / 180;
    const edge = (share: number, length: number): number => {
      const off = Math.abs(share - Math.floor(share) - 0.5);
      return coverage((size / 2 - off) * length * raster);
    };
    if (form === 'straight') {
      const [ux, uy] = [Math.cos(turn), Math.sin(turn)];
      return [
        tinted(moment, 0, colour, (x, y) => edge(((x - width / 2) * ux + (y - height / 2) * uy) / step + shift, step)),
      ];
    }
    const [cx, cy] = [middle[0]! * width, middle[1]! * height];
    const rounded = Math.round(count);
    return [
      tinted(moment, 0, colour, (x, y) => {
        const far = Math.hypot(x - cx, y - cy);
        const share = ((Math.atan2(y - cy, x - cx) - turn) / (2 * Math.PI)) * rounded + shift;
        return edge(share, (2 * Math.PI * far) / rounded) * (hole > 0 ? coverage((far - hole) * raster) : 1);
      }),
    ];
  },
});
