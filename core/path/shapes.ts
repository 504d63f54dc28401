import { z } from 'zod';
import { boxBlur } from '../pixels/filters.ts';
import { makeBytes, makePlane, type Bytes, type Plane } from '../pixels/raster.ts';
import { coverageOf } from './coverage.ts';
import { flattened, pathSchema, type Path, type Point } from './path.ts';

/** How something changes what was there before it: added, taken away, or all else taken away. */
export const howSchema = z.enum(['add', 'take', 'within']);
export type How = z.infer<typeof howSchema>;

/** A filled path with its own edge. */
export const shapeSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/),
  path: pathSchema,
  how: howSchema,
  /** Width in pixels over which its edge fades. */
  feather: z.number().min(0).max(600),
  /** Pixels by which it is grown, or shrunk below 0. */
  grow: z.number().min(-200).max(200),
  opacity: z.number().min(0).max(1),
  muted: z.boolean(),
});
export type Shape = z.infer<typeof shapeSchema>;

export const plainShape = { how: 'add', feather: 0, grow: 0, opacity: 1, muted: false } as const;

/**
 * Joins two coverages as independent ones (Porter & Duff 1984): edges that meet leave no crease, and taking away what was
 * added gives nothing again.
 */
export function joined(before: number, own: number, how: How): number {
  if (how === 'add') return 1 - (1 - before) * (1 - own);
  return how === 'take' ? before * (1 - own) : before * own;
}

/** What a list that begins by taking away or by keeping within begins with: everything. */
export const startsFull = (first: How | undefined): boolean => first === 'take' || first === 'within';

/** Outlines as straight pieces; paths are looked at again and again while things are moved. */
const outlines = new WeakMap<Path, Point[]>();
const outlineOf = (path: Path): Point[] => {
  const known = outlines.get(path) ?? flattened({ ...path, closed: true }, 0.1);
  outlines.set(path, known);
  return known;
};

/** Whether a place is inside shapes with sharp edges, joined in order. */
export function isShown(shapes: readonly Shape[], x: number, y: number): boolean {
  let shown = startsFull(shapes[0]?.how);
  for (const { path, how } of shapes) {
    const inside = isInside(outlineOf(path), x, y);
    if (how === 'add') shown ||= inside;
    else shown &&= how === 'within' ? inside : !inside;
  }
  return shown;
}

/** Whether an outline winds around a place (Sunday 2001). */
function isInside(outline: readonly Point[], x: number, y: number): boolean {
  let winding = 0;
  let [x0, y0] = outline.at(-1)!;
  for (const [x1, y1] of outline) {
    if (y0 <= y !== y1 <= y) {
      const left = (x1 - x0) * (y - y0) - (x - x0) * (y1 - y0);
      if (y1 > y && left > 0) winding++;
      else if (y1 <= y && left < 0) winding--;
    }
    x0 = x1;
    y0 = y1;
  }
  return winding !== 0;
}

/** Alpha (0..255) of shapes laid over one another in order. */
export function alphaOfShapes(shapes: readonly Shape[], width: number, height: number): Bytes {
  const active = shapes.filter((shape) => !shape.muted);
  const sum = new Float32Array(width * height);
  if (startsFull(active[0]?.how)) sum.fill(1);
  for (const shape of active) {
    const { data } = edgeOf(coverageOf(shape.path, width, height), shape);
    for (let i = 0; i < sum.length; i++) sum[i] = joined(sum[i]!, data[i]! * shape.opacity, shape.how);
  }
  const alpha = makeBytes(width, height);
  for (let i = 0; i < sum.length; i++) alpha.data[i] = Math.round(sum[i]! * 255);
  return alpha;
}

/** A coverage grown and then feathered: two box blurs, close to a Gaussian whose full fade is as wide as the feather. */
function edgeOf(coverage: Plane, { path, grow, feather }: Shape): Plane {
  const grown = grow === 0 ? coverage : grownCoverage(path, coverage, grow);
  if (feather === 0) return grown;
  const radius = Math.max(1, Math.round(feather / 4));
  return boxBlur(boxBlur(grown, radius), radius);
}

/** The coverage of a path whose edge lies `pixels` further out (Euclidean, from the path itself), one pixel soft. */
export function grownCoverage(path: Path, coverage: Plane, pixels: number): Plane {
  const distance = distanceToPath(path, coverage.width, coverage.height, Math.abs(pixels) + 1);
  const out = makePlane(coverage.width, coverage.height);
  for (let i = 0; i < out.data.length; i++) {
    const signed = coverage.data[i]! >= 0.5 ? distance[i]! : -distance[i]!;
    out.data[i] = Math.max(0, Math.min(1, signed + pixels + 0.5));
  }
  return out;
}

/** Distance of every pixel's centre to a closed path, where it is below `reach`; infinite elsewhere. */
function distanceToPath(path: Path, width: number, height: number, reach: number): Float32Array {
  const squares = new Float32Array(width * height).fill(Infinity);
  const line = flattened(path);
  line.forEach((from, k) => {
    const to = line[(k + 1) % line.length]!;
    // Long edges are taken in parts, or the rectangle around a diagonal would be most of the picture.
    const parts = Math.max(1, Math.ceil(Math.hypot(to[0] - from[0], to[1] - from[1]) / 64));
    for (let n = 0; n < parts; n++) {
      const [a, b] = [n / parts, (n + 1) / parts].map((t): Point => [
        from[0] + (to[0] - from[0]) * t,
        from[1] + (to[1] - from[1]) * t,
      ]) as [Point, Point];
      nearer(squares, width, height, a, b, reach);
    }
  });
  return squares.map(Math.sqrt);
}

function nearer(squares: Float32Array, width: number, height: number, a: Point, b: Point, reach: number): void {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length2 = dx * dx + dy * dy;
  const first = (v: number): number => Math.max(0, Math.floor(v - reach));
  const last = (v: number, most: number): number => Math.min(most - 1, Math.ceil(v + reach));
  const [x0, x1] = [first(Math.min(a[0], b[0])), last(Math.max(a[0], b[0]), width)];
  for (let y = first(Math.min(a[1], b[1])); y <= last(Math.max(a[1], b[1]), height); y++) {
    for (let x = x0; x <= x1; x++) {
      const [ex, ey] = [x + 0.5 - a[0], y + 0.5 - a[1]];
      const t = length2 > 0 ? Math.max(0, Math.min(1, (ex * dx + ey * dy) / length2)) : 0;
      const square = (ex - t * dx) ** 2 + (ey - t * dy) ** 2;
      const i = y * width + x;
      if (square < squares[i]!) squares[i] = square;
    }
  }
}
