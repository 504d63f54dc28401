import type { Plane, Rgba } from '../pixels/raster.ts';
import { raysOf, type ReliefView } from '../depth/relief.ts';
import type { DrawRelief, SwayNow } from '../scene/draw.ts';
import type { Matrix } from '../scene/matrix.ts';
import { homographyOf, invertHomography, throughHomography, type Homography } from '../depth/homography.ts';
import { pushOf } from '../motion/sway.ts';
import { canWarpByKernel, kernelWarps } from './kernel-warps.ts';
import { plainWarps } from './plain-warps.ts';
import { isTorn, layUnder, sharesInFront, tornBlocks } from './torn.ts';
import type { Lattice, PlacedPixels, Warps } from './warps.ts';

const warps = (): Warps => (canWarpByKernel() ? kernelWarps : plainWarps);

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
  warps().sway(picture, latticeOf(sways, { width, height, step, room, shrink }), out);
  return out;
}

/** Pushes (x, y in given pixels) and light at every `step`-th pixel: waves are long against a pixel. */
function latticeOf(
  sways: readonly SwayNow[],
  { width, height, step, room, shrink }: { width: number; height: number; step: number; room: number; shrink: number },
): Lattice {
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
  return { nodes: out, columns, step, room };
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
  // Pixels of the picture are counted from its own corner, and the surface from the part that is made.
  const toPixels: Homography = [shrink, 0, -picture.x, 0, shrink, -picture.y, 0, 0, 1];
  const fromPart: Homography = [1, 0, left, 0, 1, top, 0, 0, 1];
  warps().project(picture, multiplied(toPixels, multiplied(back, fromPart)), out);
  return out;
}

/**
 * A picture with a depth map as it lies on the surface, every pixel seen at its own distance.
 * @param shrink pixels given for each of its own pixels  @param behind what comes to light where it is torn open
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
  behind: { picture: PlacedPixels; map: Plane; shrink: number } | null = null,
): PlacedPixels {
  const { scale, shrink, frame, surface } = view;
  const { width, height } = surface;
  const paper = (): PlacedPixels => ({ x: 0, y: 0, width, height, data: new Uint8ClampedArray(width * height * 4) });
  const middle = { x: view.x + (frame.width / 2) * scale, y: view.y + (frame.height / 2) * scale };
  const through = (given: number): ReliefView => {
    const [a, b, c, d, e, f] = relief.toImage.map((v) => v * given) as unknown as Matrix;
    const { camera, near, far } = relief;
    return { camera, near, far, toPicture: [a, b, c, d, e, f], scale, ...middle };
  };
  const out = paper();
  const front = behind ? new Uint8Array(width * height) : undefined;
  const seen = through(shrink);
  warps().relieve(picture, map, seen, out, { front });
  if (!behind || !isTorn(front!)) return out;
  const [a, b] = seen.toPicture;
  const rays = raysOf(seen, out);
  const shares = sharesInFront(front!, out, rays, Math.hypot(a, b) * Math.hypot(...rays.along));
  const under = paper();
  warps().relieve(behind.picture, behind.map, through(behind.shrink), under, { only: tornBlocks(shares, out) });
  layUnder(out, shares, under);
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
