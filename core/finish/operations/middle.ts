/** A point of a picture, in pixels. */
export interface Point {
  x: number;
  y: number;
}

/** Farther away a point is taken to be no farther: turning or growing about it is as good as a shift. */
const farthest = 30_000;

/** Where a point lies among the middles of pixels, which are whole numbers. */
export function middleOf(about: Point, { width, height }: { width: number; height: number }): Point {
  const [dx, dy] = [about.x - width / 2, about.y - height / 2];
  const nearer = Math.min(1, farthest / Math.max(1, Math.hypot(dx, dy)));
  return { x: width / 2 + dx * nearer - 0.5, y: height / 2 + dy * nearer - 0.5 };
}
