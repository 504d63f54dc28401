import { floatsAt } from '../kernels/shared.ts';
import { filterKernel } from './filter-kernel.ts';
import type { Bytes } from './raster.ts';

/** Lower envelope of parabolas along one line; Felzenszwalb & Huttenlocher 2012, "Distance Transforms of Sampled Functions". */
function lineTransform(f: Float32Array, out: Float32Array, n: number, v: Int32Array, z: Float32Array): void {
  let k = 0;
  v[0] = 0;
  z[0] = -Infinity;
  z[1] = Infinity;
  for (let q = 1; q < n; q++) {
    let s: number;
    for (;;) {
      const p = v[k]!;
      s = (f[q]! + q * q - (f[p]! + p * p)) / (2 * q - 2 * p);
      if (s > z[k]!) break;
      k--;
    }
    k++;
    v[k] = q;
    z[k] = s;
    z[k + 1] = Infinity;
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    while (z[k + 1]! < q) k++;
    const p = v[k]!;
    out[q] = (q - p) * (q - p) + f[p]!;
  }
}

const far = 1e12;

/** Squared Euclidean distance in pixels from each pixel to the nearest set pixel of `mask`; 1e12 where none is set. */
export function squaredDistance(mask: Bytes): Float32Array {
  const { width, height } = mask;
  const made = filterKernel.within([mask.data, roomFor(width), 4 * width * height], (kernel, from, room, to) => {
    kernel.squaredDistance(from, width, height, room, to);
    return floatsAt(kernel, to, width * height);
  });
  return made ?? plainDistance(mask);
}

/** Bytes the kernel finds distances in. */
const roomFor = (width: number): number => 4 * (3 * width + 3);

function plainDistance(mask: Bytes): Float32Array {
  const { width, height } = mask;
  const n = Math.max(width, height);
  const f = new Float32Array(n);
  const d = new Float32Array(n);
  const v = new Int32Array(n);
  const z = new Float32Array(n + 1);
  const out = new Float32Array(width * height);
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) f[y] = mask.data[y * width + x] ? 0 : far;
    lineTransform(f, d, height, v, z);
    for (let y = 0; y < height; y++) out[y * width + x] = d[y]!;
  }
  for (let y = 0; y < height; y++) {
    f.set(out.subarray(y * width, (y + 1) * width));
    lineTransform(f, d, width, v, z);
    for (let x = 0; x < width; x++) out[y * width + x] = Math.min(far, d[x]!);
  }
  return out;
}

/** All pixels within `radius` (Euclidean, pixels) of the mask, as a mask. */
export function dilate(mask: Bytes, radius: number): Bytes {
  const { width, height } = mask;
  const limit = radius * radius + 1e-3;
  const count = width * height;
  const made = filterKernel.within(
    [mask.data, roomFor(width), 4 * count, count],
    (kernel, from, room, distances, to) => {
      kernel.within(from, width, height, limit, room, distances, to);
      return new Uint8Array(kernel.memory.buffer, to, count).slice();
    },
  );
  return { width, height, data: made ?? Uint8Array.from(plainDistance(mask), (d) => (d <= limit ? 1 : 0)) };
}
