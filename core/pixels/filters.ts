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

function transpose(from: Float32Array, to: Float32Array, width: number, height: number): void {
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) to[x * height + y] = from[y * width + x]!;
}

/** Box mean of radius r in both directions, edges repeated. */
export function boxBlur(plane: Plane, radius: number): Plane {
  const { width, height } = plane;
  if (radius < 1) return { ...plane, data: plane.data.slice() };
  const a = new Float32Array(width * height);
  const b = new Float32Array(width * height);
  boxRows(plane.data, a, width, height, radius);
  transpose(a, b, width, height);
  boxRows(b, a, height, width, radius);
  transpose(a, b, height, width);
  return { width, height, data: b };
}

export function planeOfBytes(bytes: Bytes, scale = 1): Plane {
  const out = makePlane(bytes.width, bytes.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = bytes.data[i]! * scale;
  return out;
}

/** The largest value in a square window around each pixel; beyond the borders there is nothing. */
export const windowMost = (plane: Plane, radius: number): Plane => windowExtreme(plane, radius, true);

/** The smallest value in a square window around each pixel. */
export const windowLeast = (plane: Plane, radius: number): Plane => windowExtreme(plane, radius, false);

/** Rows, then columns, by halving steps: a window is what two smaller ones beside it hold. */
function windowExtreme({ width, height, data }: Plane, radius: number, most: boolean): Plane {
  let now = data.slice();
  for (let left = radius; left > 0;) {
    const reach = Math.max(1, left >> 1);
    left -= reach;
    const next = now.slice();
    for (let row = 0; row < now.length; row += width) {
      takeIn(next, now, row + reach, row + width, -reach, most);
      takeIn(next, now, row, row + width - reach, reach, most);
    }
    now = next;
  }
  for (let left = radius; left > 0;) {
    const reach = Math.max(1, left >> 1);
    left -= reach;
    const next = now.slice();
    takeIn(next, now, reach * width, now.length, -reach * width, most);
    takeIn(next, now, 0, now.length - reach * width, reach * width, most);
    now = next;
  }
  return { width, height, data: now };
}

/** Takes in what lies `shift` further where that is more, or less. */
function takeIn(out: Float32Array, from: Float32Array, start: number, end: number, shift: number, most: boolean): void {
  if (most) {
    for (let i = start; i < end; i++) if (from[i + shift]! > out[i]!) out[i] = from[i + shift]!;
  } else {
    for (let i = start; i < end; i++) if (from[i + shift]! < out[i]!) out[i] = from[i + shift]!;
  }
}
