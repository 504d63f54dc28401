import type { Point } from '../motion/property.ts';
import { defineFinish } from './finish.ts';
import { throughTables } from './operations/colour.ts';

const straight: Point[] = [
  [0, 0],
  [1, 1],
];

/**
 * A curve through points as a table of 256 values 0..255, never overshooting between them: monotone cubic interpolation
 * (Fritsch & Carlson 1980).
 */
export function curveTable(points: readonly Point[]): Float32Array {
  const slopes = points.slice(1).map(([x, y], k) => (y - points[k]![1]) / (x - points[k]![0]));
  const tangents = points.map((_, k) => {
    const [before, after] = [slopes[k - 1], slopes[k]];
    if (before === undefined || after === undefined) return before ?? after ?? 0;
    return before * after <= 0 ? 0 : (2 * before * after) / (before + after);
  });
  return Float32Array.from({ length: 256 }, (_, byte) => {
    const x = byte / 255;
    const [first, last] = [points[0]!, points.at(-1)!];
    if (x <= first[0]) return 255 * first[1];
    if (x >= last[0]) return 255 * last[1];
    const k = points.findIndex((p) => p[0] > x) - 1;
    const [[x0, y0], [x1, y1]] = [points[k]!, points[k + 1]!];
    const width = x1 - x0;
    const t = (x - x0) / width;
    const [t2, t3] = [t * t, t * t * t];
    const y =
      (2 * t3 - 3 * t2 + 1) * y0 +
      (t3 - 2 * t2 + t) * width * tangents[k]! +
      (3 * t2 - 2 * t3) * y1 +
      (t3 - t2) * width * tangents[k + 1]!;
    return 255 * Math.max(0, Math.min(1, y));
  });
}

export const curves = defineFinish({
  id: 'curves',
  name: 'Curves',
  family: 'colour',
  purpose: 'Says for every level of light what becomes of it, for all colours or one channel.',
  settings: {
    all: { kind: 'curve', name: 'All channels', start: [...straight] },
    red: { kind: 'curve', name: 'Red', start: [...straight] },
    green: { kind: 'curve', name: 'Green', start: [...straight] },
    blue: { kind: 'curve', name: 'Blue', start: [...straight] },
  },
  apply(pixels, { all, red, green, blue }) {
    const whole = curveTable(all);
    const through = (own: readonly Point[]): Float32Array => {
      const table = curveTable(own);
      return whole.map((v) => {
        const low = Math.floor(v);
        const high = Math.min(255, low + 1);
        return table[low]! + (table[high]! - table[low]!) * (v - low);
      });
    };
    throughTables(pixels, [through(red), through(green), through(blue)]);
  },
});
