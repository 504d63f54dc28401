import { checkpoint, type Progress } from '../pixels/progress.ts';
import { boundsOf, cropBytes, cropRgba, growRect, type Bytes, type Rgba } from '../pixels/raster.ts';
import { halve, halveMask } from '../pixels/resample.ts';
import type { GuideLine } from './guides.ts';
import { segmentsOf, type Segment } from './segments.ts';
import { runsTo, towards, vanishingOf, type Vanishing } from './vanishing.ts';

/** Lines are looked for in a picture of at most this size around the hole. */
const lookSize = 700;
/** How far an edge may end before the hole to be taken as running into it. */
const gap = 16;
/** Length of an edge that is taken as one of many. */
const leastRay = 24;
/** The longest of them suffice: their ends are compared in pairs. */
const mostRays = 160;
/** So many of them end on one line, within so many pixels, where it is what they end at. */
const [leastEnds, onEdge] = [6, 3.5];
const mostLines = 24;
/** Share of the strength of the clearest line that others have at least. */
const clearShare = 0.35;
/** How far two edges of one line may turn from one another, in radians, and how long they are at least, of the way between. */
const [sameLine, ofWay] = [(2 * Math.PI) / 180, 0.25];

type Point = readonly [number, number];

/** An edge that runs into the hole: where, and in which unit direction. */
interface Entry {
  segment: Segment;
  at: Point;
  way: Point;
}

/**
 * Straight lines that go on behind a hole. An edge that runs into it goes on to the edge that comes out on the other side;
 * and one of many that run together (joints of boards, rows of tiles) goes on as far as its neighbours beside the hole do.
 * @param hole 1 where the picture is not known  @param given lines that somebody drew; what meets them is not believed
 * @returns those given and those found, in picture pixels
 * @throws Cancelled
 */
export async function linesBehind(
  picture: Rgba,
  hole: Bytes,
  given: readonly GuideLine[] = [],
  progress?: Progress,
): Promise<GuideLine[]> {
  const bounds = boundsOf(hole);
  if (!bounds) return [...given];
  const margin = Math.max(48, Math.round(0.8 * Math.max(bounds.width, bounds.height)));
  const area = growRect(bounds, margin, picture.width, picture.height);
  let [part, missing, shrink] = [cropRgba(picture, area), cropBytes(hole, area), 1];
  while (Math.max(part.width, part.height) > lookSize) {
    [part, missing, shrink] = [halve(part), halveMask(missing), shrink * 2];
  }
  await checkpoint(progress);
  const segments = await segmentsOf(part, missing, progress);
  const entries = segments.flatMap((segment) => entriesOf(segment, missing));
  const vanishing = vanishingOf(segments, 6);
  const through = paired(entries, vanishing);
  const rest = entries.filter((one) => !through.some(({ ends }) => ends.includes(one)));
  const all = [...through, ...(vanishing ? joined(segments, rest, vanishing, missing) : [])];
  // Beside clear lines those of grain are none.
  const clear = clearShare * Math.max(0, ...all.map(clarity).filter(Number.isFinite));
  const lines = all.filter((one) => clarity(one) >= clear);
  const toPart = ([x, y]: Point): Point => [(x - area.x) / shrink - 0.5, (y - area.y) / shrink - 0.5];
  const kept: Through[] = given.map(({ from, to }) => ({
    from: toPart(from),
    to: toPart(to),
    weight: Infinity,
    ends: [],
  }));
  for (const one of lines.sort((a, b) => b.weight - a.weight))
    if (kept.length < given.length + mostLines && kept.every((other) => !meet(one, other))) kept.push(one);
  const placed = ([x, y]: Point): [number, number] => [area.x + (x + 0.5) * shrink, area.y + (y + 0.5) * shrink];
  return [...given, ...kept.slice(given.length).map(({ from, to }) => ({ from: placed(from), to: placed(to) }))];
}

/** How strong the edges of a line are, the weaker of both; a line that only ends others is as clear as any. */
const clarity = ({ ends }: Through): number =>
  ends.length === 0 ? Infinity : Math.min(...ends.map(({ segment }) => segment.strength));

interface Through {
  from: Point;
  to: Point;
  weight: number;
  ends: readonly Entry[];
}

/** The ends of an edge before which the hole begins. */
function entriesOf(segment: Segment, hole: Bytes): Entry[] {
  const { from, to, length } = segment;
  const along: Point = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  const ends: [Point, Point][] = [
    [to, along],
    [from, [-along[0], -along[1]]],
  ];
  return ends.flatMap(([at, way]) => (entersFrom(at, way, hole) ? [{ segment, at, way }] : []));
}

function entersFrom([x, y]: Point, [dx, dy]: Point, hole: Bytes): boolean {
  for (let s = 1; s <= gap; s++) if (isIn(hole, [x + dx * s, y + dy * s])) return true;
  return false;
}

const aside = (from: Point, [dx, dy]: Point, [x, y]: Point): number => (x - from[0]) * dy - (y - from[1]) * dx;
const forth = (from: Point, [dx, dy]: Point, [x, y]: Point): number => (x - from[0]) * dx + (y - from[1]) * dy;

function isIn({ width, height, data }: Bytes, [x, y]: Point): boolean {
  const [u, v] = [Math.round(x), Math.round(y)];
  return u >= 0 && v >= 0 && u < width && v < height && data[v * width + u] !== 0;
}

