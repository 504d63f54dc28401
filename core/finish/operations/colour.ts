import type { FinishPixels } from '../finish.ts';
import { kernelOf, laid } from './memory.ts';

type Triple = readonly [number, number, number];

/** Light of a colour, 0..255 (ITU-R BT.709 weights on the values as they are). */
export const lightOf = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Maps the three channels of every pixel that is not wholly clear; `change` writes into the triple it is given. */
export function eachColour({ data }: FinishPixels, change: (rgb: [number, number, number]) => void): void {
  const rgb: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] === 0) continue;
    rgb[0] = data[i]!;
    rgb[1] = data[i + 1]!;
    rgb[2] = data[i + 2]!;
    change(rgb);
    data[i] = rgb[0];
    data[i + 1] = rgb[1];
    data[i + 2] = rgb[2];
  }
}

/** Puts every channel through its table of 256 entries 0..255; one table is for all three. */
export function throughTables(pixels: FinishPixels, tables: readonly ArrayLike<number>[]): void {
  const bytes = new Uint8ClampedArray(768);
  for (let c = 0; c < 3; c++) bytes.set(tables[c] ?? tables[0]!, c * 256);
  const { data } = pixels;
  const kernel = kernelOf(data);
  if (kernel && laid([bytes], (at) => kernel.throughTables(data.byteOffset, data.length / 4, at))) return;
  const [red, green, blue] = [bytes.subarray(0, 256), bytes.subarray(256, 512), bytes.subarray(512)];
  for (let i = 0; i < data.length; i += 4) {
    data[i] = red[data[i]!]!;
    data[i + 1] = green[data[i + 1]!]!;
    data[i + 2] = blue[data[i + 2]!]!;
  }
}

/** Every colour times a matrix, plus a colour. @param rows what becomes red, green and blue, each of red, green and blue */
export function throughMatrix(pixels: FinishPixels, rows: readonly [Triple, Triple, Triple], added: Triple): void {
  const { data } = pixels;
  const kernel = kernelOf(data);
  const columns = [0, 1, 2].flatMap((c) => [rows[0][c]!, rows[1][c]!, rows[2][c]!, 0]);
  const matrix = Float32Array.of(...columns, ...added, 0);
  if (kernel && laid([matrix], (at) => kernel.throughMatrix(data.byteOffset, data.length / 4, at))) return;
  eachColour(pixels, (rgb) => {
    const [r, g, b] = rgb;
    for (let c = 0; c < 3; c++) rgb[c] = rows[c]![0] * r + rows[c]![1] * g + rows[c]![2] * b + added[c]!;
  });
}

/** Steps of light for which a colour is known; between them it is mixed. */
const lightSteps = 1024;

/** Gives every pixel the colour of its light, by an amount of 0..1. @param colourAt a colour 0..255 for light 0..1 */
export function byLight(pixels: FinishPixels, colourAt: (light: number) => Triple, amount: number): void {
  const table = new Float32Array((lightSteps + 1) * 4);
  for (let n = 0; n <= lightSteps; n++) table.set(colourAt(n / lightSteps), n * 4);
  const { data } = pixels;
  const kernel = kernelOf(data);
  const byKernel = (at: number): void => kernel!.byLight(data.byteOffset, data.length / 4, at, lightSteps, amount);
  if (kernel && laid([table], byKernel)) return;
  eachColour(pixels, (rgb) => {
    const place = (lightOf(...rgb) / 255) * lightSteps;
    const n = Math.min(lightSteps - 1, Math.floor(place));
    for (let c = 0; c < 3; c++) {
      const [low, high] = [table[n * 4 + c]!, table[n * 4 + 4 + c]!];
      rgb[c] = rgb[c]! + (low + (high - low) * (place - n) - rgb[c]!) * amount;
    }
  });
}

/** Means of the channels and of their products (red x red, x green, x blue, green x green, x blue, blue x blue), by alpha. */
export interface Moments {
  means: [number, number, number];
  products: [number, number, number, number, number, number];
}

/** Null where nothing is there. */
export function momentsOf({ data }: FinishPixels): Moments | null {
  const sums = new Float64Array(10);
  const kernel = kernelOf(data);
  const byKernel = (at: number): void => {
    kernel!.moments(data.byteOffset, data.length / 4, at);
    sums.set(new Float64Array(kernel!.memory.buffer, at, 10));
  };
  if (!kernel || !laid([sums], byKernel))
    for (let i = 0; i < data.length; i += 4) {
      const [r, g, b, alpha] = [data[i]!, data[i + 1]!, data[i + 2]!, data[i + 3]!];
      [1, r, g, b, r * r, r * g, r * b, g * g, g * b, b * b].forEach((v, k) => (sums[k]! += v * alpha));
    }
  const [weight, ...rest] = sums;
  if (!weight) return null;
  const [red, green, blue, ...products] = rest.map((sum) => sum / weight);
  return { means: [red!, green!, blue!], products: products as Moments['products'] };
}
