import { fbm2 } from '../../demo/marcher/noise.ts';
import { seededRandom } from '../../core/pixels/random.ts';
import { mix, type Color } from './flat-scenes.ts';
import type { ScreenKind } from './screens.ts';
import { Standing, type Point } from './standing.ts';

export const green: Color = [48, 180, 78];
export const blue: Color = [40, 66, 188];

/** As a camera brings it: light that falls unevenly, noise, and colours at half size. */
export const filmed = (name: string, screen: Color, stands: ScreenKind['stands']): ScreenKind => ({
  ...{ name, screen, stands },
  ...{ uneven: 0.3, noise: 3, jpeg: 86 },
});

export const lit = ([r, g, b]: Color, light: number): Color => [r * light, g * light, b * light];
export const inEllipse =
  (x: number, y: number, a: number, b: number) =>
  (u: number, v: number): number =>
    (Math.hypot((u - x) / a, (v - y) / b) - 1) * Math.min(a, b);

/** A head of hair with a face, seen from the side of the light: locks, and hairs that stand off by themselves. */
export function hair(colour: Color) {
  return (width: number): Standing => {
    const standing = new Standing(width);
    const random = seededRandom(41);
    const between = (a: number, b: number): number => a + (b - a) * random();
    const grown = (angle: number, length: number, bend: number, thick: number, dense: number): void => {
      const [x, y] = [0.5 + Math.cos(angle) * 0.115, 0.33 + Math.sin(angle) * 0.145];
      const tip = angle + bend;
      const middle: Point = [x + Math.cos(angle) * length * 0.6, y + Math.sin(angle) * length * 0.6];
      const end: Point = [middle[0] + Math.cos(tip) * length * 0.5, middle[1] + Math.sin(tip) * length * 0.5];
      const tone = between(0.8, 1.15);
      standing.addStrand({
        curve: [[x, y], middle, end],
        width: [thick, Math.max(0.5, thick * 0.5)],
        opacity: [dense, Math.max(0.2, dense * between(0.2, 0.7))],
        colour: (along) => lit(colour, tone * (1 + 0.18 * Math.sin(7 * along + 9 * tone))),
      });
    };
    for (let lock = 0; lock < 34; lock++) {
      const angle = between(0, 2 * Math.PI);
      const [length, bend] = [between(0.05, 0.12), between(-1.2, 1.2)];
      for (let k = 0; k < 14; k++)
        grown(angle + between(-0.09, 0.09), length * between(0.7, 1.1), bend + between(-0.2, 0.2), between(1, 2), 1);
    }
    for (let k = 0; k < 130; k++)
      grown(between(0, 2 * Math.PI), between(0.05, 0.17), between(-1.6, 1.6), between(0.5, 1.5), between(0.4, 1));
    const shade = (u: number, v: number): number => 0.8 + 0.45 * fbm2(u * 70, v * 14, 3) - 0.25 * (u - 0.4);
    standing.add(inEllipse(0.5, 0.33, 0.118, 0.148), (u, v) => lit(colour, shade(u, v)));
    standing.add(inEllipse(0.5, 0.36, 0.08, 0.105), (u, v) =>
      lit([196, 148, 122], 0.75 + 0.3 * fbm2(u * 9, v * 9, 3) - 0.4 * (u - 0.45)),
    );
    const coat = (u: number, v: number): Color => lit([70, 62, 84], 0.7 + 0.5 * fbm2(u * 40, v * 40, 4));
    standing.add((u, v) => Math.max(0.5 - v, Math.abs(u - 0.5) - 0.1 - 0.6 * (v - 0.5)), coat);
    return standing;
  };
}

/** A ring on a stand with spokes and stays of wire, one to two pixels thick. */
export function wires(colour: Color) {
  return (width: number): Standing => {
    const standing = new Standing(width);
    const [x, y, r] = [0.5, 0.28, 0.17];
    const shine = (at: number): Color => lit(colour, 0.9 + 0.3 * Math.sin(at * 11));
    const wire = (a: Point, b: Point, thick: number): void =>
      standing.addStrand({
        curve: [a, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], b],
        width: [thick, thick],
        opacity: [1, 1],
        colour: shine,
      });
    for (let k = 0; k < 18; k++) {
      const angle = (k / 18) * 2 * Math.PI + 0.07;
      wire([x, y], [x + Math.cos(angle) * r, y + Math.sin(angle) * r], 1 + (k % 3) * 0.5);
    }
    for (const foot of [0.1, 0.22, 0.36, 0.64, 0.78, 0.9]) wire([x, y + 0.16], [foot, 0.6], 1.4);
    const ring = (u: number, v: number): number => Math.abs(Math.hypot(u - x, v - y) - r) - 0.006;
    standing.add(ring, (u, v) => lit(colour, 0.8 + 0.5 * (0.6 - v) + 0.2 * Math.sin(40 * u)));
    standing.add(inEllipse(x, y, 0.02, 0.02), () => lit(colour, 0.7));
    standing.add(
      (u, v) => Math.max(Math.abs(u - 0.5) - 0.42, Math.abs(v - 0.615) - 0.02),
      () => lit(colour, 0.8),
    );
    return standing;
  };
}

/** Boxes, a disc and a bar of plain colours with hard edges, level and slanting. */
export function plain(colours: readonly [Color, Color, Color]) {
  return (width: number): Standing => {
    const standing = new Standing(width);
    const turned = (u: number, v: number): Point => [0.94 * u + 0.34 * v, 0.94 * v - 0.34 * u];
    const [a, b, c] = colours;
    standing.add(
      (u, v) => Math.max(Math.abs(u - 0.25) - 0.11, Math.abs(v - 0.36) - 0.2),
      (_, v) => lit(a, 1.15 - 0.5 * v),
    );
    standing.add(inEllipse(0.72, 0.24, 0.14, 0.14), (u, v) => lit(b, 1.2 - 0.4 * u - 0.3 * v));
    standing.add(
      (u, v) => {
        const [s, t] = turned(u - 0.62, v - 0.47);
        return Math.max(Math.abs(s) - 0.24, Math.abs(t) - 0.035);
      },
      (u, v) => mix(lit(c, 0.8), c, fbm2(u * 20, v * 20, 3)),
    );
    return standing;
  };
}

/** Hair of many colours, wires and plain things: what the key is tuned to. */
export const strandKinds: ScreenKind[] = [
  filmed('tan hair on green', green, hair([176, 132, 92])),
  filmed('blond hair on green', green, hair([214, 186, 126])),
  filmed('brown hair on blue', blue, hair([92, 60, 38])),
  filmed('red hair on green', green, hair([164, 70, 34])),
  filmed('grey hair, as bright as the green', green, hair([128, 128, 130])),
  filmed('ring with grey wires on green', green, wires([128, 128, 130])),
  filmed('ring with dark wires on blue', blue, wires([58, 56, 54])),
  filmed(
    'plain things on green',
    green,
    plain([
      [196, 60, 52],
      [216, 204, 184],
      [58, 74, 150],
    ]),
  ),
  filmed(
    'plain things on blue',
    blue,
    plain([
      [206, 176, 60],
      [150, 152, 150],
      [120, 52, 40],
    ]),
  ),
];
