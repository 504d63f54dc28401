import { coloured } from './field.ts';
import { defineProp, set } from './prop.ts';

/** Ghosts along the line from the lamp through the middle: where (1 is at the lamp, -1 opposite), how large, how bright, which hue. */
const ghosts = [
  [0.55, 0.05, 0.5, 0],
  [0.3, 0.025, 0.7, 1],
  [-0.18, 0.04, 0.45, 2],
  [-0.42, 0.09, 0.28, 0],
  [-0.75, 0.06, 0.4, 1],
  [-1.05, 0.17, 0.2, 2],
] as const;
const hues = [
  [255, 214, 170],
  [170, 220, 255],
  [190, 255, 200],
] as const;

export const flare = defineProp({
  id: 'flare',
  name: 'Lamp flare',
  family: 'light',
  purpose: 'The star, the glow and the row of ghosts that a bright lamp leaves in a lens.',
  settings: {
    place: set.place('Place', 0.25, 0.3),
    lamp: set.layer('Shines from', 'place'),
    hidden: { kind: 'switch', name: 'Hidden by nearer layers', start: true },
    size: set.pixels('Size', 300, 4000, 4),
    strength: set.percent('Strength', 0.9, 2),
    ghosts: set.percent('Ghosts', 0.6, 2),
    points: set.count('Points of the star', 6, 40),
    streak: set.percent('Streak', 0.5, 2),
    turn: set.angle('Turn', 12),
    colour: set.colour('Colour', 255, 224, 178),
  },
  blend: 'plus-lighter',
  moves: () => false,
  shinesFrom: ({ hidden, place }) => (hidden ? place : null),
  make({ place, size, strength: full, ghosts: shown, points, streak, turn, colour }, moment) {
    const { width, height, related, covered = 0 } = moment;
    const [cx, cy] = related?.lamp?.place ?? [place[0]! * width, place[1]! * height];
    const strength = full * (1 - covered);
    const [mx, my] = [width / 2, height / 2];
    const rings = ghosts.map(([along, share, light, hue]) => ({
      x: mx + (cx - mx) * along,
      y: my + (cy - my) * along,
      radius: share * height,
      light: light * 0.35 * shown * strength,
      hue: hues[hue],
    }));
    const rounded = Math.round(points);
    return [
      coloured(moment, 2, (x, y, out) => {
        const [dx, dy] = [x - cx, y - cy];
        const far = Math.hypot(dx, dy);
        const near = far / size;
        let light = strength * (0.9 / (1 + (near * 9) ** 2) + 0.35 * Math.max(0, 1 - near) ** 3);
        if (rounded > 0) {
          const angle = Math.atan2(dy, dx) - (turn * Math.PI) / 180;
          const arm = Math.abs(Math.cos((angle * rounded) / 2)) ** 60;
          light += strength * 0.7 * arm * Math.max(0, 1 - near / 1.3) ** 2;
        }
        light +=
          strength *
          streak *
          0.8 *
          Math.exp(-((dy / (size * 0.018)) ** 2)) *
          Math.max(0, 1 - Math.abs(dx) / (size * 3)) ** 2;
        let [r, g, b] = [light * colour[0]!, light * colour[1]!, light * colour[2]!];
        for (const ring of rings) {
          const off = Math.hypot(x - ring.x, y - ring.y) / ring.radius;
          if (off >= 1.04) continue;
          const seen = ring.light * (0.45 + 0.55 * off ** 4) * Math.min(1, (1.04 - off) / 0.06);
          r += seen * ring.hue[0];
          g += seen * ring.hue[1];
          b += seen * ring.hue[2];
        }
        const most = Math.max(r, g, b);
        // Added light: the brightest channel is the opacity, so that colours stay what they are.
        const alpha = Math.min(1, most / 255);
        const unit = alpha > 0 ? 1 / Math.max(alpha, most / 255) : 0;
        out[0] = r * unit;
        out[1] = g * unit;
        out[2] = b * unit;
        out[3] = alpha * (colour[3] ?? 1);
      }),
    ];
  },
});
