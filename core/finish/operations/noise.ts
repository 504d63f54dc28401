/** Ordered dither of -0.5..0.5 that has no visible pattern: interleaved gradient noise (Jimenez 2014). */
export function ditherAt(x: number, y: number): number {
  const v = 52.9829189 * ((0.06711056 * x + 0.00583715 * y) % 1);
  return v - Math.floor(v) - 0.5;
}

/** A number of 0..1 for whole numbers, the same on every machine: an integer hash (Wellons' lowbias32). */
export function hash(a: number, b: number, c: number): number {
  let h = (Math.imul(a | 0, 0x9e3779b1) ^ Math.imul(b | 0, 0x85ebca6b) ^ Math.imul(c | 0, 0xc2b2ae35)) >>> 0;
  h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}
