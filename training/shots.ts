import { fbm2 } from '../demo/marcher/noise.ts';
import { screenDistance } from '../core/key/screen.ts';
import type { Color } from '../bench/truth/flat-scenes.ts';
import { screenShot, type ScreenShot } from '../bench/truth/screens.ts';
import { Standing, type Point } from '../bench/truth/standing.ts';
import { Chance } from './chance.ts';
import { addHead } from './heads.ts';
import { addStrand, type StrandLook } from './strands.ts';

/** Pixels across a shot: small, so that many unlike ones fit into the same time. */
export const shotWidth = 480;
const turn = 2 * Math.PI;
/** Share of the shots that are heads of hair. */
const heads = 0.4;

const screens: readonly { share: number; color: Color; reach: number }[] = [
  { share: 0.45, color: [44, 172, 74], reach: 26 },
  { share: 0.8, color: [42, 70, 184], reach: 26 },
  { share: 0.88, color: [196, 48, 160], reach: 24 },
  { share: 0.93, color: [190, 52, 44], reach: 20 },
  { share: 1, color: [200, 200, 200], reach: 6 },
];
const ofPeopleAndThings: readonly Color[] = [
  ...([
    [176, 132, 92],
    [214, 186, 126],
    [92, 60, 38],
    [164, 70, 34],
    [128, 128, 130],
  ] as const),
  ...([
    [40, 36, 36],
    [220, 216, 208],
    [196, 148, 122],
    [120, 90, 70],
    [80, 84, 100],
  ] as const),
].map(([r, g, b]) => [r, g, b]);
/** Distance to the screen below which nobody would stand something before it. */
const leastDistance = 42;

function materialBefore(screen: Color, chance: Chance): Color {
  for (let tries = 0; tries < 50; tries++) {
    const any = (): number => chance.between(10, 245);
    const color: Color = chance.is(0.6) ? chance.near(chance.of(ofPeopleAndThings), 30) : [any(), any(), any()];
    if (screenDistance(color, screen) > leastDistance) return color;
  }
  return screen[0] > 150 ? [40, 44, 60] : [200, 190, 180];
}

interface Body {
  x: number;
  y: number;
  /** Half of its sides. */
  a: number;
  b: number;
  angle: number;
  material: Color;
}

/** A rounded or angular thing, with texture or plain, its edge sharp or out of focus, with or without a hole. */
function addBody(standing: Standing, { x, y, a, b, angle, material }: Body, chance: Chance): void {
  const [across, down] = [chance.between(8, 90), chance.between(8, 90)];
  const depth = chance.between(0, 0.5) * chance.between(0, 1);
  const angular = chance.is(0.4);
  const soft = chance.is(0.2) ? chance.between(1, 6) : 1;
  const hole = chance.is(0.25) ? chance.between(0.3, 0.8) : 0;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const edge = (u: number, v: number): number => {
    const p = (cos * (u - x) + sin * (v - y)) / a;
    const q = (cos * (v - y) - sin * (u - x)) / b;
    const side = Math.min(a, b);
    const out = angular ? Math.max((Math.abs(p) - 1) * a, (Math.abs(q) - 1) * b) : (Math.hypot(p, q) - 1) * side;
    return Math.max(out, hole > 0 ? (hole - Math.hypot(p, q)) * side : -1) / soft;
  };
  standing.add(edge, (u, v) => {
    const light = 1 - depth / 2 + depth * fbm2(u * across, v * down, 3);
    return [material[0] * light, material[1] * light, material[2] * light];
  });
}

/** What grows on the bodies of a shot. */
interface Growth extends StrandLook {
  count: number;
  /** Whether many grow side by side. */
  locks: boolean;
}

function growthOf(chance: Chance): Growth {
  const kind = chance.between(0, 1);
  const wires = kind > 0.85;
  const widths: readonly (readonly [number, number])[] = wires
    ? [
        [1, 1.6],
        [1.5, 4],
      ]
    : [
        [0.5, 2],
        [0.5, 2],
        [0.5, 1.2],
        [1, 3],
        [1.5, 4],
      ];
  return {
    count: kind < 0.4 ? 0 : Math.floor(chance.between(20, wires ? 80 : 420)),
    wires,
    width: chance.of(widths),
    opacity: wires
      ? [1, 1]
      : chance.of([
          [1, 1],
          [1, 1],
          [0.4, 1],
          [0.2, 0.8],
        ] as const),
    tones: chance.between(0.05, 0.4),
    locks: chance.is(0.6),
  };
}

