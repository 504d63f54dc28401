import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';

/* Small pictures of known truth for the tests of this folder. */

export function paint(width: number, height: number, color: (x: number, y: number) => [number, number, number]): Rgba {
  const picture = makeRgba(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) picture.data.set([...color(x, y), 255], (y * width + x) * 4);
  return picture;
}

export function disc(width: number, height: number, cx: number, cy: number, r: number): Bytes {
  const mask = makeBytes(width, height);
  for (let i = 0; i < mask.data.length; i++)
    mask.data[i] = Math.hypot((i % width) - cx, Math.floor(i / width) - cy) < r ? 1 : 0;
  return mask;
}

/** Planks with a fine grain: a texture a blur cannot pass for. */
export function planks(width: number, height: number): Rgba {
  const random = seededRandom(4);
  const grain = Float32Array.from({ length: width * height }, () => random());
  return paint(width, height, (x, y) => {
    const gap = x % 24 < 3 ? 0.4 : 1;
    const v = gap * (110 + 50 * grain[y * width + x]! + 14 * Math.sin(x * 0.8));
    return [v, v * 0.85, v * 0.7];
  });
}

/** Blotches of many sizes: a picture whose every place differs from every other. */
export function blotches(width: number, height: number, seed = 1): Rgba {
  const random = seededRandom(seed);
  const waves = Array.from({ length: 40 }, () => {
    const size = 0.02 * 1.11 ** (random() * 24);
    const angle = random() * Math.PI * 2;
    return { x: Math.cos(angle) * size, y: Math.sin(angle) * size, phase: random() * 7, high: 0.03 / size };
  });
  return paint(width, height, (x, y) => {
    const v = waves.reduce((sum, w) => sum + Math.min(16, 9 * w.high) * Math.sin(w.x * x + w.y * y + w.phase), 128);
    return [v, v * 0.9 + 10, v * 0.7 + 30];
  });
}

/** `picture` with `color` wherever `mask` is 1. */
export function covered(picture: Rgba, mask: Bytes, color: [number, number, number]): Rgba {
  const out: Rgba = { ...picture, data: picture.data.slice() };
  for (let i = 0; i < mask.data.length; i++) if (mask.data[i]) out.data.set(color, i * 4);
  return out;
}

/** Mean absolute difference in bytes over the pixels of a mask. */
export function meanDifference(a: Rgba, b: Rgba, mask: Bytes): number {
  let sum = 0;
  let n = 0;
  for (let i = 0; i < mask.data.length; i++) {
    if (!mask.data[i]) continue;
    for (let c = 0; c < 3; c++) sum += Math.abs(a.data[i * 4 + c]! - b.data[i * 4 + c]!);
    n += 3;
  }
  return sum / Math.max(1, n);
}
