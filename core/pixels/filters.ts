import { floatsAt } from '../kernels/shared.ts';
import { filterKernel } from './filter-kernel.ts';
import { makePlane, type Bytes, type Plane } from './raster.ts';

/** Mean over a (2r+1)-wide window along rows, edges repeated; running sums, so the cost does not depend on r. */
function boxRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const scale = 1 / (2 * radius + 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = from[row]! * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += from[row + Math.min(width - 1, k)]!;
    // Between the borders the window needs no care; that is nearly all of a row.
    const inner = Math.min(width, radius);
    const outer = Math.max(inner, width - radius - 1);
    let x = 0;
    for (; x < inner; x++) {
      to[row + x] = sum * scale;
      sum += from[row + Math.min(width - 1, x + radius + 1)]! - from[row]!;
    }
    for (; x < outer; x++) {
      to[row + x] = sum * scale;
      sum += from[row + x + radius + 1]! - from[row + x - radius]!;
    }
    for (; x < width; x++) {
      to[row + x] = sum * scale;
      sum += from[row + width - 1]! - from[row + x - radius]!;
    }
  }
}

/** Side of the squares that are transposed one after another, so that what is written lies near what was written before. */
const square = 32;

function transpose(from: Float32Array, to: Float32Array, width: number, height: number): void {
  for (let top = 0; top < height; top += square) {
    const bottom = Math.min(height, top + square);
    for (let left = 0; left < width; left += square) {
      const right = Math.min(width, left + square);
      for (let x = left; x < right; x++) for (let y = top; y < bottom; y++) to[x * height + y] = from[y * width + x]!;
    }
  }
}

/** Sums along columns, times `scale`: one for each of them, all carried from row to row, so that memory is met in its own order. */
function boxColumns(
  from: Float32Array | Uint8Array,
  to: Float32Array | Uint16Array,
  { width, height }: { width: number; height: number },
  radius: number,
  scale: number,
): void {
  const sums = new Float64Array(width);
  for (let x = 0; x < width; x++) sums[x] = from[x]! * (radius + 1);
  for (let k = 1; k <= radius; k++) {
    const row = Math.min(height - 1, k) * width;
    for (let x = 0; x < width; x++) sums[x]! += from[row + x]!;
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const enters = Math.min(height - 1, y + radius + 1) * width;
    const leaves = Math.max(0, y - radius) * width;
    for (let x = 0; x < width; x++) {
      const sum = sums[x]!;
      to[row + x] = sum * scale;
      sums[x] = sum + (from[enters + x]! - from[leaves + x]!);
    }
  }
}

/** Box mean of radius r in both directions, edges repeated. */
export function boxBlur(plane: Plane, radius: number): Plane {
  const { width, height } = plane;
  if (radius < 1) return { ...plane, data: plane.data.slice() };
  const size = plane.data.byteLength;
  const made = filterKernel.within([plane.data, size, 8 * width + 16], (kernel, from, rows, sums) => {
    kernel.boxMean(from, width, height, radius, rows, sums, from);
    return floatsAt(kernel, from, width * height);
  });
  if (made) return { width, height, data: made };
  const rows = new Float32Array(width * height);
  const data = new Float32Array(width * height);
  boxRows(plane.data, rows, width, height, radius);
  boxColumns(rows, data, plane, radius, 1 / (2 * radius + 1));
  return { width, height, data };
}

/** How many pixels of the square window of radius r around each pixel are set (0/1), edges repeated; exact. @param radius up to 127 */
export function boxCounts(bytes: Bytes, radius: number): Uint16Array {
  const { width, height, data } = bytes;
  const room = [width * height, 2 * width + 32, 2 * width * height + 32];
  const made = filterKernel.within([data, ...room], (kernel, from, lines, sums, to) => {
    kernel.boxCounts(from, width, height, radius, lines, sums, to);
    return new Uint16Array(kernel.memory.buffer, to, width * height).slice();
  });
  if (made) return made;
  const rows = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = data[row]! * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += data[row + Math.min(width - 1, k)]!;
    for (let x = 0; x < width; x++) {
      rows[row + x] = sum;
      sum += data[row + Math.min(width - 1, x + radius + 1)]! - data[row + Math.max(0, x - radius)]!;
    }
  }
  const counts = new Uint16Array(width * height);
  boxColumns(rows, counts, bytes, radius, 1);
  return counts;
}

export function planeOfBytes(bytes: Bytes, scale = 1): Plane {
  const out = makePlane(bytes.width, bytes.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = bytes.data[i]! * scale;
  return out;
}

/** The largest value in a square window around each pixel; beyond the borders there is nothing. */
export const windowMost = (plane: Plane, radius: number): Plane => windowExtreme(plane, radius, 1);

/** The smallest value in a square window around each pixel. */
export const windowLeast = (plane: Plane, radius: number): Plane => windowExtreme(plane, radius, -1);

/** Rows, then columns. @param sign -1 for the smallest, which is the largest of what is below 0 */
function windowExtreme({ width, height, data }: Plane, radius: number, sign: 1 | -1): Plane {
  const a = new Float32Array(width * height);
  const b = new Float32Array(width * height);
  mostInRows(data, a, { width, height, radius, sign });
  transpose(a, b, width, height);
  mostInRows(b, a, { width: height, height: width, radius, sign });
  transpose(a, b, height, width);
  return { width, height, data: b };
}

/**
 * The largest of each 2r+1 values of a row, by three comparisons whatever r is: rows are cut into pieces as long as a window,
 * and a window is the end of one piece and the beginning of the next (van Herk 1992; Gil & Werman 1993).
 */
function mostInRows(
  from: Float32Array,
  to: Float32Array,
  { width, height, radius, sign }: { width: number; height: number; radius: number; sign: 1 | -1 },
): void {
  const piece = 2 * radius + 1;
  const length = Math.ceil((width + 2 * radius) / piece) * piece;
  const line = new Float32Array(length).fill(-Infinity);
  const sinceBegin = new Float32Array(length);
  const untilEnd = new Float32Array(length);
  for (let row = 0; row < width * height; row += width) {
    for (let x = 0; x < width; x++) line[radius + x] = sign * from[row + x]!;
    for (let begin = 0; begin < length; begin += piece) {
      const last = begin + piece - 1;
      let most = -Infinity;
      for (let i = begin; i <= last; i++) {
        if (line[i]! > most) most = line[i]!;
        sinceBegin[i] = most;
      }
      most = -Infinity;
      for (let i = last; i >= begin; i--) {
        if (line[i]! > most) most = line[i]!;
        untilEnd[i] = most;
      }
    }
    for (let x = 0; x < width; x++) {
      const [left, right] = [untilEnd[x]!, sinceBegin[x + 2 * radius]!];
      to[row + x] = sign * (left > right ? left : right);
    }
  }
}
