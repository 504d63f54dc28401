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

/** The largest (or smallest) value in a square window around each pixel: rows, then columns, by halving steps. */
export function windowExtreme(plane: Plane, radius: number, pick: (a: number, b: number) => number): Plane {
  const { width, height } = plane;
  let data = plane.data;
  for (const [step, length] of [
    [1, width],
    [width, height],
  ] as const) {
    for (let left = radius; left > 0;) {
      const reach = Math.max(1, left >> 1);
      left -= reach;
      const next = data.slice();
      for (let i = 0; i < data.length; i++) {
        const at = step === 1 ? i % width : (i / width) | 0;
        if (at - reach >= 0) next[i] = pick(next[i]!, data[i - reach * step]!);
        if (at + reach < length) next[i] = pick(next[i]!, data[i + reach * step]!);
      }
      data = next;
    }
  }
  return { width, height, data };
}
