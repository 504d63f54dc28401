import { coverageOfAll } from '../path/coverage.ts';
import { squaredDistance } from '../pixels/distance.ts';
import { makeBytes } from '../pixels/raster.ts';
import { placedPath } from './glyph-paths.ts';
import { cornersOf, type Letter } from './set-text.ts';
import { walkStrokes } from './stroke-walk.ts';
import { thin, type Mask } from './thinning.ts';

/** A line a pen draws: its points, and half the width of the letter there. Pixels of the text. */
export interface Stroke {
  points: [x: number, y: number, radius: number][];
}

/** Pixels a letter's ascent and descent are looked at with: fine enough for hairlines, and quick. */
const fineness = 96;

/**
 * The lines along the middle of a letter in the order a hand would draw them: from the left, straight on where lines
 * cross, dots and marks last.
 */
export function strokesOf(letter: Letter): Stroke[] {
  if (letter.blank) return [];
  const scale = fineness / (letter.ascent + letter.descent);
  const corners = [...cornersOf(letter), ...letter.outlines.flatMap((path) => path.points.map((p) => p.at))];
  // Letters reach beyond the room they are given.
  const margin = 3;
  const left = Math.min(...corners.map(([x]) => x));
  const top = Math.min(...corners.map(([, y]) => y));
  const width = Math.ceil((Math.max(...corners.map(([x]) => x)) - left) * scale) + 2 * margin;
  const height = Math.ceil((Math.max(...corners.map(([, y]) => y)) - top) * scale) + 2 * margin;
  const paths = letter.outlines.map((path) =>
    placedPath(path, [margin - left * scale, margin - top * scale], scale, 0),
  );
  const { data } = coverageOfAll(paths, width, height);
  const mask: Mask = { data: Uint8Array.from(data, (v) => (v >= 0.5 ? 1 : 0)), width, height };
  const outside = makeBytes(width, height);
  mask.data.forEach((v, i) => (outside.data[i] = v ? 0 : 1));
  const distance = squaredDistance(outside);
  thin(mask);
  const radiusAt = (i: number): number => Math.sqrt(distance[i]!);
  return walkStrokes(mask, radiusAt).map((line) => ({
    points: smoothed(line.map((i) => [i % width, Math.floor(i / width), radiusAt(i)])).map(([x, y, r]) => [
      (x + 0.5 - margin) / scale + left,
      (y + 0.5 - margin) / scale + top,
      r / scale,
    ]),
  }));
}

/** Takes the steps of the pixels out of a line; its ends stay. */
function smoothed(line: [number, number, number][]): [number, number, number][] {
  const reach = 2;
  return line.map((own, k) => {
    const span = Math.min(reach, k, line.length - 1 - k);
    if (span === 0) return own;
    const part = line.slice(k - span, k + span + 1);
    return [0, 1, 2].map((axis) => part.reduce((sum, p) => sum + p[axis]!, 0) / part.length) as typeof own;
  });
}
