import type { Plane, Rgba } from '../pixels/raster.ts';
import { traceRelief } from '../depth/relief.ts';
import type { DrawRelief, SwayNow } from '../scene/draw.ts';
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
    for (let column = 0; column * step < width; column++) {
      // Along a row the push is linear between two nodes, so it is stepped instead of mixed anew for every pixel.
      const p = (row * columns + column) * 3;
      const q = p + columns * 3;
      let dx = lattice[p]! + (lattice[q]! - lattice[p]!) * fy;
      let dy = lattice[p + 1]! + (lattice[q + 1]! - lattice[p + 1]!) * fy;
      let light = lattice[p + 2]! + (lattice[q + 2]! - lattice[p + 2]!) * fy;
      const stepX = (lattice[p + 3]! + (lattice[q + 3]! - lattice[p + 3]!) * fy - dx) / step;
      const stepY = (lattice[p + 4]! + (lattice[q + 4]! - lattice[p + 4]!) * fy - dy) / step;
      const stepLight = (lattice[p + 5]! + (lattice[q + 5]! - lattice[p + 5]!) * fy - light) / step;
      const end = Math.min(width, (column + 1) * step);
      for (let x = column * step; x < end; x++) {
        sample(picture, x - room + 0.5 - dx, y - room + 0.5 - dy, out.data, (y * width + x) * 4, 1 + light);
        dx += stepX;
        dy += stepY;
        light += stepLight;
      }
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
    const py = y + top + 0.5;
    for (let x = 0; x < size.width; x++) {
      const px = x + left + 0.5;
      const w = g6 * px + g7 * py + g8;
      const u = ((g0 * px + g1 * py + g2) / w) * shrink - picture.x;
      const v = ((g3 * px + g4 * py + g5) / w) * shrink - picture.y;
      sample(picture, u, v, out.data, (y * size.width + x) * 4, 1);
    }
  }
  return out;
}

/**
 * A picture with a depth map as it lies on the surface, every pixel seen at its own distance.
 * @param shrink pixels given for each of its own pixels
 */
export function relieved(
  picture: PlacedPixels,
  map: Plane,
  relief: DrawRelief,
  view: {
    scale: number;
    x: number;
    y: number;
    shrink: number;
    frame: { width: number; height: number };
    surface: { width: number; height: number };
  },
): PlacedPixels {
  const { scale, shrink, frame, surface } = view;
  const { width, height } = surface;
  const out: PlacedPixels = { x: 0, y: 0, width, height, data: new Uint8ClampedArray(width * height * 4) };
  const [a, b, c, d, e, f] = relief.toImage;
  const toPicture = [a * shrink, b * shrink, c * shrink, d * shrink, e * shrink, f * shrink] as const;
  const middle = { x: view.x + (frame.width / 2) * scale, y: view.y + (frame.height / 2) * scale };
  const whole = { width: picture.width + 2 * picture.x, height: picture.height + 2 * picture.y };
  const through = { camera: relief.camera, near: relief.near, far: relief.far, toPicture, scale, ...middle };
  traceRelief(map, whole, through, { x: 0, y: 0, width, height }, (u, v, at) =>
    sample(picture, u - picture.x, v - picture.y, out.data, at * 4, 1),
  );
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

/**
 * The picture at a place (pixel centres at halves), bilinear with alpha and lit by a factor; clear outside, fading over
 * half a pixel.
 */
function sample(picture: Rgba, x: number, y: number, out: Uint8ClampedArray, at: number, light: number): void {
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
