import { corner, type Path, type PathPoint, type Point } from './path.ts';

export const bubbleForms = ['round', 'box', 'cloud', 'burst'] as const;
export type BubbleForm = (typeof bubbleForms)[number];

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where a tail ends, and how wide it is where it leaves the bubble, in the pixels of the box. */
export interface Tail {
  tip: Point;
  width: number;
}

/** Corners of an outline made from directions. */
const steps = 180;

/**
 * The outline of a bubble around words with a tail that ends at a point: one closed line, and the small discs that lead on
 * from a cloud. Where the point lies within the bubble there is no tail.
 * @param box of the words; the bubble keeps `padding` from it
 */
export function bubbleOutlines(box: Box, form: BubbleForm, padding: number, tail: Tail | null): Path[] {
  const middle: Point = [box.x + box.width / 2, box.y + box.height / 2];
  const half: Point = [box.width / 2 + padding, box.height / 2 + padding];
  const reach = (angle: number): number => forms[form](angle, half, padding);
  const at = (angle: number, far = reach(angle)): Point => [
    middle[0] + far * Math.cos(angle),
    middle[1] + far * Math.sin(angle),
  ];
  const angles = Array.from({ length: steps }, (_, k) => (2 * Math.PI * k) / steps - Math.PI);
  const away = tail && Math.hypot(tail.tip[0] - middle[0], tail.tip[1] - middle[1]);
  const towards = tail && Math.atan2(tail.tip[1] - middle[1], tail.tip[0] - middle[0]);
  const whole = (): Path => ({ closed: true, points: angles.map((angle) => corner(at(angle))) });
  if (!tail || away === null || towards === null || away < reach(towards) * 1.05) return [whole()];
  if (form === 'cloud') return [whole(), ...discs(at(towards), tail)];
  const wide = Math.min(0.9, Math.atan2(tail.width / 2, reach(towards)));
  const outside = angles.filter((angle) => Math.abs(turnBetween(angle, towards)) > wide);
  // Beginning just after the tail, so that it stands between the last and the first.
  const begin = outside.findIndex(
    (angle, k) => k > 0 && turnBetween(outside[k - 1]!, towards) < 0 && turnBetween(angle, towards) > 0,
  );
  const ordered = begin > 0 ? [...outside.slice(begin), ...outside.slice(0, begin)] : outside;
  const [from, to] = [at(towards - wide), at(towards + wide)];
  return [
    { closed: true, points: [...ordered.map((angle) => corner(at(angle))), ...pointed(from, tail.tip, to, middle)] },
  ];
}

/** How far a bubble reaches into a direction from its middle. */
const forms: Record<BubbleForm, (angle: number, half: Point, padding: number) => number> = {
  // Between an ellipse and a rectangle, so that corners of the words are not cut.
  round: (angle, [w, h]) => superellipse(angle, w * 1.08, h * 1.08, 2.7),
  box: (angle, [w, h], padding) => roundedBox(angle, w, h, Math.min(padding * 0.8, w, h)),
  cloud: (angle, [w, h]) => {
    const bumps = Math.max(7, Math.round(((w + h) / Math.max(1, Math.min(w, h))) * 3.2));
    return superellipse(angle, w * 1.12, h * 1.14, 2.3) * (0.94 + 0.1 * Math.abs(Math.sin((angle * bumps) / 2)));
  },
  burst: (angle, [w, h]) => {
    const spikes = 22;
    const place = ((((angle / (2 * Math.PI)) * spikes) % 1) + 1) % 1;
    const spike = 1 - Math.abs(2 * place - 1);
    return superellipse(angle, w * 1.1, h * 1.12, 2.2) * (1 + 0.22 * spike);
  },
};

function superellipse(angle: number, w: number, h: number, power: number): number {
  const [c, s] = [Math.abs(Math.cos(angle)) / w, Math.abs(Math.sin(angle)) / h];
  return (c ** power + s ** power) ** (-1 / power);
}

function roundedBox(angle: number, w: number, h: number, radius: number): number {
  const [c, s] = [Math.abs(Math.cos(angle)), Math.abs(Math.sin(angle))];
  const flat = Math.min(c > 0 ? w / c : Infinity, s > 0 ? h / s : Infinity);
  const [x, y] = [flat * c, flat * s];
  const [cx, cy] = [w - radius, h - radius];
  if (x <= cx || y <= cy) return flat;
  // The ray meets the corner's circle instead: the larger root of |t (c, s) - centre| = radius.
  const along = c * cx + s * cy;
  return along + Math.sqrt(Math.max(0, along * along - (cx * cx + cy * cy - radius * radius)));
}

/** The way from one direction to another, -pi..pi. */
function turnBetween(angle: number, other: number): number {
  const turn = (angle - other) % (2 * Math.PI);
  return turn > Math.PI ? turn - 2 * Math.PI : turn < -Math.PI ? turn + 2 * Math.PI : turn;
}

/** Two sides that swing to a point, bent the same way. */
function pointed(from: Point, tip: Point, to: Point, middle: Point): PathPoint[] {
  const root: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  const side = Math.sign((tip[0] - middle[0]) * (tip[1] - middle[1])) || 1;
  const [dx, dy] = [tip[0] - root[0], tip[1] - root[1]];
  const bend: Point = [dx * 0.45 - side * dy * 0.12, dy * 0.45 + side * dx * 0.12];
  const back: Point = [bend[0] - dx, bend[1] - dy];
  return [
    { at: from, in: null, out: bend, smooth: false },
    { at: tip, in: [back[0] * 0.5, back[1] * 0.5], out: [back[0] * 0.5, back[1] * 0.5], smooth: false },
    { at: to, in: bend, out: null, smooth: false },
  ];
}

/** Discs that get smaller on the way from the bubble to a point. */
function discs(from: Point, { tip, width }: Tail): Path[] {
  return [0.22, 0.56, 0.86].map((share, k) => {
    const [x, y] = [from[0] + (tip[0] - from[0]) * share, from[1] + (tip[1] - from[1]) * share];
    const radius = (width / 2) * (0.62 - 0.19 * k);
    return {
      closed: true,
      points: Array.from({ length: 24 }, (_, n) => {
        const angle = (2 * Math.PI * n) / 24;
        return corner([x + radius * Math.cos(angle), y + radius * Math.sin(angle)]);
      }),
    };
  });
}
