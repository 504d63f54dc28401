import { cropRgba, growRect, makeBytes, type Bytes, type Rgba } from '../pixels/raster.ts';
import { halve } from '../pixels/resample.ts';
import { measuredLine, usualRadius, type Point } from './line-profile.ts';
import { ridgesOf, type Ridges } from './ridges.ts';
import { boundsOfPoints, drawStroke } from './strokes.ts';

/** A thin thing: its middle line, and half its width at each point of it; picture pixels. */
export interface ThinLine {
  points: [number, number][];
  radii: number[];
}

/** Longer ways are found in a copy half as large first. */
const longest = 600;
/** Pixels on each side of a way found in a smaller copy in which it is looked for again. */
const beside = 5;
/** Pixels from one point of a line that is measured to the next. */
const pieceLength = 1;

/**
 * The thin line that leads from the first of some points to the last, past those between, with its true width: the cheapest way
 * along ridges of the picture (minimal paths, Cohen & Kimmel 1997), put into the middle of the line's profile and as wide as
 * that is at half its contrast.
 * @param way at least two places of the picture, as a hand points at them
 * @param widest half width in pixels of the widest line that is meant
 * @returns null where both ends are the same place
 */
export function thinLine(picture: Rgba, way: readonly Point[], widest: number): ThinLine | null {
  const reach = reachOf(way, widest);
  const area = growRect(
    boundsOfPoints({ points: way }),
    Math.ceil(reach + 8 * widest + 8),
    picture.width,
    picture.height,
  );
  const moved = way.map(([x, y]): Point => [x - area.x, y - area.y]);
  const line = lineIn(cropRgba(picture, area), moved, reach, widest);
  return line && { ...line, points: line.points.map(([x, y]) => [hundredths(x + area.x), hundredths(y + area.y)]) };
}

const hundredths = (value: number): number => Math.round(value * 100) / 100;

/** The same in a part of the picture that holds all of the way. */
function lineIn(picture: Rgba, way: readonly Point[], reach: number, widest: number): ThinLine | null {
  const first = middleLine(picture, way, reach, [0, widest]);
  if (first.length < 2) return null;
  // Most of the line says how wide it is; what is much wider or thinner, beside it, is not the line.
  const usual = usualRadius(picture, evenly(first, pieceLength, 1.5), widest);
  const near = thinnedOut(way, first);
  const again = middleLine(picture, near, 3 * widest + 4, [usual * 0.6, usual * 1.6]);
  if (again.length < 2) return null;
  // Measured twice: from its middle a line is measured best.
  const rough = measuredLine(picture, evenly(again, pieceLength, usual), usual);
  const { points, radii } = measuredLine(picture, evenly(rough.points, pieceLength, 0), usual);
  return simplified(
    points,
    radii.map((radius) => Math.max(0.5, Math.min(widest, radius))),
  );
}

/** A way with the ends of another one, in fewer points. */
const thinnedOut = (ends: readonly Point[], way: readonly Point[]): Point[] => [
  ends[0]!,
  ...way.slice(8, -8).filter((_, k) => k % 8 === 0),
  ends.at(-1)!,
];

/** How far from the way that was pointed at a line may run: between two places it may hang or bend, a drawn way is followed closely. */
function reachOf(way: readonly Point[], widest: number): number {
  if (way.length > 2) return 2 * widest + 6;
  const [[ax, ay], [bx, by]] = [way[0]!, way.at(-1)!];
  return Math.max(2 * widest + 8, 0.15 * Math.hypot(bx - ax, by - ay));
}

type Radii = readonly [thinnest: number, widest: number];

/** The way along ridges, through the middles of pixels. */
function middleLine(picture: Rgba, way: readonly Point[], reach: number, radii: Radii): Point[] {
  if (lengthOf(way) > longest && Math.min(picture.width, picture.height) > 64) {
    const half = way.map(([x, y]): Point => [x / 2, y / 2]);
    const rough = middleLine(halve(cropEven(picture)), half, reach / 2, [radii[0] / 2, Math.max(1, radii[1] / 2)]);
    return stepwise(
      picture,
      rough.map(([x, y]): Point => [x * 2, y * 2]),
      beside + radii[1] / 4,
      radii,
    );
  }
  return stepwise(picture, way, reach, radii);
}

/** The picture without an odd last row and column, so that its half has whole pixels. */
const cropEven = (picture: Rgba): Rgba =>
  picture.width % 2 || picture.height % 2
    ? cropRgba(picture, { x: 0, y: 0, width: picture.width & ~1, height: picture.height & ~1 })
    : picture;

const lengthOf = (way: readonly Point[]): number =>
  way.slice(1).reduce((sum, [x, y], k) => sum + Math.hypot(x - way[k]![0], y - way[k]![1]), 0);

/** The cheapest way through the part of a picture within `reach` of another. */
function stepwise(picture: Rgba, way: readonly Point[], reach: number, radii: Radii): Point[] {
  const area = growRect(
    boundsOfPoints({ points: way }),
    Math.ceil(reach + 4 * radii[1] + 6),
    picture.width,
    picture.height,
  );
  const ridges = ridgesOf(cropRgba(picture, area), radii);
  const moved = way.map(([x, y]): Point => [x - area.x, y - area.y]);
  const open = makeBytes(area.width, area.height);
  drawStroke(open, { radius: reach, points: moved }, 1);
  const [from, to] = [moved[0]!, moved.at(-1)!].map((at) => onRidge(at, Math.max(2, radii[1]), ridges, open)) as [
    number,
    number,
  ];
  return cheapest(ridges, open, from, to).map((i): Point => [
    area.x + (i % ridges.width) + 0.5,
    area.y + Math.floor(i / ridges.width) + 0.5,
  ]);
}

