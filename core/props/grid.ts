import { coverage, tinted } from './field.ts';
import { defineProp, set } from './prop.ts';

export const grid = defineProp({
  id: 'grid',
  name: 'Grid',
  family: 'patterns',
  purpose: 'A locked grid of thin lines, translucent if asked.',
  settings: {
    step: set.pixels('Distance', 60, 2000, 3),
    line: set.pixels('Line', 2, 200, 0.2),
    angle: set.angle('Angle', 0),
    colour: set.colour('Colour', 68, 100, 138, 0.6),
  },
  blend: 'normal',
  moves: () => false,
  make({ step, line, angle, colour }, moment) {
    const { width, height, raster } = moment;
    const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    const off = (v: number): number => Math.abs(v / step - Math.round(v / step)) * step;
    return [
      tinted(moment, 0, colour, (x, y) => {
        const [dx, dy] = [x - width / 2, y - height / 2];
        const near = Math.min(off(dx * cos + dy * sin), off(-dx * sin + dy * cos));
        return coverage((line / 2 - near) * raster);
      }),
    ];
  },
});
