import { shareOfThere, withColoursGoingOn } from '../pixels/emptiness.ts';
import { cropBytes, growRect, makeBytes, unionRect, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { coverByDabs } from './cover.ts';
import { noCare, withCare, type AlphaMark } from './edge-care.ts';
import { fringeOf, strokesAlong } from './fringe.ts';
import type { Stroke } from './strokes.ts';

/** Something about a piece that is easily missed until it moves. */
export interface Finding {
  /** A hole inside it, a speck beside it, a leftover that touches the frame, or ground that came along on its edge. */
  kind: 'hole' | 'speck' | 'frame' | 'fringe';
  bounds: Rect;
  /** Its size in pixels. */
  size: number;
  /** Brush strokes that mend it. */
  marks: AlphaMark[];
}

/** Holes and specks larger than this share of the piece are meant. */
const largestHole = 0.03;
const largestSpeck = 0.015;
const smallest = 6;
/** A fringe shows from about this many pixels on. */
const smallestFringe = 24;
const mostFindings = 40;

/** Findings of one kind that lie closer are one: they come from one cause, and are looked at together. */
const near = 10;
/** A mend may uncover something: so often it is looked again. */
const rounds = 2;

/**
 * Looks a piece's alpha (0..255) through for holes, specks, leftovers at the frame and fringes; the largest come first. What
 * mending them would leave behind is mended with them.
 * @param picture it was cut from, size of alpha; null where its colours are not the picture's, as after a key
 * @param own the picture's own alpha, 0..255: what that leaves empty is no hole; null where all of it is opaque
 */
export function checkPiece(alpha: Bytes, picture: Rgba | null, own: Bytes | null = null): Finding[] {
  const found = joinedNear(lookedThrough(alpha, picture, own)).sort((a, b) => b.size - a.size);
  for (let round = 0; round < rounds && found.length > 0; round++) {
    const marks = found.flatMap((finding) => finding.marks);
    const left = lookedThrough(withCare(alpha, noCare, marks), picture, own);
    if (left.length === 0) break;
    for (const one of left) nearestTo(one, found).marks.push(...one.marks);
  }
  return found.slice(0, mostFindings);
}

function lookedThrough(alpha: Bytes, picture: Rgba | null, own: Bytes | null): Finding[] {
  const { data } = alpha;
  /** Whether most of a region is not the piece's to have. */
  const isEmpty = ({ pixels, size }: Region): boolean =>
    own !== null && 2 * pixels.reduce((sum, i) => sum + (own.data[i]! <= 127 ? 1 : 0), 0) > size;
  const solid = labelled(alpha, (i) => data[i]! > 127, false);
  const open = labelled(alpha, (i) => data[i]! <= 127, true);
  const largest = Math.max(0, ...solid.map((region) => region.size));
  const whole = solid.reduce((sum, region) => sum + region.size, 0);
  const findings: Finding[] = [];
  for (const region of open) {
    if (region.touchesFrame || region.size < smallest || region.size > largestHole * whole || isEmpty(region)) continue;
    findings.push({ kind: 'hole', ...factsOf(region), marks: marksFor(alpha, region, 'restore') });
  }
  for (const region of solid) {
    if (region.size === largest || region.size < smallest || region.size > largestSpeck * largest) continue;
    const kind = region.touchesFrame ? 'frame' : 'speck';
    findings.push({ kind, ...factsOf(region), marks: marksFor(alpha, region, 'wipe') });
  }
  const fringe = picture && whole > 0 ? fringeOf(withColoursGoingOn(picture), shareOfThere(alpha, picture)) : null;
  for (const region of fringe ? labelled(alpha, (i) => fringe.data[i] === 1, true) : []) {
    if (region.size < smallestFringe) continue;
    const marks = strokesAlong(region.pixels, alpha, region.bounds).map((stroke) => wiping(stroke));
    findings.push({ kind: 'fringe', ...factsOf(region), marks });
  }
  return findings;
}

/** Pixels between two rectangles along the axis in which they are further apart; below 0 where they overlap. */
const gapBetween = (a: Rect, b: Rect): number =>
  Math.max(a.x - b.x - b.width, b.x - a.x - a.width, a.y - b.y - b.height, b.y - a.y - a.height);

function joinedNear(findings: readonly Finding[]): Finding[] {
  const out: Finding[] = [];
  for (const finding of findings) {
    let one = finding;
    // It may join several that were apart so far.
    for (;;) {
      const k = out.findIndex((other) => other.kind === one.kind && gapBetween(other.bounds, one.bounds) <= near);
      if (k < 0) break;
      const [other] = out.splice(k, 1) as [Finding];
      const bounds = unionRect(other.bounds, one.bounds)!;
      one = { kind: one.kind, bounds, size: other.size + one.size, marks: [...other.marks, ...one.marks] };
    }
    out.push(one);
  }
  return out;
}

const nearestTo = (one: Finding, found: readonly Finding[]): Finding =>
  found.reduce((best, other) =>
    gapBetween(other.bounds, one.bounds) < gapBetween(best.bounds, one.bounds) ? other : best,
  );

const wiping = (stroke: Stroke): AlphaMark => ({ kind: 'wipe', stroke, soft: 0.2 });

interface Region {
  pixels: number[];
  size: number;
  bounds: Rect;
  touchesFrame: boolean;
}

const factsOf = ({ bounds, size }: Region): { bounds: Rect; size: number } => ({ bounds, size });

/** Connected regions of pixels; `corners` also joins pixels that only touch at a corner. */
function labelled({ width, height }: Bytes, belongs: (i: number) => boolean, corners: boolean): Region[] {
  const seen = new Uint8Array(width * height);
  const regions: Region[] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] || !belongs(start)) continue;
    seen[start] = 1;
    const pixels = [start];
    let [left, right, top, bottom] = [width, 0, height, 0];
    for (let k = 0; k < pixels.length; k++) {
      const x = pixels[k]! % width;
      const y = (pixels[k]! / width) | 0;
      [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          if (!corners && dx !== 0 && dy !== 0) continue;
          const [u, v] = [x + dx, y + dy];
          if (u < 0 || v < 0 || u >= width || v >= height) continue;
          const j = v * width + u;
          if (seen[j] || !belongs(j)) continue;
          seen[j] = 1;
          pixels.push(j);
        }
      }
    }
    const touchesFrame = left === 0 || top === 0 || right === width - 1 || bottom === height - 1;
    const bounds = { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
    regions.push({ pixels, size: pixels.length, bounds, touchesFrame });
  }
  return regions;
}

/** Dabs over a region and its soft rim. */
function marksFor(alpha: Bytes, region: Region, kind: AlphaMark['kind']): AlphaMark[] {
  const area = growRect(region.bounds, 2, alpha.width, alpha.height);
  const mask = makeBytes(alpha.width, alpha.height);
  for (const i of region.pixels) mask.data[i] = 1;
  return coverByDabs(cropBytes(mask, area), { factor: 1, more: 2.5, scale: 1 }).map(({ radius, points }) => ({
    kind,
    stroke: { radius, points: points.map(([x, y]) => [x + area.x, y + area.y] as const) },
    soft: 0.2,
  }));
}
