import type { FinishPixels } from '../finish.ts';
import { kernelOf, laid } from './memory.ts';
import { addPremultiplied, writePremultiplied } from './premultiplied.ts';

/** How a way lies: along the axis it mostly follows for `length` pixels, and `slope` across for each of them. */
interface Slant {
  upright: boolean;
  slope: number;
  length: number;
}

function slantOf(dx: number, dy: number): Slant {
  const upright = Math.abs(dy) > Math.abs(dx);
  const [along, across] = upright ? [dy, dx] : [dx, dy];
  return { upright, slope: along === 0 ? 0 : across / along, length: Math.abs(along) };
}

/**
 * The mean of a picture over a straight way about each pixel, in the same time for every length: lines of the way's slope
 * are sheared into rows, averaged by a sum that moves along, and sheared back. Outside is nothing.
 */
export function averagedOver(pixels: FinishPixels, dx: number, dy: number): void {
  const { data, width, height } = pixels;
  const { upright, slope, length } = slantOf(dx, dy);
  if (length <= 1) return;
  const [count, lines] = upright ? [height, width] : [width, height];
  const kernel = kernelOf(data);
  const bytes = (width + 2) * (height + 2) * 8;
  const work = (lines + Math.ceil(Math.abs(slope) * count) + 6) * count * 8 + (count + length + 6) * 16;
  const byKernel = (from: number, to: number, room: number): void => {
    const row = (width + 2) * 8;
    const [along, across] = upright ? [row, 8] : [8, row];
    kernel!.toFine(data.byteOffset, width, width, height, from);
    kernel!.slide(from, along, across, count, lines, slope, length, room, to);
    kernel!.fromFine(to, width, height, data.byteOffset);
  };
  if (kernel && laid([bytes, bytes, work], byKernel)) return;
  const sum = new Float32Array(data.length);
  addPremultiplied(sum, data, 1);
  const [along, across] = upright ? [width, 1] : [1, width];
  for (let c = 0; c < 4; c++)
    slide({ data: sum, first: c, along: 4 * along, across: 4 * across, count, lines }, slope, length);
  writePremultiplied(data, sum, width);
}

/** One channel of a picture: `count` values along and `lines` across, so many numbers apart. */
interface Channel {
  data: Float32Array;
  first: number;
  along: number;
  across: number;
  count: number;
  lines: number;
}

function slide({ data, first, along, across, count, lines }: Channel, slope: number, length: number): void {
  const drift = slope * (count - 1);
  const start = -Math.ceil(Math.max(0, drift)) - 1;
  const rows = lines + Math.ceil(Math.max(0, -drift)) + 1 - start;
  const valueAt = (k: number, n: number): number => (n < 0 || n >= lines ? 0 : data[first + k * along + n * across]!);
  const work = Array.from({ length: rows }, (_, n) => {
    const line = Float64Array.from({ length: count }, (_, k) => {
      const place = start + n + slope * k;
      const low = Math.floor(place);
      return valueAt(k, low) + (valueAt(k, low + 1) - valueAt(k, low)) * (place - low);
    });
    return averaged(line, length);
  });
  for (let n = 0; n < lines; n++)
    for (let k = 0; k < count; k++) {
      const place = n - start - slope * k;
      const low = Math.floor(place);
      const [near, next] = [work[low]![k]!, work[low + 1]![k]!];
      data[first + k * along + n * across] = near + (next - near) * (place - low);
    }
}

/** Mean of `length` values about each of a line, its ends shares of one. */
function averaged(line: Float64Array, length: number): Float64Array {
  const radius = Math.max(0, Math.floor((length - 1) / 2));
  const end = (length - 1) / 2 - radius;
  const at = (k: number): number => line[k] ?? 0;
  let sum = 0;
  for (let k = 0; k < radius; k++) sum += at(k);
  return line.map((_, k) => {
    sum += at(k + radius);
    const mean = (sum + end * (at(k - radius - 1) + at(k + radius + 1))) / length;
    sum -= at(k - radius);
    return mean;
  });
}
