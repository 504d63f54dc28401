import type { Bytes } from '../pixels/raster.ts';

/**
 * The pixels within `radius` steps (8 neighbours) of the boundary of `mask`, by breadth-first search, so that the cost
 * follows the length of the boundary and not the size of the picture. Where `within` is given only its set pixels count.
 */
export function boundaryBand(mask: Bytes, radius: number, within: Bytes | null = null): Int32Array {
  const { width, height, data } = mask;
  const steps = new Uint8Array(width * height);
  let ring: number[] = [];
  const found: number[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (within && !within.data[i]) continue;
      const v = data[i];
      if (
        (x + 1 < width && data[i + 1] !== v) ||
        (x > 0 && data[i - 1] !== v) ||
        (y + 1 < height && data[i + width] !== v) ||
        (y > 0 && data[i - width] !== v)
      ) {
        steps[i] = 1;
        ring.push(i);
      }
    }
  }
  for (let step = 1; ; step++) {
    for (const i of ring) found.push(i);
    if (step >= radius || ring.length === 0) break;
    const next: number[] = [];
    for (const i of ring) {
      const x = i % width;
      const y = (i / width) | 0;
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++) {
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const j = ny * width + nx;
          if (steps[j] || (within && !within.data[j])) continue;
          steps[j] = step + 1;
          next.push(j);
        }
      }
    }
    ring = next;
  }
  return Int32Array.from(found);
}
