/** Hash of integer coordinates to [0, 1); the same on every machine. */
export function hash(x: number, y: number, z = 0): number {
  let h = Math.imul(x | 0, 374761393) ^ Math.imul(y | 0, 668265263) ^ Math.imul(z | 0, 2147483647 ^ 0x5bd1e995);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  h ^= h >>> 16;
  return (h >>> 0) / 4294967296;
}

/** Smooth value noise in the plane, 0..1. */
export function noise2(x: number, y: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = x - ix;
  const fy = y - iy;
  const u = fx * fx * (3 - 2 * fx);
  const v = fy * fy * (3 - 2 * fy);
  const a = hash(ix, iy);
  const b = hash(ix + 1, iy);
  const c = hash(ix, iy + 1);
  const d = hash(ix + 1, iy + 1);
  return a + (b - a) * u + (c - a) * v + (a - b - c + d) * u * v;
}

/** Smooth value noise in space, 0..1. */
export function noise3(x: number, y: number, z: number): number {
  const iz = Math.floor(z);
  const fz = z - iz;
  const w = fz * fz * (3 - 2 * fz);
  const low = layer(x, y, iz);
  return low + (layer(x, y, iz + 1) - low) * w;
}

function layer(x: number, y: number, k: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = x - ix;
  const fy = y - iy;
  const u = fx * fx * (3 - 2 * fx);
  const v = fy * fy * (3 - 2 * fy);
  const a = hash(ix, iy, k);
  const b = hash(ix + 1, iy, k);
  const c = hash(ix, iy + 1, k);
  const d = hash(ix + 1, iy + 1, k);
  return a + (b - a) * u + (c - a) * v + (a - b - c + d) * u * v;
}

/** Sum of octaves of plane noise, about 0..1. */
export function fbm2(x: number, y: number, octaves: number): number {
  let sum = 0;
  let scale = 0.5;
  for (let k = 0; k < octaves; k++) {
    sum += scale * noise2(x, y);
    const turned = x * 1.6 + y * 1.2 + 17.3;
    y = y * 1.6 - x * 1.2 + 5.1;
    x = turned;
    scale *= 0.5;
  }
  return sum;
}

/** Sum of octaves of space noise, about 0..1. */
export function fbm3(x: number, y: number, z: number, octaves: number): number {
  let sum = 0;
  let scale = 0.5;
  for (let k = 0; k < octaves; k++) {
    sum += scale * noise3(x, y, z);
    x = x * 2.03 + 11.7;
    y = y * 2.01 + 3.9;
    z = z * 2.02 + 7.3;
    scale *= 0.5;
  }
  return sum;
}
