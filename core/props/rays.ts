import { tinted } from './field.ts';
import { cloudLattices, noiseAt, passedCells } from './noise.ts';
import { defineProp, set } from './prop.ts';

export const rays = defineProp({
  id: 'rays',
  name: 'Rays of light',
  family: 'light',
  purpose: 'Beams from a place, as through leaves or a high window.',
  settings: {
    from: set.place('From', 0.3, -0.1),
    direction: set.angle('Direction', 65),
    opening: set.angle('Opening', 70),
    count: set.count('Beams', 14, 200, 1),
    length: set.percent('Length', 1.1, 4),
    strength: set.percent('Strength', 0.9),
    shimmer: set.percent('Shimmer', 0.4, 4),
    colour: set.colour('Colour', 255, 236, 196),
    seed: set.seed,
  },
  blend: 'screen',
  moves: ({ shimmer }) => shimmer > 0,
  make({ from, direction, opening, count, length, strength, shimmer, colour, seed }, moment) {
    const { width, height, frame, loop } = moment;
    const time = passedCells(frame, shimmer / 40, loop);
    const lattice = cloudLattices(seed, 4096, 1, time.cells, 1)[0]!;
    const [cx, cy] = [from[0]! * width, from[1]! * height];
    const middle = (direction * Math.PI) / 180;
    const half = Math.max(0.01, (Math.abs(opening) * Math.PI) / 360);
    const reach = length * Math.hypot(width, height);
    const z = shimmer === 0 ? 0 : time.at;
    return [
      tinted(moment, 8, colour, (x, y) => {
        const [dx, dy] = [x - cx, y - cy];
        const far = Math.hypot(dx, dy);
        const off = Math.atan2(Math.sin(Math.atan2(dy, dx) - middle), Math.cos(Math.atan2(dy, dx) - middle));
        if (Math.abs(off) >= half || far >= reach) return 0;
        const across = (off / half + 1) / 2;
        const beam =
          noiseAt(lattice, across * count * 2, 0, z) * 0.7 + noiseAt(lattice, across * count * 5 + 999, 0, z) * 0.3;
        const edge = Math.min(1, (1 - Math.abs(off) / half) * 3);
        const seen = Math.max(0, (beam - 0.35) / 0.65);
        return strength * seen * seen * edge * (1 - far / reach) ** 1.2 * Math.min(1, far / (0.05 * reach));
      }),
    ];
  },
});
