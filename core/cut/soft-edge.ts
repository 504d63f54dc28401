import { makeBytes, type Bytes, type Plane } from '../pixels/raster.ts';

/** How sure colours outside a mask must be to show a soft edge. */
const leastCertainty = 0.7;
/** How much of the subject they hold at least: right beside the boundary, where a shadow or an odd pebble holds less, and on. */
const [nearAlpha, farAlpha] = [0.3, 0.08];

/**
 * The pixels of edges that are softer than a lens makes them: glows, smoke, motion. An opaque thing leaves the ground beside it
 * as it is, so a soft edge shows in the ground: through pixels outside that surely hold some of the subject's colour. As far
 * as they reach outwards from a part of the boundary, the edge is taken to reach inwards too.
 * @param alpha,certainty of colours between far inside and far outside, 0..1  @param least pixels from the boundary that a
 * sharp edge may reach  @param most pixels from the boundary that any may
 * @returns 1 in such an edge; null where there is none
 */
export function softEdgeOf(mask: Bytes, alpha: Plane, certainty: Plane, least: number, most: number): Bytes | null {
  const reach = new Map<number, number>();
  const outside = grownFrom(mask, 0, most, (i, origin, depth) => {
    if (certainty.data[i]! < leastCertainty || alpha.data[i]! < (depth <= least ? nearAlpha : farAlpha)) return false;
    reach.set(origin, Math.max(reach.get(origin) ?? 0, depth));
    return true;
  });
  const soft = makeBytes(mask.width, mask.height);
  let any = false;
  const take = (pixels: Iterable<readonly [number, number]>): void => {
    for (const [i, origin] of pixels) {
      if ((reach.get(origin) ?? 0) <= least) continue;
      soft.data[i] = 1;
      any = true;
    }
  };
  take(outside);
  if (!any) return null;
  const partner = nearestReached(mask, reach, least);
  take(
    grownFrom(mask, 1, most, (_, origin, depth) => {
      const own = partner.get(origin);
      if (own === undefined) return false;
      reach.set(origin, own);
      return depth <= own;
    }),
  );
  return soft;
}

type Visit = (pixel: number, origin: number, depth: number) => boolean;

/**
 * Pixels of one side of the mask, ring by ring from the boundary inwards, each with the boundary pixel it was reached from.
 * @param visit says whether a pixel belongs and may carry on
 */
function grownFrom(mask: Bytes, side: 0 | 1, most: number, visit: Visit): Map<number, number> {
  const { width, height, data } = mask;
  const origins = new Map<number, number>();
  let ring: [number, number][] = [];
  for (let i = 0; i < data.length; i++) {
    if (data[i] !== side || !touches(mask, i, 1 - side) || !visit(i, i, 1)) continue;
    origins.set(i, i);
    ring.push([i, i]);
  }
  for (let depth = 2; depth <= most && ring.length > 0; depth++) {
    const next: [number, number][] = [];
    for (const [i, origin] of ring) {
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i, i - width, i + width]) {
        if (j < 0 || j >= width * height || data[j] !== side || origins.has(j) || !visit(j, origin, depth)) continue;
        origins.set(j, origin);
        next.push([j, origin]);
      }
    }
    ring = next;
  }
  return origins;
}

/** For every boundary pixel inside, how far the edge reaches from the outer boundary pixels beside it. */
function nearestReached(
  { width, height, data }: Bytes,
  reach: Map<number, number>,
  least: number,
): Map<number, number> {
  const found = new Map<number, number>();
  for (const [origin, depth] of reach) {
    if (depth <= least) continue;
    const [x, y] = [origin % width, Math.floor(origin / width)];
    for (let v = Math.max(0, y - 2); v <= Math.min(height - 1, y + 2); v++) {
      for (let u = Math.max(0, x - 2); u <= Math.min(width - 1, x + 2); u++) {
        const i = v * width + u;
        if (data[i] === 1) found.set(i, Math.max(found.get(i) ?? 0, depth));
      }
    }
  }
  return found;
}

function touches({ width, height, data }: Bytes, i: number, value: number): boolean {
  const x = i % width;
  return (
    (x > 0 && data[i - 1] === value) ||
    (x + 1 < width && data[i + 1] === value) ||
    (i >= width && data[i - width] === value) ||
    (i + width < width * height && data[i + width] === value)
  );
}
