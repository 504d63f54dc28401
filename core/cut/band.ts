import type { Bytes } from '../pixels/raster.ts';

/**
 * The pixels within `radius` steps (8 neighbours) of the boundary of `mask`, by breadth-first search, so that the cost
 * follows the length of the boundary and not the size of the picture. Where `within` is given only its set pixels count.
 */
export const boundaryBand = (mask: Bytes, radius: number, within: Bytes | null = null): Int32Array =>
  boundaryBands(mask, [radius], within)[0]!;

/** The same for several radii, the least first; each band begins with the one before. */
export function boundaryBands(mask: Bytes, radii: readonly number[], within: Bytes | null = null): Int32Array[] {
  const { width, height } = mask;
  const met = new Uint8Array(width * height);
  const found = boundaryOf(mask, within);
  for (const i of found) met[i] = 1;
  const ends: number[] = [];
  let ring = 0;
  for (let step = 1; ; step++) {
    const end = found.length;
    while (ends.length < radii.length && radii[ends.length]! <= step) ends.push(end);
    if (ends.length === radii.length) break;
    for (; ring < end; ring++) {
      const x = found[ring]! % width;
      const y = (found[ring]! / width) | 0;
      const right = Math.min(width - 1, x + 1);
      const bottom = Math.min(height - 1, y + 1);
      for (let ny = Math.max(0, y - 1); ny <= bottom; ny++) {
        for (let nx = Math.max(0, x - 1); nx <= right; nx++) {
          const j = ny * width + nx;
          if (met[j] || (within && !within.data[j])) continue;
          met[j] = 1;
          found.push(j);
        }
      }
    }
  }
  const all = Int32Array.from(found);
  return ends.map((end) => all.subarray(0, end));
}

/** The pixels that have one of the other side above, below or beside them. */
function boundaryOf({ width, height, data }: Bytes, within: Bytes | null): number[] {
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
      )
        found.push(i);
    }
  }
  return found;
}
