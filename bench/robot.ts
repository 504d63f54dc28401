import type { TeachingStroke } from '../core/cut/subject.ts';
import { squaredDistance } from '../core/pixels/distance.ts';
import { seededRandom } from '../core/pixels/random.ts';
import { makeBytes, type Bytes, type Rect } from '../core/pixels/raster.ts';
import { intersectionOverUnion } from './measures.ts';

/** Anything that finds a mask from strokes: the cut that is measured, or the one beside it. */
export type Solve = (strokes: { keep: TeachingStroke[]; drop: TeachingStroke[] }) => Promise<Bytes> | Bytes;

export interface RobotRun {
  /** Overlap with the truth after every stroke; the first before any. */
  overlaps: number[];
  milliseconds: number[];
  /** Strokes that made it worse by more than 0.01. */
  worse: number;
}

/** Pixels from the edge of a thing at which nobody presses who means it. */
const edge = 6;

export const mostStrokes = 10;

/**
 * A user as a machine: looks for the biggest region that is wrong and draws a short stroke through its middle, again and again.
 * @param alpha the truth
 */
export async function runRobot(solve: Solve, alpha: Bytes): Promise<RobotRun> {
  const strokes = { keep: [] as TeachingStroke[], drop: [] as TeachingStroke[] };
  let mask = await solve(strokes);
  const run: RobotRun = { overlaps: [intersectionOverUnion(mask, alpha)], milliseconds: [], worse: 0 };
  for (let turn = 1; turn <= mostStrokes && run.overlaps.at(-1)! < 0.95; turn++) {
    const wrong = biggestWrong(mask, alpha);
    if (!wrong) break;
    strokes[wrong.missing ? 'keep' : 'drop'].push({ ...strokeThrough(wrong.region, wrong.bounds), turn });
    const started = performance.now();
    mask = await solve(strokes);
    run.milliseconds.push(performance.now() - started);
    run.overlaps.push(intersectionOverUnion(mask, alpha));
    if (run.overlaps.at(-1)! < run.overlaps.at(-2)! - 0.01) run.worse++;
  }
  return run;
}

/** How many strokes until an overlap is reached; null where it never is. */
export function strokesTo(run: RobotRun, overlap: number): number | null {
  const k = run.overlaps.findIndex((reached) => reached >= overlap);
  return k < 0 ? null : k;
}

/** Places where a hand would press that means a thing: deepest inside it, and anywhere but at its edge. @param alpha the truth */
export function pressesOn(alpha: Bytes, count: number): [number, number][] {
  const outside = { ...alpha, data: alpha.data.map((a) => (a > 127 ? 0 : 1)) };
  const depth = squaredDistance(outside);
  const inside = [...depth.keys()].filter((i) => depth[i]! > edge * edge);
  const deepest = inside.reduce((best, i) => (depth[i]! > depth[best]! ? i : best));
  const random = seededRandom(7);
  const anywhere = Array.from({ length: count - 1 }, () => inside[Math.floor(random() * inside.length)]!);
  return [deepest, ...anywhere].map((i) => [i % alpha.width, Math.floor(i / alpha.width)]);
}

interface Wrong {
  /** 1 where it is wrong, size of the picture. */
  region: Bytes;
  bounds: Rect;
  /** Whether something of the subject is missing; otherwise there is too much. */
  missing: boolean;
}

function biggestWrong(mask: Bytes, alpha: Bytes): Wrong | null {
  const { width, height } = mask;
  const kind = Uint8Array.from(mask.data, (v, i) => (v > 0 === alpha.data[i]! > 127 ? 0 : v > 0 ? 1 : 2));
  const seen = new Uint8Array(kind.length);
  let best: number[] = [];
  for (let start = 0; start < kind.length; start++) {
    if (!kind[start] || seen[start]) continue;
    const members = [start];
    seen[start] = 1;
    for (let k = 0; k < members.length; k++) {
      const i = members[k]!;
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i, i - width, i + width]) {
        if (j < 0 || j >= kind.length || seen[j] || kind[j] !== kind[start]) continue;
        seen[j] = 1;
        members.push(j);
      }
    }
    if (members.length > best.length) best = members;
  }
  if (best.length === 0) return null;
  const region = makeBytes(width, height);
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (const i of best) {
    region.data[i] = 1;
    const [x, y] = [i % width, Math.floor(i / width)];
    [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
  }
  const bounds = { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
  return { region, bounds, missing: kind[best[0]!] === 2 };
}

/** A short line through the deepest place of a region, along its longer way, as far as it stays well inside. */
function strokeThrough(region: Bytes, bounds: Rect): Omit<TeachingStroke, 'turn'> {
  const { width, height } = region;
  const outside = { ...region, data: region.data.map((v) => 1 - v) };
  const depth = squaredDistance(outside);
  let deepest = 0;
  for (let i = 0; i < depth.length; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    // The frame of the picture is no place to draw at either.
    const rim = Math.min(x + 1, y + 1, width - x, height - y) ** 2;
    if (region.data[i] && Math.min(depth[i]!, rim) > Math.min(depth[deepest]!, rimOf(deepest, width, height)))
      deepest = i;
  }
  const [x, y] = [deepest % width, Math.floor(deepest / width)];
  const inner = Math.sqrt(depth[deepest]!);
  const radius = Math.max(1.5, Math.min(0.5 * inner, 0.012 * width));
  const reach = Math.min(0.06 * width, 0.5 * Math.max(bounds.width, bounds.height));
  const [dx, dy] = longerWay(region);
  const end = (sign: number): [number, number] => {
    let t = 0;
    for (; t < reach; t++) {
      const [u, v] = [Math.round(x + sign * dx * (t + 1)), Math.round(y + sign * dy * (t + 1))];
      if (u < 0 || v < 0 || u >= width || v >= height) break;
      if (!region.data[v * width + u] || depth[v * width + u]! < (radius + 1) ** 2) break;
    }
    return [x + sign * dx * t, y + sign * dy * t];
  };
  return { radius, points: [end(-1), [x, y], end(1)], withinEdges: true };
}

/** Direction of a region's longest extent, by the moments of its pixels. */
function longerWay({ width, data }: Bytes): [number, number] {
  let [n, sx, sy, sxx, sxy, syy] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < data.length; i++) {
    if (!data[i]) continue;
    const [x, y] = [i % width, Math.floor(i / width)];
    n++;
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
    syy += y * y;
  }
  const [cxx, cxy, cyy] = [sxx / n - (sx / n) ** 2, sxy / n - (sx / n) * (sy / n), syy / n - (sy / n) ** 2];
  const angle = 0.5 * Math.atan2(2 * cxy, cxx - cyy);
  return [Math.cos(angle), Math.sin(angle)];
}

function rimOf(i: number, width: number, height: number): number {
  const [x, y] = [i % width, Math.floor(i / width)];
  return Math.min(x + 1, y + 1, width - x, height - y) ** 2;
}
