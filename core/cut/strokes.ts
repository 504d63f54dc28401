import { makeBytes, type Bytes, type Rect } from '../pixels/raster.ts';

/** A round brush dragged along points, in picture pixels. */
export interface Stroke {
  radius: number;
  points: readonly (readonly [number, number])[];
  /** Of a thin line its own radius at every point: it marks what it covers, and nothing follows from it for what lies beside. */
  radii?: number[] | undefined;
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
  const points = stroke.points.map(([x, y], k) => ({
    x: x * scale - 0.5,
    y: y * scale - 0.5,
    radius: Math.max(thinnest, (stroke.radii?.[k] ?? stroke.radius) * scale),
  }));
  if (points.length === 1) drawCapsule(mask, points[0]!, points[0]!, value);
  for (let i = 1; i < points.length; i++) drawCapsule(mask, points[i - 1]!, points[i]!, value);
}

interface End {
  x: number;
  y: number;
  radius: number;
}

function drawCapsule(mask: Bytes, a: End, b: End, value: number): void {
  const most = Math.max(a.radius, b.radius);
  const x0 = Math.max(0, Math.floor(Math.min(a.x, b.x) - most));
  const x1 = Math.min(mask.width - 1, Math.ceil(Math.max(a.x, b.x) + most));
  const y0 = Math.max(0, Math.floor(Math.min(a.y, b.y) - most));
  const y1 = Math.min(mask.height - 1, Math.ceil(Math.max(a.y, b.y) + most));
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const length2 = dx * dx + dy * dy;
  for (let y = y0; y <= y1; y++) {
    for (let x = x0; x <= x1; x++) {
      const t = length2 > 0 ? Math.max(0, Math.min(1, ((x - a.x) * dx + (y - a.y) * dy) / length2)) : 0;
      const ex = x - a.x - t * dx;
      const ey = y - a.y - t * dy;
      const radius = a.radius + (b.radius - a.radius) * t;
      if (ex * ex + ey * ey <= radius * radius) mask.data[y * mask.width + x] = value;
    }
  }
}

/** The rectangle around a stroke's points, in whole pixels of a mask; growRect makes room for the brush. */
export function boundsOfPoints({ points }: Pick<Stroke, 'points'>, scale = 1): Rect {
  const xs = points.map(([x]) => x * scale);
  const ys = points.map(([, y]) => y * scale);
  const [x, y] = [Math.floor(Math.min(...xs)), Math.floor(Math.min(...ys))];
  return { x, y, width: Math.ceil(Math.max(...xs)) - x + 1, height: Math.ceil(Math.max(...ys)) - y + 1 };
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