/** How far, at most, each of two entries lies beside the line of the other; null where they are no halves of one line. */
function offOf(a: Entry, b: Entry, way: number, vanishing: Vanishing | null): number | null {
  if (a.way[0] * b.way[0] + a.way[1] * b.way[1] > -Math.cos(sameLine)) return null;
  const offs = [aside(a.at, a.way, b.at), aside(b.at, b.way, a.at)].map(Math.abs) as [number, number];
  const long = a.segment.length > b.segment.length ? 0 : 1;
  // Of many that meet far off, the far halves are short, and tiles change sides along them: the longer half says where it goes.
  if (vanishing && [a, b].every(({ segment }) => runsTo(vanishing, segment)))
    return offs[long] < Math.max(1.5, 0.01 * way) ? offs[long] : null;
  if (Math.min(a.segment.length, b.segment.length) < ofWay * way) return null;
  const [p, q] = [a.segment.brighter, b.segment.brighter];
  const off = Math.max(...offs);
  return p[0] * q[0] + p[1] * q[1] > 0.9 && off < Math.max(1.5, 0.015 * way) ? off : null;
}

/** Edges that lie on one line on two sides of the hole. */
function paired(entries: readonly Entry[], vanishing: Vanishing | null): Through[] {
  const all: (Through & { off: number })[] = [];
  for (const [k, a] of entries.entries()) {
    for (const b of entries.slice(k + 1)) {
      const way = forth(a.at, a.way, b.at);
      const off = way < 6 ? null : offOf(a, b, way, vanishing);
      if (off === null) continue;
      all.push({ from: a.at, to: b.at, weight: Math.min(a.segment.length, b.segment.length) + 10, off, ends: [a, b] });
    }
  }
  const taken = new Set<Entry>();
  return all
    .sort((a, b) => a.off / a.weight - b.off / b.weight)
    .filter(({ ends }) => {
      if (ends.some((end) => taken.has(end))) return false;
      for (const end of ends) taken.add(end);
      return true;
    });
}

/** Edges that run into the hole together with others, each up to the line on which those beside the hole end. */
function joined(segments: readonly Segment[], entries: readonly Entry[], vanishing: Vanishing, hole: Bytes): Through[] {
  const along = segments
    .filter((one) => one.length >= leastRay && runsTo(vanishing, one))
    .sort((a, b) => b.length - a.length)
    .slice(0, mostRays);
  return [true, false].flatMap((inwards) => {
    const those = entries.filter(
      ({ segment, at, way }) => along.includes(segment) && forth([0, 0], towards(vanishing, at), way) > 0 === inwards,
    );
    if (those.length === 0) return [];
    const edge = edgeAcross(
      along.flatMap((one) => endOf(one, vanishing, inwards, hole)),
      hole,
    );
    if (!edge) return [];
    const out = those.flatMap((entry): Through[] => {
      const to = crossing(entry, edge);
      // Beyond the hole it would be seen going on, and lie on what comes out there.
      return to && isIn(hole, to) ? [{ from: entry.at, to, weight: entry.segment.length / 2, ends: [entry] }] : [];
    });
    // What ends them all is a line too.
    return out.length > 1 ? [...out, edge] : out;
  });
}

/** The end of an edge in the wanted sense, when it ends neither at the hole nor where the picture does. */
function endOf(segment: Segment, vanishing: Vanishing, inwards: boolean, hole: Bytes): Point[] {
  const { from, to, length } = segment;
  const [dx, dy] = towards(vanishing, from);
  const ahead = dx * (to[0] - from[0]) + dy * (to[1] - from[1]) > 0;
  const end = ahead === inwards ? to : from;
  const other = end === to ? from : to;
  const way: Point = [(end[0] - other[0]) / length, (end[1] - other[1]) / length];
  const [x, y] = end;
  const atBorder = Math.min(x, y, hole.width - 1 - x, hole.height - 1 - y) < 6;
  return atBorder || entersFrom(end, way, hole) ? [] : [end];
}

/** The line across the hole on which most ends lie; null where they end anyhow, as edges of grain do. */
function edgeAcross(ends: readonly Point[], hole: Bytes): Through | null {
  let best: { from: Point; to: Point; count: number } | null = null;
  for (const [k, from] of ends.entries()) {
    for (const to of ends.slice(k + 1)) {
      const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
      const way: Point = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
      if (length < 24 || !crosses(hole, from, way, length)) continue;
      const count = ends.filter((end) => Math.abs(aside(from, way, end)) < onEdge).length;
      if (count > (best?.count ?? leastEnds - 1)) best = { from, to, count };
    }
  }
  if (!best) return null;
  const { from, to } = best;
  return { from, to, weight: Math.hypot(to[0] - from[0], to[1] - from[1]), ends: [] };
}

/** Whether some of the way between two points lies in the hole. */
function crosses(hole: Bytes, from: Point, [dx, dy]: Point, length: number): boolean {
  for (let s = 4; s < length; s += 4) if (isIn(hole, [from[0] + dx * s, from[1] + dy * s])) return true;
  return false;
}

/** Where an entry that goes on meets a line; null where it does not. */
function crossing({ at, way }: Entry, { from, to }: Through): Point | null {
  const [l, r] = [aside(at, way, from), aside(at, way, to)];
  if (l * r >= 0) return null;
  const share = l / (l - r);
  const s = forth(at, way, from) * (1 - share) + forth(at, way, to) * share;
  return s < 8 ? null : [at[0] + way[0] * s, at[1] + way[1] * s];
}

/** Whether two lines lie on each other at one end, or cross. */
function meet(a: Through, b: Through): boolean {
  const side = (p: Point, { from, to }: Through): number => {
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    return aside(from, [(to[0] - from[0]) / length, (to[1] - from[1]) / length], p);
  };
  const [s, t, u, v] = [side(a.from, b), side(a.to, b), side(b.from, a), side(b.to, a)];
  const close = Math.max(Math.abs(s), Math.abs(t)) < 5;
  // One that only reaches another's line does not cross it.
  const over = [s, t, u, v].every((d) => Math.abs(d) > 3);
  return close || (over && s * t < 0 && u * v < 0);
}
