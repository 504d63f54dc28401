import { coverage, tinted } from './field.ts';
import { defineProp, set } from './prop.ts';

export const dots = defineProp({
  id: 'dots',
  name: 'Dots',
  family: 'patterns',
  purpose: 'A locked grid of dots that fades towards an edge if asked.',
  settings: {
    step: set.pixels('Distance', 34, 800, 2),
    size: set.percent('Size', 0.55, 1.5),
    angle: set.angle('Angle', 45),
    fade: set.percent('Gets smaller downwards', 0),
    rim: set.percent('Gets smaller towards the rim', 0),
    colour: set.colour('Colour', 174, 59, 39),
  },
  blend: 'normal',
  moves: () => false,
  make({ step, size, angle, fade, rim, colour }, moment) {
    const { width, height, raster } = moment;
    const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    return [
      tinted(moment, 0, colour, (x, y) => {
        const [dx, dy] = [x - width / 2, y - height / 2];
        const u = (dx * cos + dy * sin) / step;
        const v = (-dx * sin + dy * cos) / step;
        // The middle of the dot decides how large it is, so that all of it is.
        const [iu, iv] = [Math.round(u), Math.round(v)];
        const my = (iu * sin + iv * cos) * step + height / 2;
        const mx = (iu * cos - iv * sin) * step + width / 2;
        const down = 1 - fade * Math.max(0, Math.min(1, my / height));
        const out = Math.min(1, Math.hypot((mx - width / 2) / (width / 2), (my - height / 2) / (height / 2)));
        const radius = (size / 2) * step * down * (1 - rim * out);
        if (radius <= 0) return 0;
        return coverage((radius - Math.hypot(u - iu, v - iv) * step) * raster);
      }),
    ];
  },
});
