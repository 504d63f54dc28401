import { makeBytes, type Bytes } from '../pixels/raster.ts';

/** A round brush dragged along points, in picture pixels. */
export interface Stroke {
  radius: number;
  points: readonly (readonly [number, number])[];
  /** Only what hangs together with the stroke's middle, with no edge between, is marked. */
  withinEdges?: boolean | undefined;
}

/** A brush of this radius, in mask pixels, marks a pixel wherever it stands: no place is farther from the middle of one. */
export const thinnest = 0.71;

/**
 * Sets `value` wherever the stroke's brush passed. `scale` maps picture pixels to mask pixels, so that one stroke can be
 * drawn on every level of a pyramid; a brush thinner than a mask pixel still marks the pixels it passes through.
 */
export function drawStroke(mask: Bytes, stroke: Stroke, value: number, scale = 1): void {
  const radius = Math.max(thinnest, stroke.radius * scale);
  const points = stroke.points.map(([x, y]) => [x * scale - 0.5, y * scale - 0.5] as const);
  if (points.length === 1) drawCapsule(mask, points[0]!, points[0]!, radius, value);
  for (let i = 1; i < points.length; i++) drawCapsule(mask, points[i - 1]!, points[i]!, radius, value);
}

function drawCapsule(
  mask: Bytes,
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
  radius: number,
  value: number,
): void {
  const x0 = Math.max(0, Math.floor(Math.min(ax, bx) - radius));
  const x1 = Math.min(mask.width - 1, Math.ceil(Math.max(ax, bx) + radius));
  const y0 = Math.max(0, Math.floor(Math.min(ay, by) - radius));
  const y1 = Math.min(mask.height - 1, Math.ceil(Math.max(ay, by) + radius));
  const dx = bx - ax;
  const dy = by - ay;
  const length2 = dx * dx + dy * dy;
  for (let y = y0; y <= y1; y++) {
    for (let x = x0; x <= x1; x++) {
      const t = length2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0;
      const ex = x - ax - t * dx;
      const ey = y - ay - t * dy;
      if (ex * ex + ey * ey <= radius * radius) mask.data[y * mask.width + x] = value;
    }
  }
}

/** Whether a stroke's brush touches a picture of this size anywhere. */
export function strokeReaches({ radius, points }: Stroke, picture: { width: number; height: number }): boolean {
  const near = (x: number, y: number): boolean =>
    Math.hypot(x - Math.max(0, Math.min(picture.width, x)), y - Math.max(0, Math.min(picture.height, y))) < radius;
  return points.some(([x, y], k) => {
    const [u, v] = points[Math.max(0, k - 1)]!;
    // What passes over a corner between two of its points reaches it too.
    const steps = Math.max(1, Math.ceil((2 * Math.hypot(x - u, y - v)) / radius));
    return Array.from({ length: steps + 1 }, (_, n) => n / steps).some((t) => near(u + (x - u) * t, v + (y - v) * t));
  });
}

/** The same stroke measured from (x, y) as the corner. */
export function movedStroke<T extends Stroke>(
  stroke: T,
  x: number,
  y: number,
): Omit<T, 'points'> & { points: [number, number][] } {
  return { ...stroke, points: stroke.points.map(([u, v]) => [u - x, v - y]) };
}

/**
 * How much a brush covers each pixel: 1 in its middle, falling to 0 over its soft rim.
 * @param soft share of the radius that fades, 0..1
 */
export function brushWeight(picture: { width: number; height: number }, stroke: Stroke, soft: number): Float32Array {
  const { width, height } = picture;
  const weight = new Float32Array(width * height);
  const rings = Math.max(1, Math.min(24, Math.round(stroke.radius * soft)));
  const mask = makeBytes(width, height);
  for (let k = 1; k <= rings; k++) {
    const radius = stroke.radius * (1 - soft + (soft * (rings - k + 0.5)) / rings);
    drawStroke(mask, { ...stroke, radius }, k);
  }
  for (let i = 0; i < weight.length; i++) {
    const t = mask.data[i]! / rings;
    weight[i] = t * t * (3 - 2 * t);
  }
  return weight;
}
