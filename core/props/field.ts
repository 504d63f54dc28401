import { hashOf } from '../pixels/random.ts';
import type { Field, PropMoment } from './prop.ts';

/** A table of noise for dithering: its cells are unlike their neighbours, and it repeats after so many. */
const ditherSide = 64;
let ditherTable: Float32Array | null = null;
const dithers = (): Float32Array =>
  (ditherTable ??= Float32Array.from({ length: ditherSide * ditherSide }, (_, i) => hashOf(77, i) - 0.5));

/**
 * A field of one colour whose opacity a function says at every place; dithered before it becomes eight bits, so that no
 * bands are seen.
 * @param cell box pixels a pixel of the field stands for, at least
 * @param opacity at a place in box pixels, 0..1
 */
export function tinted(
  moment: PropMoment,
  cell: number,
  colour: readonly number[],
  opacity: (x: number, y: number) => number,
): Field {
  return coloured(moment, cell, (x, y, out) => {
    out[0] = colour[0]!;
    out[1] = colour[1]!;
    out[2] = colour[2]!;
    out[3] = opacity(x, y) * (colour[3] ?? 1);
  });
}

/** A field whose colour (0..255) and opacity (0..1) a function writes for every place. */
export function coloured(
  { width, height, raster }: PropMoment,
  cell: number,
  ink: (x: number, y: number, out: number[]) => void,
): Field {
  const size = Math.max(cell, 1 / raster);
  const [w, h] = [Math.max(1, Math.ceil(width / size)), Math.max(1, Math.ceil(height / size))];
  const data = new Uint8ClampedArray(w * h * 4);
  const out = [0, 0, 0, 0];
  const dither = dithers();
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i += 4) {
      ink(((x + 0.5) * width) / w, ((y + 0.5) * height) / h, out);
      const noise = dither[(y % ditherSide) * ditherSide + (x % ditherSide)]!;
      data[i] = out[0]!;
      data[i + 1] = out[1]!;
      data[i + 2] = out[2]!;
      const alpha = out[3]! * 255;
      // What is quite empty or quite full stays so.
      data[i + 3] = alpha <= 0 ? 0 : alpha >= 255 ? 255 : alpha + noise;
    }
  return { kind: 'field', data, width: w, height: h };
}

/** How much of a pixel lies on the inner side of an edge, by its distance from it: positive inside, in raster pixels. */
export const coverage = (distance: number): number => Math.max(0, Math.min(1, distance + 0.5));