/** @param material theirs, where it is not that of what they grow on */
function addStrands(
  standing: Standing,
  bodies: readonly Body[],
  material: Color | null,
  growth: Growth,
  chance: Chance,
): void {
  const lockOf = () => ({
    angle: chance.between(0, turn),
    length: chance.between(0.04, 0.2),
    bend: growth.wires ? 0 : chance.between(-1.3, 1.3),
    free: chance.is(0.2),
  });
  let lock = lockOf();
  for (let k = 0; k < growth.count; k++) {
    if (!growth.locks || k % 12 === 0) lock = lockOf();
    const body = chance.of(bodies);
    const angle = lock.angle + (growth.locks ? chance.between(-0.12, 0.12) : 0);
    const length = lock.length * chance.between(0.7, 1.2);
    const tip = angle + lock.bend + (growth.wires ? 0 : chance.between(-0.25, 0.25));
    const root: Point = lock.free
      ? [chance.between(0, 1), chance.between(0, 0.66)]
      : [body.x + Math.cos(angle) * body.a * 0.9, body.y + Math.sin(angle) * body.b * 0.9];
    const middle: Point = [root[0] + Math.cos(angle) * length * 0.6, root[1] + Math.sin(angle) * length * 0.6];
    const end: Point = [middle[0] + Math.cos(tip) * length * 0.5, middle[1] + Math.sin(tip) * length * 0.5];
    addStrand(standing, [root, middle, end], material ?? body.material, growth, chance);
  }
}

/** A band of haze or cloth that light comes through. */
function addVeil(standing: Standing, material: Color, chance: Chance): void {
  const [x, y] = [chance.between(0.2, 0.8), chance.between(0.1, 0.5)];
  const veil = chance.between(0.2, 0.7);
  standing.addStrand({
    curve: [
      [x, y],
      [x + 0.1, y + 0.05],
      [x + 0.2, y],
    ],
    width: [60, 40],
    opacity: [veil, veil / 2],
    colour: () => material,
  });
}

function standingBefore(screen: Color, chance: Chance): (width: number) => Standing {
  return (width) => {
    const standing = new Standing(width);
    const materials = [0, 1, 2].map(() => materialBefore(screen, chance));
    if (chance.is(heads)) {
      addHead(standing, [materials[0]!, materials[1]!, materials[2]!], chance);
      if (chance.is(0.35)) standing.blur(chance.between(0.3, 0.9));
      return standing;
    }
    const growth = growthOf(chance);
    const count = growth.count === 0 ? Math.floor(chance.between(2, 6)) : Math.floor(chance.between(1, 4));
    const half = (): number => chance.between(0.03, 0.17);
    const bodies = Array.from({ length: count }, (): Body => ({
      ...{ x: chance.between(0.15, 0.85), y: chance.between(0.1, 0.56), a: half(), b: half() },
      ...{ angle: chance.between(0, Math.PI), material: chance.of(materials) },
    }));
    // Hair is seldom of the colour of a face, and reeds stand before a screen with nothing whole beside them.
    const own = chance.is(0.4) ? chance.of(materials) : null;
    const bare = growth.count > 0 && chance.is(0.15);
    const strandsOver = chance.is(0.5);
    if (strandsOver && !bare) for (const body of bodies) addBody(standing, body, chance);
    addStrands(standing, bodies, own, growth, chance);
    if (!strandsOver && !bare) for (const body of bodies) addBody(standing, body, chance);
    if (chance.is(0.15)) addVeil(standing, chance.of(materials), chance);
    if (chance.is(0.35)) standing.blur(chance.between(0.3, 0.9));
    return standing;
  };
}

/** A shot before a screen as chance will have it: the same for the same number. */
export function chanceShot(number: number): Promise<ScreenShot> {
  const chance = new Chance(number);
  const which = chance.between(0, 1);
  const kind = screens.find(({ share }) => which <= share)!;
  const light = chance.between(0.6, 1.1);
  const screen = chance.near(kind.color, kind.reach).map((v) => Math.min(240, v * light)) as Color;
  return screenShot(
    {
      name: `chance ${number}`,
      stands: standingBefore(screen, chance),
      screen,
      uneven: chance.between(0.05, 0.5),
      noise: chance.between(0, 6) * chance.between(0, 1),
      jpeg: Math.round(chance.between(72, 97)),
    },
    shotWidth,
  );
}
