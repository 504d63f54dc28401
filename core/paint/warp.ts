import type { Rgba } from '../pixels/raster.ts';
import type { SwayNow } from '../scene/draw.ts';
import type { Matrix } from '../scene/matrix.ts';
import { homographyOf, invertHomography, throughHomography, type Homography } from '../depth/homography.ts';
import { pushOf } from '../motion/sway.ts';

/** Pixels that lie at (x, y) of a larger whole. */
export interface PlacedPixels extends Rgba {
  x: number;
  y: number;
}

/**
 * A picture with all its sways: each pixel is taken from where the waves pushed it from. The result reaches as far over
 * the picture's borders as the strongest push.
 * @param shrink pixels given for each pixel the sways are measured in
 */
export function swayed(picture: Rgba, sways: readonly SwayNow[], shrink: number): PlacedPixels {
  const room = Math.ceil(Math.max(...sways.map((s) => s.strength)) * shrink * 1.3) + 1;
  const [width, height] = [picture.width + 2 * room, picture.height + 2 * room];
  const out: PlacedPixels = { x: -room, y: -room, width, height, data: new Uint8ClampedArray(width * height * 4) };
  const step = Math.max(1, Math.min(8, Math.floor((Math.min(...sways.map((s) => s.size)) * shrink) / 16)));
  const lattice = latticeOf(sways, { width, height, step, room, shrink });
  const columns = Math.ceil(width / step) + 1;
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / step);
    const fy = y / step - row;
    for (let x = 0; x < width; x++) {
      const column = Math.floor(x / step);
      const fx = x / step - column;
      const p = (row * columns + column) * 3;
      const q = p + columns * 3;
      const [wa, wb, wc, wd] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
      const dx = wa * lattice[p]! + wb * lattice[p + 3]! + wc * lattice[q]! + wd * lattice[q + 3]!;
      const dy = wa * lattice[p + 1]! + wb * lattice[p + 4]! + wc * lattice[q + 1]! + wd * lattice[q + 4]!;
      const light = wa * lattice[p + 2]! + wb * lattice[p + 5]! + wc * lattice[q + 2]! + wd * lattice[q + 5]!;
      const at = (y * width + x) * 4;
      sample(picture, x - room + 0.5 - dx, y - room + 0.5 - dy, out.data, at);
      if (light !== 0) for (let c = 0; c < 3; c++) out.data[at + c] = out.data[at + c]! * (1 + light);
    }
  }
  return out;
}

/** Pushes (x, y in given pixels) and light at every `step`-th pixel: waves are long against a pixel. */
function latticeOf(
  sways: readonly SwayNow[],
  { width, height, step, room, shrink }: { width: number; height: number; step: number; room: number; shrink: number },
): Float32Array {
  const columns = Math.ceil(width / step) + 1;
  const rows = Math.ceil(height / step) + 1;
  const out = new Float32Array(columns * rows * 3);
  const push = new Float64Array(3);
  for (const by of sways.map((sway) => pushOf(sway))) {
    for (let row = 0; row < rows; row++) {
      for (let column = 0; column < columns; column++) {
        by((column * step - room + 0.5) / shrink, (row * step - room + 0.5) / shrink, push);
        const at = (row * columns + column) * 3;
        out[at] = out[at]! + push[0]! * shrink;
        out[at + 1] = out[at + 1]! + push[1]! * shrink;
        out[at + 2] = out[at + 2]! + push[2]!;
      }
    }
  }
  return out;
}

interface Projection {
  matrix: Matrix;
  /** Size of the undistorted picture in its own pixels. */
  width: number;
  height: number;
  corners: readonly number[];
  /** Pixels given for each of its own pixels. */
  shrink: number;
}

/**
 * A picture whose four corners were moved, as it lies on the surface: the projective map through the corners, not two
 * triangles (Heckbert 1989). Null when the corners make no quadrangle or none of it is seen.
 */
