import type { Rgba } from '../pixels/raster.ts';

/** A place in a picture, in pixels. */
export type Point = readonly [number, number];

/** Pixels between samples across a line, and points of it on each side over which a profile is averaged. */
const sampleStep = 0.25;
const averaged = 4;

/** A line's edges at points of it, and which way they lie. */
interface Along {
  normals: Point[];
  edges: Edges[];
}

/** @param widest half the width, in pixels, of the widest line that is meant */
function edgesAlong(picture: Rgba, way: readonly Point[], widest: number): Along {
  const half = Math.ceil((widest + 4) / sampleStep);
  const normals = way.map((_, k) => normalAt(way, k));
  const profiles = way.map((at, k) => profileAt(picture, at, normals[k]!, half));
  return { normals, edges: way.map((_, k) => edgesOf(meanProfile(profiles, k), half)) };
}

const radiusOf = ({ left, right }: Edges): number => ((right + left) / 2) * sampleStep;

/** Half the width that most of a line has, in pixels. @param way its points, about a pixel apart */
export function usualRadius(picture: Rgba, way: readonly Point[], widest: number): number {
  return likelyRadius(edgesAlong(picture, way, widest).edges);
}

/** The median, in which counts how clearly a line is seen. */
function likelyRadius(edges: readonly Edges[]): number {
  const sorted = edges.map((edge) => ({ radius: radiusOf(edge), weight: edge.contrast ** 2 + 1e-9 }));
  sorted.sort((a, b) => a.radius - b.radius);
  let left = sorted.reduce((sum, { weight }) => sum + weight, 0) / 2;
  return (sorted.find(({ weight }) => (left -= weight) <= 0) ?? sorted.at(-1)!).radius;
}

/**
 * A line put into the middle of what it is seen to be, with half its width at every point. Where it is hardly seen, or something
 * else is seen, it goes on as it does before and after that (local regression, Cleveland 1979).
 * @param way points near its middle, about a pixel apart  @param usual half the width it has in most places
 */
export function measuredLine(
  picture: Rgba,
  way: readonly Point[],
  usual: number,
): { points: [number, number][]; radii: number[] } {
  const { normals, edges } = edgesAlong(picture, way, 2 * usual);
  const third = Math.ceil(edges.length / 3);
  const [start, end] = [likelyRadius(edges.slice(0, third)), likelyRadius(edges.slice(-third))];
  const clear = quantile(
    edges.map(({ contrast }) => contrast),
    0.6,
  );
  const middles = way.map(([x, y], k): Point => {
    const off = ((edges[k]!.right - edges[k]!.left) / 2) * sampleStep;
    return [x + normals[k]![0] * off, y + normals[k]![1] * off];
  });
  const trust = edges.map((edge, k) => {
    const tapered = start + ((end - start) * k) / edges.length;
    const odd = Math.log(Math.max(0.05, radiusOf(edge)) / Math.max(0.05, tapered)) / 0.4;
    return Math.min(1, edge.contrast / (clear + 1e-6)) ** 2 * Math.exp(-odd * odd) + 1e-6;
  });
  const [xs, ys, rs] = [middles.map(([x]) => x), middles.map(([, y]) => y), edges.map(radiusOf)];
  const reach = 6 + 2 * usual;
  const [least, most] = [thinner * Math.min(start, end), wider * Math.max(start, end)];
  return {
    points: way.map((_, k) => [regressed(xs, trust, k, reach), regressed(ys, trust, k, reach)]),
    radii: way.map((_, k) => Math.max(least, Math.min(most, regressed(rs, trust, k, 2 * reach)))),
  };
}

/** A line is nowhere this much thinner or wider than at its ends. */
const [thinner, wider] = [0.65, 1.5];

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor(share * (values.length - 1))]!;

/** Trust in the values around one that is enough to go by; the reach grows until there is as much. */
const enough = 4;
const farthest = 90;

/** What a curve of second order through the values around one says there, each counted by its trust and nearness. */
function regressed(values: readonly number[], trust: readonly number[], at: number, reach: number): number {
  let sums = sumsAround(values, trust, at, reach);
  while (sums.weight < enough && reach < farthest) {
    reach *= 1.6;
    sums = sumsAround(values, trust, at, reach);
  }
  return sums.value;
}