/** The pixel of a ridge that is meant by a place: strong and near. */
function onRidge([x, y]: Point, reach: number, { width, height, strength }: Ridges, open: Bytes): number {
  const clamp = (v: number, most: number): number => Math.max(0, Math.min(most - 1, Math.floor(v)));
  let best = clamp(y, height) * width + clamp(x, width);
  let most = -Infinity;
  for (let v = clamp(y - reach, height); v <= clamp(y + reach, height); v++)
    for (let u = clamp(x - reach, width); u <= clamp(x + reach, width); u++) {
      const away = Math.hypot(u + 0.5 - x, v + 0.5 - y);
      const value = strength[v * width + u]! - away / reach;
      if (away > reach || !open.data[v * width + u] || value <= most) continue;
      most = value;
      best = v * width + u;
    }
  return best;
}

const steps = [-1, 0, 1, -1, 1, -1, 0, 1].map((dx, k) => ({ dx, dy: [-1, -1, -1, 0, 0, 1, 1, 1][k]! }));
/** Costs are whole numbers below this, so that waiting pixels are kept in a ring of buckets. */
const mostCost = 160;

/** Dijkstra's algorithm over neighbouring pixels, where going along a ridge costs little. */
function cheapest({ width, height, strength, across }: Ridges, open: Bytes, from: number, to: number): number[] {
  const cost = new Int32Array(width * height).fill(-1);
  const back = new Int8Array(width * height).fill(-1);
  const buckets: number[][] = Array.from({ length: mostCost }, () => []);
  cost[from] = 0;
  buckets[0]!.push(from);
  let waiting = 1;
  for (let level = 0; waiting > 0; level++) {
    const bucket = buckets[level % mostCost]!;
    while (bucket.length > 0) {
      const i = bucket.pop()!;
      waiting--;
      if (cost[i] !== level) continue;
      if (i === to) return wayBack(back, width, to);
      for (let k = 0; k < 8; k++) {
        const { dx, dy } = steps[k]!;
        const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy];
        if (x < 0 || y < 0 || x >= width || y >= height) continue;
        const j = y * width + x;
        if (!open.data[j]) continue;
        const length = dx !== 0 && dy !== 0 ? Math.SQRT2 : 1;
        const aside = Math.abs(dx * across[2 * j]! + dy * across[2 * j + 1]!) / length;
        const off = 1 - strength[j]!;
        const next = level + Math.max(1, Math.round(length * (3 + 80 * off * off + 25 * aside * strength[j]!)));
        if (cost[j]! >= 0 && cost[j]! <= next) continue;
        cost[j] = next;
        back[j] = k;
        buckets[next % mostCost]!.push(j);
        waiting++;
      }
    }
  }
  return [from];
}

function wayBack(back: Int8Array, width: number, to: number): number[] {
  const way = [to];
  for (let i = to; back[i]! >= 0;) {
    const { dx, dy } = steps[back[i]!]!;
    i -= dy * width + dx;
    way.push(i);
  }
  return way.reverse();
}

/** A smoother line through a way, its points equally far apart; its ends stay. @param radius of the line: a wide one bends less */
function evenly(way: readonly Point[], apart: number, radius: number): Point[] {
  const smooth = way.map((_, k): Point => {
    const reach = Math.min(Math.round(2 + 1.5 * radius), k, way.length - 1 - k);
    let [x, y] = [0, 0];
    for (let n = k - reach; n <= k + reach; n++) [x, y] = [x + way[n]![0], y + way[n]![1]];
    return [x / (2 * reach + 1), y / (2 * reach + 1)];
  });
  const out: Point[] = [smooth[0]!];
  for (let k = 1, left = apart; k < smooth.length; k++) {
    let at = smooth[k - 1]!;
    let rest = Math.hypot(smooth[k]![0] - at[0], smooth[k]![1] - at[1]);
    while (rest >= left && rest > 0) {
      at = [at[0] + ((smooth[k]![0] - at[0]) * left) / rest, at[1] + ((smooth[k]![1] - at[1]) * left) / rest];
      out.push(at);
      rest -= left;
      left = apart;
    }
    left -= rest;
  }
  const last = smooth.at(-1)!;
  const end = out.at(-1)!;
  return Math.hypot(last[0] - end[0], last[1] - end[1]) > 0.3 ? [...out, last] : out;
}

/** Pixels by which a line may leave what was measured, in place and in width (after Douglas & Peucker 1973). */
const tolerance = 0.2;

function simplified(points: readonly [number, number][], radii: readonly number[]): ThinLine {
  const kept = new Set([0, points.length - 1]);
  const spans: [number, number][] = [[0, points.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [a, b] = span;
    let [worst, at] = [tolerance, -1];
    for (let k = a + 1; k < b; k++) {
      const t = (k - a) / (b - a);
      const off = Math.max(
        Math.hypot(
          points[k]![0] - points[a]![0] - t * (points[b]![0] - points[a]![0]),
          points[k]![1] - points[a]![1] - t * (points[b]![1] - points[a]![1]),
        ),
        Math.abs(radii[k]! - radii[a]! - t * (radii[b]! - radii[a]!)),
      );
      if (off > worst) [worst, at] = [off, k];
    }
    if (at < 0) continue;
    kept.add(at);
    spans.push([a, at], [at, b]);
  }
  const order = [...kept].sort((a, b) => a - b);
  return {
    points: order.map((k) => points[k]!),
    radii: order.map((k) => hundredths(radii[k]!)),
  };
}