export function projected(
  picture: PlacedPixels,
  { matrix, width, height, corners, shrink }: Projection,
  view: { scale: number; x: number; y: number; surface: { width: number; height: number } },
): PlacedPixels | null {
  const square = [0, 0, width, 0, width, height, 0, height];
  const map = homographyOf(
    square,
    square.map((v, k) => v + corners[k]!),
  );
  if (!map) return null;
  const [a, b, c, d, e, f] = matrix;
  const { scale } = view;
  const toSurface: Homography = [
    a * scale,
    c * scale,
    e * scale + view.x,
    b * scale,
    d * scale,
    f * scale + view.y,
    0,
    0,
    1,
  ];
  const whole = multiplied(toSurface, map);
  const back = invertHomography(whole);
  const ends = cornersOf(picture, shrink).map(([u, v]) => throughHomography(whole, u, v));
  if (!back || ends.some((end) => !end)) return null;
  const xs = ends.map((end) => end![0]);
  const ys = ends.map((end) => end![1]);
  const left = Math.max(0, Math.floor(Math.min(...xs)));
  const top = Math.max(0, Math.floor(Math.min(...ys)));
  const right = Math.min(view.surface.width, Math.ceil(Math.max(...xs)));
  const bottom = Math.min(view.surface.height, Math.ceil(Math.max(...ys)));
  if (right <= left || bottom <= top) return null;
  const size = { width: right - left, height: bottom - top };
  const out: PlacedPixels = { x: left, y: top, ...size, data: new Uint8ClampedArray(size.width * size.height * 4) };
  const [g0, g1, g2, g3, g4, g5, g6, g7, g8] = back;
  for (let y = 0; y < size.height; y++) {
    for (let x = 0; x < size.width; x++) {
      const [px, py] = [x + left + 0.5, y + top + 0.5];
      const w = g6 * px + g7 * py + g8;
      const u = ((g0 * px + g1 * py + g2) / w) * shrink - picture.x;
      const v = ((g3 * px + g4 * py + g5) / w) * shrink - picture.y;
      sample(picture, u, v, out.data, (y * size.width + x) * 4);
    }
  }
  return out;
}

function cornersOf({ x, y, width, height }: PlacedPixels, shrink: number): [number, number][] {
  const [l, t, r, b] = [x / shrink, y / shrink, (x + width) / shrink, (y + height) / shrink];
  return [
    [l, t],
    [r, t],
    [r, b],
    [l, b],
  ];
}

function multiplied(p: Homography, q: Homography): Homography {
  return Array.from({ length: 9 }, (_, k) => {
    const [row, column] = [Math.floor(k / 3) * 3, k % 3];
    return p[row]! * q[column]! + p[row + 1]! * q[column + 3]! + p[row + 2]! * q[column + 6]!;
  }) as unknown as Homography;
}

/** The picture at a place (pixel centres at halves), bilinear with alpha; clear outside, fading over half a pixel. */
function sample({ width, height, data }: Rgba, x: number, y: number, out: Uint8ClampedArray, at: number): void {
  const u = x - 0.5;
  const v = y - 0.5;
  const left = Math.floor(u);
  const top = Math.floor(v);
  if (left < -1 || top < -1 || left >= width || top >= height) return;
  const fx = u - left;
  const fy = v - top;
  let r = 0;
  let g = 0;
  let b = 0;
  let alpha = 0;
  for (let k = 0; k < 4; k++) {
    const px = left + (k & 1);
    const py = top + (k >> 1);
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const i = (py * width + px) * 4;
    const w = (k & 1 ? fx : 1 - fx) * (k >> 1 ? fy : 1 - fy) * data[i + 3]!;
    r += w * data[i]!;
    g += w * data[i + 1]!;
    b += w * data[i + 2]!;
    alpha += w;
  }
  if (alpha <= 0) return;
  out[at] = r / alpha;
  out[at + 1] = g / alpha;
  out[at + 2] = b / alpha;
  out[at + 3] = alpha;
}
