import { fbm2 } from '../demo/marcher/noise.ts';
import type { Color } from '../bench/truth/flat-scenes.ts';
import type { Point, Standing } from '../bench/truth/standing.ts';
import type { Chance } from './chance.ts';
import { addStrand, type StrandLook } from './strands.ts';

const turn = 2 * Math.PI;

/** A head, or an animal's: its middle and the halves of its axes. */
interface Head {
  x: number;
  y: number;
  a: number;
  b: number;
}

/**
 * A head of hair or of fur: locks of strands that hang together, and strands that stand off by themselves, thin and fading
 * towards their tips. What is below them is of their colour, and its middle of another.
 */
export function addHead(standing: Standing, [hair, skin, coat]: readonly [Color, Color, Color], chance: Chance): void {
  const head: Head = {
    ...{ x: chance.between(0.3, 0.7), y: chance.between(0.22, 0.44) },
    ...{ a: chance.between(0.1, 0.24), b: chance.between(0.12, 0.26) },
  };
  const over = chance.is(0.4);
  if (!over) addHair(standing, head, hair, chance);
  addSkull(standing, head, hair, skin, chance);
  if (over) addHair(standing, head, hair, chance);
  if (!chance.is(0.6)) return;
  const [top, wide] = [head.y + head.b * chance.between(0.7, 1.2), chance.between(0.3, 0.9)];
  standing.add(
    (u, v) => Math.max(top - v, Math.abs(u - head.x) - 0.1 - wide * (v - top)),
    shaded(coat, 30, 30, chance),
  );
}

function addSkull(standing: Standing, { x, y, a, b }: Head, hair: Color, skin: Color, chance: Chance): void {
  const within = (share: number) => (u: number, v: number) =>
    (Math.hypot((u - x) / (a * share), (v - y) / (b * share)) - 1) * Math.min(a, b) * share;
  standing.add(within(1.02), shaded(hair, chance.between(20, 80), chance.between(8, 30), chance));
  if (chance.is(0.6)) standing.add(within(chance.between(0.5, 0.8)), shaded(skin, 8, 8, chance));
}

/** A colour in uneven light. @param across,down waves of it in a picture's width */
function shaded([r, g, b]: Color, across: number, down: number, chance: Chance): (u: number, v: number) => Color {
  const depth = chance.between(0.1, 0.6);
  return (u, v) => {
    const light = 1 - depth / 2 + depth * fbm2(u * across, v * down, 3);
    return [r * light, g * light, b * light];
  };
}

function addHair(standing: Standing, head: Head, colour: Color, chance: Chance): void {
  const short = chance.is(0.3) ? 0.4 : 1;
  const tones = chance.between(0.08, 0.35);
  const fine = chance.between(0.5, 1.2);
  const dense: StrandLook = { wires: false, width: [fine, fine + chance.between(0.3, 1.2)], opacity: [0.8, 1], tones };
  const loose: StrandLook = {
    wires: false,
    width: [0.5, chance.between(0.8, 1.6)],
    opacity: [chance.between(0.2, 0.6), 1],
    tones,
  };
  const grown = (angle: number, length: number, bend: number, growth: StrandLook): void => {
    const root: Point = [head.x + Math.cos(angle) * head.a * 0.97, head.y + Math.sin(angle) * head.b * 0.97];
    const middle: Point = [root[0] + Math.cos(angle) * length * 0.6, root[1] + Math.sin(angle) * length * 0.6];
    const tip = angle + bend;
    const end: Point = [middle[0] + Math.cos(tip) * length * 0.5, middle[1] + Math.sin(tip) * length * 0.5];
    addStrand(standing, [root, middle, end], colour, growth, chance);
  };
  const locks = Math.floor(chance.between(8, 44));
  const each = Math.floor(chance.between(5, 16));
  for (let lock = 0; lock < locks; lock++) {
    const [angle, length, bend] = [
      chance.between(0, turn),
      short * chance.between(0.1, 0.3),
      chance.between(-1.3, 1.3),
    ];
    for (let k = 0; k < each; k++)
      grown(
        angle + chance.between(-0.1, 0.1),
        length * chance.between(0.7, 1.1),
        bend + chance.between(-0.25, 0.25),
        dense,
      );
  }
  const standingOff = Math.floor(chance.between(20, 180));
  for (let k = 0; k < standingOff; k++)
    grown(chance.between(0, turn), short * chance.between(0.1, 0.42), chance.between(-1.6, 1.6), loose);
}
