import { corner, type Path, type PathPoint, type Point } from './path.ts';

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Handle length of a quarter circle of radius 1: touches the circle at its middle; off by 0.027 % at most. */
export const quarter = (4 / 3) * (Math.SQRT2 - 1);

/** An ellipse that fills a box, as four smooth points. */
export function ellipse({ x, y, width, height }: Box): Path {
  const [rx, ry] = [width / 2, height / 2];
  const [cx, cy] = [x + rx, y + ry];
  const point = (ux: number, uy: number): PathPoint => ({
    at: [cx + ux * rx, cy + uy * ry],
    in: [uy * rx * quarter, -ux * ry * quarter],
    out: [-uy * rx * quarter, ux * ry * quarter],
    smooth: true,
  });
  return { closed: true, points: [point(1, 0), point(0, 1), point(-1, 0), point(0, -1)] };
}

/** A rectangle; with a radius its corners are quarter circles. */
export function rectangle({ x, y, width, height }: Box, radius = 0): Path {
  const r = Math.min(radius, width / 2, height / 2);
  const corners: [Point, Point, Point][] = [
    [
      [x, y],
      [0, -1],
      [1, 0],
    ],
    [
      [x + width, y],
      [1, 0],
      [0, 1],
    ],
    [
      [x + width, y + height],
      [0, 1],
      [-1, 0],
    ],
    [
      [x, y + height],
      [-1, 0],
      [0, -1],
    ],
  ];
  if (r <= 0) return { closed: true, points: corners.map(([at]) => corner(at)) };
  const points = corners.flatMap(([[cx, cy], arrive, leave]): PathPoint[] => [
    {
      at: [cx - arrive[0] * r, cy - arrive[1] * r],
      in: null,
      out: [arrive[0] * r * quarter, arrive[1] * r * quarter],
      smooth: false,
    },
    {
      at: [cx + leave[0] * r, cy + leave[1] * r],
      in: [-leave[0] * r * quarter, -leave[1] * r * quarter],
      out: null,
      smooth: false,
    },
  ]);
  return { closed: true, points };
}

/** A regular polygon in the ellipse that fills a box, its first corner on top. @param sides at least 3 */
export function polygon({ x, y, width, height }: Box, sides: number): Path {
  const points = Array.from({ length: sides }, (_, k) => {
    const angle = (2 * Math.PI * k) / sides - Math.PI / 2;
    return corner([x + (width / 2) * (1 + Math.cos(angle)), y + (height / 2) * (1 + Math.sin(angle))]);
  });
  return { closed: true, points };
}