function sumsAround(values: readonly number[], trust: readonly number[], at: number, reach: number) {
  // Normal equations of 1, t, t^2 in t = (k - at) / reach.
  const m = [0, 0, 0, 0, 0];
  const v = [0, 0, 0];
  const [first, last] = [Math.max(0, Math.ceil(at - reach)), Math.min(values.length - 1, Math.floor(at + reach))];
  for (let k = first; k <= last; k++) {
    const t = (k - at) / reach;
    const near = 1 - Math.abs(t) ** 3;
    const weight = near ** 3 * trust[k]!;
    for (let n = 0, power = weight; n < 5; n++, power *= t) {
      m[n] = m[n]! + power;
      if (n < 3) v[n] = v[n]! + power * values[k]!;
    }
  }
  const [s0, s1, s2, s3, s4] = m as [number, number, number, number, number];
  const [v0, v1, v2] = v as [number, number, number];
  // Ridge: at ends, and where little is seen, rather level than bent.
  const [a, b] = [s2 + 1e-3 * s0, s4 + 1e-2 * s0];
  const determinant = s0 * (a * b - s3 * s3) - s1 * (s1 * b - s3 * s2) + s2 * (s1 * s3 - a * s2);
  const value = (v0 * (a * b - s3 * s3) - s1 * (v1 * b - s3 * v2) + s2 * (v1 * s3 - a * v2)) / determinant;
  return { weight: s0, value };
}

function normalAt(way: readonly Point[], k: number): Point {
  const [a, b] = [way[Math.max(0, k - 4)]!, way[Math.min(way.length - 1, k + 4)]!];
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length = Math.hypot(dx, dy) || 1;
  return [-dy / length, dx / length];
}

/** Colours across a line at one point of it, from one side to the other. */
function profileAt({ data, width, height }: Rgba, [x, y]: Point, normal: Point, half: number): Float32Array {
  const colours = new Float32Array((2 * half + 1) * 3);
  for (let n = -half; n <= half; n++) {
    const u = Math.max(0, Math.min(width - 1.001, x + normal[0] * n * sampleStep - 0.5));
    const v = Math.max(0, Math.min(height - 1.001, y + normal[1] * n * sampleStep - 0.5));
    const [left, top] = [Math.floor(u), Math.floor(v)];
    for (let c = 0; c < 3; c++) {
      const i = (top * width + left) * 4 + c;
      const upper = data[i]! + (data[i + 4]! - data[i]!) * (u - left);
      const under = i + width * 4;
      const lower = data[under]! + (data[under + 4]! - data[under]!) * (u - left);
      colours[(n + half) * 3 + c] = upper + (lower - upper) * (v - top);
    }
  }
  return colours;
}

/** Mean of the profiles near one: noise and texture of the ground go, the line stays. */
function meanProfile(profiles: readonly Float32Array[], k: number): Float32Array {
  const near = profiles.slice(Math.max(0, k - averaged), k + averaged + 1);
  const mean = new Float32Array(near[0]!.length);
  for (const colours of near) for (let i = 0; i < mean.length; i++) mean[i] = mean[i]! + colours[i]! / near.length;
  return mean;
}

/** How far, in samples, a line reaches to both sides, and how clearly it differs from what lies there. */
interface Edges {
  left: number;
  right: number;
  contrast: number;
}

/** A line reaches to where it is half of what it is in its middle and half of what lies beside it. */
function edgesOf(colours: Float32Array, half: number): Edges {
  const from = peakOf(colours, half);
  const side = (sign: 1 | -1): { reach: number; contrast: number } => {
    const apart = (n: number): number => {
      const [a, b] = [from * 3, (from + sign * n) * 3];
      return Math.hypot(
        colours[b]! - colours[a]!,
        colours[b + 1]! - colours[a + 1]!,
        colours[b + 2]! - colours[a + 2]!,
      );
    };
    const room = sign > 0 ? 2 * half - from : from;
    let most = 0;
    for (let n = 1; n <= room; n++) {
      most = Math.max(most, apart(n));
      // Past its ground: what comes then is something else.
      if (n > 4 && apart(n) < 0.8 * most) break;
    }
    for (let n = 1; n <= room; n++) {
      const [before, now] = [apart(n - 1), apart(n)];
      if (now >= most / 2) return { reach: n - 1 + (most / 2 - before) / Math.max(1e-6, now - before), contrast: most };
    }
    return { reach: room, contrast: 0 };
  };
  const [before, after] = [side(-1), side(1)];
  return {
    left: before.reach - (from - half),
    right: after.reach + (from - half),
    contrast: Math.min(before.contrast, after.contrast),
  };
}

/** Where, near the middle of a profile, it differs most from what lies on both sides. */
function peakOf(colours: Float32Array, half: number): number {
  const near = Math.round(1.5 / sampleStep);
  const out = Math.round(2 / sampleStep);
  let [best, most] = [half, -1];
  for (let n = half - near; n <= half + near; n++) {
    let bend = 0;
    for (let c = 0; c < 3; c++) {
      const at = (k: number): number => colours[Math.max(0, Math.min(2 * half, k)) * 3 + c]!;
      bend += (2 * at(n) - at(n - out) - at(n + out)) ** 2;
    }
    if (bend <= most) continue;
    most = bend;
    best = n;
  }
  return best;
}
