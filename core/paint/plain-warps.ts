import type { Rgba } from '../pixels/raster.ts';
import { shareInFront, traceRelief } from '../depth/relief.ts';
import { mappedSize, type Warps } from './warps.ts';

/** The warps in plain TypeScript: what the kernel is checked against, and what runs where there is none. */
export const plainWarps: Warps = {
  sway(picture, { nodes, columns, step, room }, out) {
    const { width, height } = out;
    for (let y = 0; y < height; y++) {
      const row = Math.floor(y / step);
      const fy = y / step - row;
      for (let column = 0; column * step < width; column++) {
        // Along a row the push is linear between two nodes, so it is stepped instead of mixed anew for every pixel.
        const p = (row * columns + column) * 3;
        const q = p + columns * 3;
        const between = (k: number): number => nodes[p + k]! + (nodes[q + k]! - nodes[p + k]!) * fy;
        let [dx, dy, light] = [between(0), between(1), between(2)];
        const [stepX, stepY, stepLight] = [
          (between(3) - dx) / step,
          (between(4) - dy) / step,
          (between(5) - light) / step,
        ];
        const end = Math.min(width, (column + 1) * step);
        for (let x = column * step; x < end; x++) {
          sample(picture, x - room + 0.5 - dx, y - room + 0.5 - dy, out.data, (y * width + x) * 4, 1 + light);
          dx += stepX;
          dy += stepY;
          light += stepLight;
        }
      }
    }
  },
  project(picture, [g0, g1, g2, g3, g4, g5, g6, g7, g8], out) {
    for (let y = 0; y < out.height; y++) {
      for (let x = 0; x < out.width; x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        const w = g6 * px + g7 * py + g8;
        const u = (g0 * px + g1 * py + g2) / w;
        const v = (g3 * px + g4 * py + g5) / w;
        sample(picture, u, v, out.data, (y * out.width + x) * 4, 1);
      }
    }
  },
  relieve(picture, map, view, out, { front, only } = {}) {
    const write = (u: number, v: number, at: number, stretch: number): void => {
      sample(picture, u - picture.x, v - picture.y, out.data, at * 4, 1);
      if (front) front[at] = shareInFront(stretch);
    };
    traceRelief(map, mappedSize(picture), view, { ...out, x: 0, y: 0 }, write, only);
  },
};

/**
 * The picture at a place (pixel centres at halves), bilinear with alpha and lit by a factor; clear outside, fading over
 * half a pixel.
 */
export function sample(picture: Rgba, x: number, y: number, out: Uint8ClampedArray, at: number, light: number): void {
  const { width, height, data } = picture;
  const left = Math.floor(x - 0.5);
  const top = Math.floor(y - 0.5);
  if (left < 0 || top < 0 || left >= width - 1 || top >= height - 1) {
    sampleRim(picture, x, y, out, at, light);
    return;
  }
  const i = (top * width + left) * 4;
  const j = i + width * 4;
  const alphas = data[i + 3]! + data[i + 7]! + data[j + 3]! + data[j + 7]!;
  if (alphas === 0) return;
  const fx = x - 0.5 - left;
  const fy = y - 0.5 - top;
  let a = (1 - fx) * (1 - fy);
  let b = fx * (1 - fy);
  let c = (1 - fx) * fy;
  let d = fx * fy;
  let alpha = 255;
  if (alphas < 1020) {
    a *= data[i + 3]!;
    b *= data[i + 7]!;
    c *= data[j + 3]!;
    d *= data[j + 7]!;
    alpha = a + b + c + d;
    if (alpha <= 0) return;
    const k = 1 / alpha;
    a *= k;
    b *= k;
    c *= k;
    d *= k;
  }
  out[at] = (a * data[i]! + b * data[i + 4]! + c * data[j]! + d * data[j + 4]!) * light;
  out[at + 1] = (a * data[i + 1]! + b * data[i + 5]! + c * data[j + 1]! + d * data[j + 5]!) * light;
  out[at + 2] = (a * data[i + 2]! + b * data[i + 6]! + c * data[j + 2]! + d * data[j + 6]!) * light;
  out[at + 3] = alpha;
}

/** The same where some of the four pixels lie outside. */
function sampleRim(picture: Rgba, x: number, y: number, out: Uint8ClampedArray, at: number, light: number): void {
  const { width, height, data } = picture;
  const left = Math.floor(x - 0.5);
  const top = Math.floor(y - 0.5);
  if (left < -1 || top < -1 || left >= width || top >= height) return;
  const sum = [0, 0, 0, 0];
  for (let k = 0; k < 4; k++) {
    const px = left + (k & 1);
    const py = top + (k >> 1);
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const i = (py * width + px) * 4;
    const across = x - 0.5 - left;
    const down = y - 0.5 - top;
    const w = (k & 1 ? across : 1 - across) * (k >> 1 ? down : 1 - down) * data[i + 3]!;
    for (let c = 0; c < 3; c++) sum[c]! += w * data[i + c]!;
    sum[3]! += w;
  }
  if (sum[3]! <= 0) return;
  for (let c = 0; c < 3; c++) out[at + c] = (sum[c]! / sum[3]!) * light;
  out[at + 3] = sum[3]!;
}
