import { makePlane, type Bytes, type Plane } from './raster.ts';

/** Mean over a (2r+1)-wide window along rows, edges repeated; running sums, so the cost does not depend on r. */
function boxRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const scale = 1 / (2 * radius + 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = from[row]! * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += from[row + Math.min(width - 1, k)]!;
    for (let x = 0; x < width; x++) {
      to[row + x] = sum * scale;
      sum += from[row + Math.min(width - 1, x + radius + 1)]! - from[row + Math.max(0, x - radius)]!;
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

/** Gaussian blur by three box means (Wells 1986); sigma in pixels, accurate to a few per cent above 1. */
export function gaussianBlur(plane: Plane, sigma: number): Plane {
  if (sigma <= 0) return { ...plane, data: plane.data.slice() };
  const ideal = Math.sqrt((12 * sigma * sigma) / 3 + 1);
  const low = 2 * Math.floor((ideal - 1) / 2) + 1;
  const lows = Math.round((12 * sigma * sigma - 3 * low * low - 12 * low - 9) / (-4 * low - 4));
  let out = plane;
  for (let pass = 0; pass < 3; pass++) out = boxBlur(out, ((pass < lows ? low : low + 2) - 1) / 2);
  return out;
}

export function planeOfBytes(bytes: Bytes, scale = 1): Plane {
  const out = makePlane(bytes.width, bytes.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = bytes.data[i]! * scale;
  return out;
}
