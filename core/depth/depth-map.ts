import type { Progress } from '../pixels/progress.ts';
import { withColoursGoingOn } from '../pixels/emptiness.ts';
import { averagedTo } from '../pixels/resample.ts';
import { solvedSizeOf, spreadOverEdges } from './spread.ts';
import { type Bytes, type Plane, type Rgba } from '../pixels/raster.ts';

/** A brush stroke that says how near what it touches is: 1 nearest, 0 farthest. In picture pixels. */
export interface DepthStroke {
  closeness: number;
  radius: number;
  points: [number, number][];
}

/**
 * Closeness (0 farthest .. 1 nearest) of every pixel from a few strokes, spread over what looks alike and stopped where
 * colour changes (edge-aware diffusion: Levin, Lischinski & Weiss 2004, with bonds between neighbours only).
 * @returns a map of at most 440 pixels, with the picture's proportions
 * @throws Cancelled
 */
export async function drawnDepth(picture: Rgba, strokes: readonly DepthStroke[], progress?: Progress): Promise<Plane> {
  const { width, height, shrink } = solvedSizeOf(picture);
  const count = width * height;
  const [anchor, wanted] = [new Float32Array(count), new Float32Array(count)];
  for (const stroke of strokes) pin(stroke, shrink, width, height, anchor, wanted);
  // Without strokes of its own a place is, very weakly, in the middle.
  for (let i = 0; i < count; i++) {
    wanted[i] = wanted[i]! + 1e-6 * 0.5;
    anchor[i] = anchor[i]! + 1e-6;
  }
  return spreadOverEdges(averagedTo(withColoursGoingOn(picture), width, height), wanted, anchor, progress);
}

/** Ties everything under a stroke to its closeness; later strokes win where they cross. */
function pin(
  { closeness, radius, points }: DepthStroke,
  shrink: number,
  width: number,
  height: number,
  anchor: Float32Array,
  wanted: Float32Array,
): void {
  const r = Math.max(0.6, radius * shrink);
  points.forEach((to, k) => {
    const from = points[Math.max(0, k - 1)]!;
    const steps = Math.max(1, Math.ceil((Math.hypot(to[0] - from[0], to[1] - from[1]) * shrink) / (r / 2)));
    for (let n = 0; n <= steps; n++) {
      const x = (from[0] + ((to[0] - from[0]) * n) / steps) * shrink;
      const y = (from[1] + ((to[1] - from[1]) * n) / steps) * shrink;
      for (let v = Math.max(0, Math.floor(y - r)); v <= Math.min(height - 1, y + r); v++) {
        for (let u = Math.max(0, Math.floor(x - r)); u <= Math.min(width - 1, x + r); u++) {
          if (Math.hypot(u + 0.5 - x, v + 0.5 - y) > r) continue;
          anchor[v * width + u] = 1;
          wanted[v * width + u] = closeness;
        }
      }
    }
  });
}

const bins = 256;

/**
 * Bounds of closeness that part a map into `count` bands, nearest first, each as much of one distance as can be (natural
 * breaks: Fisher 1958, Jenks 1967, over a histogram); fewer where the map does not hold so many distances.
 */
export function bandsOf(map: Plane, count: number): number[] {
  const share = new Float64Array(bins);
  for (const v of map.data) share[Math.min(bins - 1, Math.floor(v * bins))]! += 1 / map.data.length;
  const [weight, sum, squares] = [new Float64Array(bins + 1), new Float64Array(bins + 1), new Float64Array(bins + 1)];
  for (let k = 0; k < bins; k++) {
    weight[k + 1] = weight[k]! + share[k]!;
    sum[k + 1] = sum[k]! + share[k]! * k;
    squares[k + 1] = squares[k]! + share[k]! * k * k;
  }
  /** Variance within bins [a, b), weighted by what is in them. */
  const spread = (a: number, b: number): number => {
    const w = weight[b]! - weight[a]!;
    return w <= 0 ? 0 : squares[b]! - squares[a]! - (sum[b]! - sum[a]!) ** 2 / w;
  };
  let least = Float64Array.from({ length: bins + 1 }, (_, b) => spread(0, b));
  const cuts: Int32Array[] = [];
  for (let k = 1; k < count; k++) {
    const next = new Float64Array(bins + 1);
    const cut = new Int32Array(bins + 1);
    for (let b = 0; b <= bins; b++) {
      next[b] = least[b]!;
      for (let a = 1; a < b; a++) {
        const cost = least[a]! + spread(a, b);
        if (cost < next[b]! - 1e-12) [next[b], cut[b]] = [cost, a];
      }
    }
    cuts.push(cut);
    least = next;
  }
  const bounds: number[] = [];
  for (let k = cuts.length - 1, b = bins; k >= 0; k--) {
    const a = cuts[k]![b]!;
    if (a === 0) continue;
    bounds.push(middleOfGap(share, a));
    b = a;
  }
  return bounds;
}

/** A cut in the middle of the empty bins around it, so that soft edges fall on neither side. */
function middleOfGap(share: Float64Array, cut: number): number {
  let [low, high] = [cut, cut];
  while (low > 0 && share[low - 1]! < 1e-5) low--;
  while (high < bins && share[high]! < 1e-5) high++;
  return (low + high) / 2 / bins;
}

/** Alpha (0..255) of everything at least as near as a bound, soft over `softness` of closeness. */
export function nearerThan(map: Plane, bound: number, softness = 0.04): Bytes {
  const data = new Uint8Array(map.data.length);
  for (let i = 0; i < data.length; i++) {
    const t = Math.max(0, Math.min(1, (map.data[i]! - bound) / softness + 0.5));
    data[i] = Math.round(255 * t * t * (3 - 2 * t));
  }
  return { width: map.width, height: map.height, data };
}
