import { fbm2 } from '../../demo/marcher/noise.ts';
import { seededRandom } from '../../core/pixels/random.ts';
import { mix, type Color } from './flat-scenes.ts';
import type { ScreenKind } from './screens.ts';
import { Standing, type Point, type Strand } from './standing.ts';
import { blue, filmed, green, inEllipse, lit } from './strand-screens.ts';

/** A strand between two points that bends a little to its side. */
function bent(a: Point, b: Point, bend: number, rest: Omit<Strand, 'curve'>): Strand {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  return { ...rest, curve: [a, [a[0] + dx / 2 - dy * bend, a[1] + dy / 2 + dx * bend], b] };
}

/** A hood of short dense fur around a face. */
function furHood(width: number): Standing {
  const standing = new Standing(width);
  const random = seededRandom(73);
  const [dark, pale]: Color[] = [
    [88, 70, 58],
    [206, 190, 166],
  ];
  standing.add(inEllipse(0.46, 0.3, 0.15, 0.19), (u, v) => mix(dark!, pale!, fbm2(u * 120, v * 120, 3)));
  for (let k = 0; k < 2600; k++) {
    const angle = random() * 2 * Math.PI;
    const root: Point = [0.46 + Math.cos(angle) * 0.146, 0.3 + Math.sin(angle) * 0.186];
    const [length, turned] = [0.012 + 0.022 * random(), angle + 0.7 * (random() - 0.4)];
    const tip: Point = [root[0] + Math.cos(turned) * length, root[1] + Math.sin(turned) * length];
    const own = mix(dark!, pale!, random());
    standing.addStrand(
      bent(root, tip, 0.2 * (random() - 0.5), {
        width: [1.2 + 0.8 * random(), 0.5],
        opacity: [0.95, 0.3],
        colour: (along) => lit(own, 0.8 + 0.4 * along),
      }),
    );
  }
  standing.add(inEllipse(0.46, 0.31, 0.085, 0.11), (u) => lit([182, 130, 104], 1.3 - 0.9 * u));
  return standing;
}

/** A net hung between two poles. */
function net(width: number): Standing {
  const standing = new Standing(width);
  const rope: Omit<Strand, 'curve'> = {
    width: [1.6, 1.6],
    opacity: [1, 1],
    colour: (along) => lit([186, 160, 112], 0.85 + 0.3 * Math.sin(60 * along)),
  };
  for (let k = 0; k <= 16; k++) {
    const x = 0.22 + 0.035 * k;
    standing.addStrand(bent([x, 0.12], [Math.min(0.78, x + 0.2), 0.52], 0.12, rope));
    standing.addStrand(bent([x, 0.12], [Math.max(0.22, x - 0.2), 0.52], -0.12, rope));
  }
  for (const x of [0.215, 0.785])
    standing.add(
      (u, v) => Math.max(Math.abs(u - x) - 0.012, 0.06 - v),
      (_, v) => lit([104, 78, 60], 1.1 - 0.5 * v),
    );
  return standing;
}

/** Dry reeds: long blades that end in nothing, and a plume on each. */
function reeds(width: number): Standing {
  const standing = new Standing(width);
  const random = seededRandom(91);
  for (let k = 0; k < 46; k++) {
    const foot: Point = [0.1 + 0.8 * random(), 0.68];
    const top: Point = [foot[0] + 0.2 * (random() - 0.5), 0.1 + 0.3 * random()];
    const straw = mix([150, 118, 70], [226, 204, 150], random());
    const colour = (along: number): Color => lit(straw, 0.75 + 0.4 * along);
    standing.addStrand(bent(foot, top, 0.1 * (random() - 0.5), { width: [2, 0.8], opacity: [1, 0.7], colour }));
    for (let barb = 0; barb < 26; barb++) {
      const root: Point = [top[0] + 0.01 * (random() - 0.5), top[1] + 0.05 * random()];
      const tip: Point = [root[0] + 0.05 * (random() - 0.5), root[1] - 0.03 * random()];
      standing.addStrand(bent(root, tip, 0.1, { width: [0.8, 0.5], opacity: [0.8, 0.25], colour }));
    }
  }
  return standing;
}

/** A white feather whose barbs let light through. */
function feather(width: number): Standing {
  const standing = new Standing(width);
  const random = seededRandom(57);
  const white = (along: number): Color => lit([222, 220, 214], 1 - 0.2 * along);
  const shaft = (t: number): Point => [0.24 + 0.54 * t, 0.52 - 0.36 * t + 0.08 * t * t];
  for (let k = 0; k < 520; k++) {
    const t = 0.12 + 0.86 * random();
    const [x, y] = shaft(t);
    const [side, length] = [k % 2 ? 1 : -1, 0.1 * Math.sin(Math.PI * t) ** 0.5];
    const tip: Point = [x + length * (0.75 + 0.1 * random()), y + side * length * (0.4 + 0.3 * random())];
    standing.addStrand(bent([x, y], tip, side * 0.15, { width: [1.1, 0.6], opacity: [0.9, 0.35], colour: white }));
  }
  standing.addStrand({ curve: [shaft(0), shaft(0.5), shaft(1)], width: [4, 1], opacity: [1, 1], colour: white });
  return standing;
}

/** Stars cut from board, dark and pale: points and notches. */
function stars(width: number): Standing {
  const standing = new Standing(width);
  const star =
    (x: number, y: number, r: number, points: number) =>
    (u: number, v: number): number => {
      const angle = Math.atan2(v - y, u - x) * points;
      return Math.hypot(u - x, v - y) - r * (0.68 + 0.32 * Math.cos(angle));
    };
  standing.add(star(0.3, 0.33, 0.2, 5), (u, v) => lit([54, 44, 60], 0.8 + 0.5 * fbm2(u * 30, v * 30, 3)));
  standing.add(star(0.7, 0.3, 0.18, 9), (u) => lit([226, 214, 190], 1.2 - 0.4 * u));
  return standing;
}

/** Only measured, never tuned to: a figure here belongs into docs/bench.md and nowhere else. */
export const heldBackScreens: ScreenKind[] = [
  filmed('fur hood on green (held back)', green, furHood),
  filmed('net on blue (held back)', blue, net),
  filmed('dry reeds on blue (held back)', blue, reeds),
  filmed('feather on green (held back)', green, feather),
  filmed('stars of board on green (held back)', green, stars),
];
