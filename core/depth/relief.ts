import type { Camera } from './camera.ts';
import type { Plane, Rgba } from '../pixels/raster.ts';
import { boundsOfBlocks, raysBlock, type MapRays } from './relief-bounds.ts';

/** How a picture with a depth map hangs: its pixels lie between two distances. */
export interface ReliefView {
  camera: Camera;
  /** Distances of closeness 1 and 0. */
  near: number;
  far: number;
  /** Rest pixels (origin in the centre) to pixels of the picture: u = a x + c y + e, v = b x + d y + f. */
  toPicture: readonly [number, number, number, number, number, number];
  /** Surface pixels to frame pixels around the centre. */
  scale: number;
  x: number;
  y: number;
}

/** From here on what is stretched gives way to what lies behind it, and from here on it is gone. */
const [givesWay, gone] = [1.6, 2.6];

/** The share (0..255) of what is stretched so far that is still to be seen before what lies behind it. */
export const shareInFront = (stretch: number): number =>
  Math.round(255 * Math.max(0, Math.min(1, (gone - stretch) / (gone - givesWay))));

/** Where the ray of every pixel of an area goes: all in rest pixels, and linear over the area. */
export interface ReliefRays {
  /** The rest pixel of the area's first pixel, and what a step along a row and to the next row adds. */
  start: readonly [number, number];
  along: readonly [number, number];
  down: readonly [number, number];
  camera: readonly [x: number, y: number, z: number];
  /** 1 / distance of closeness 1 and 0. */
  qNear: number;
  qFar: number;
}

/** @param area of the surface, in its pixels */
export function raysOf(view: ReliefView, area: { x: number; y: number; width: number; height: number }): ReliefRays {
  const { camera } = view;
  const { zoom = 1, roll = 0, planes } = camera;
  const turn = (roll * Math.PI) / 180;
  const by = zoom * view.scale;
  const [cos, sin] = [Math.cos(turn) / by, Math.sin(turn) / by];
  const held = planes?.hold ? planes.hold / (planes.depth - camera.z) : 0;
  const [px, py] = [area.x + 0.5 - view.x, area.y + 0.5 - view.y];
  // The roll is undone first, then the zoom, then the share of the way that is taken back.
  const start = [px * cos - py * sin - held * camera.x, px * sin + py * cos - held * camera.y] as const;
  const [qNear, qFar] = [relatedCloseness(view, 1 / view.near), relatedCloseness(view, 1 / view.far)];
  const eye = [camera.x, camera.y, camera.z] as const;
  return { start, along: [cos, sin], down: [-sin, cos], camera: eye, qNear, qFar };
}

/** The same rays as they go over the map. @param shrink pixels of the map for each pixel of the picture, across and down */
export function raysOverMap(
  { start, along, down, camera: [x, y, z], qNear, qFar }: ReliefRays,
  [a, b, c, d, e, f]: ReliefView['toPicture'],
  [across, downward]: readonly [number, number],
): MapRays {
  /** Place of (ox, oy) at closeness 0 and at 1; `whole` is 1 for places, and 0 for steps between them. */
  const over = ([ox, oy]: readonly [number, number], whole: number): MapRays['start'] => {
    const [wx, wy] = [x * whole - z * ox, y * whole - z * oy];
    const at = (q: number): [number, number] => [
      (a * (ox + wx * q) + c * (oy + wy * q) + e * whole) * across,
      (b * (ox + wx * q) + d * (oy + wy * q) + f * whole) * downward,
    ];
    return [...at(qFar), ...at(qNear)];
  };
  return { start: over(start, 1), along: over(along, 0), down: over(down, 0) };
}

/**
 * A picture seen through the lens pixel by pixel, each at the distance its closeness says. With q = 1 / distance, a point
 * at p appears at (p - c q) / (1 - z q), so what is seen at o lies at p = o + q (c - z o): a straight line over the
 * picture. It is followed from near to far until it meets the relief (relief mapping: Policarpo, Oliveira & Comba 2005),
 * only where it can be.
 * @param map closeness 0..1, with the picture's proportions
 * @param write called for every pixel of the surface with the place in the picture (pixels) that it shows, and how far that is
 *   stretched there along the ray: 1 as it lies, 4 where one pixel covers four
 * @param only as in `boundsOfBlocks`
 */
export function traceRelief(
  map: Plane,
  picture: { width: number; height: number },
  view: ReliefView,
  area: { x: number; y: number; width: number; height: number },
  write: (u: number, v: number, at: number, stretch: number) => void,
  only?: Uint8Array,
): void {
  const [a, b, c, d, e, f] = view.toPicture;
  const [sx, sy] = [map.width / picture.width, map.height / picture.height];
  const rays = raysOf(view, area);
  const { start, along, down, camera, qNear, qFar } = rays;
  const bounds = boundsOfBlocks(map, raysOverMap(rays, view.toPicture, [sx, sy]), area, only);
  const blocks = Math.ceil(area.width / raysBlock);
  const looked = map.data;
  const closenessAt = (u: number, v: number): number => {
    const x = Math.max(0, Math.min(map.width - 1.001, u * sx - 0.5));
    const y = Math.max(0, Math.min(map.height - 1.001, v * sy - 0.5));
    const left = x | 0;
    const top = y | 0;
    const i = top * map.width + left;
    const fx = x - left;
    const above = looked[i]! + (looked[i + 1]! - looked[i]!) * fx;
    const below = looked[i + map.width]! + (looked[i + map.width + 1]! - looked[i + map.width]!) * fx;
    return above + (below - above) * (y - top);
  };
  for (let row = 0; row < area.height; row++) {
    for (let column = 0; column < area.width; column++) {
      const ox = start[0] + along[0] * column + down[0] * row;
      const oy = start[1] + along[1] * column + down[1] * row;
      const wx = camera[0] - camera[2] * ox;
      const wy = camera[1] - camera[2] * oy;
      const u0 = a * ox + c * oy + e;
      const v0 = b * ox + d * oy + f;
      const du = a * wx + c * wy;
      const dv = b * wx + d * wy;
      const block = (Math.floor(row / raysBlock) * blocks + Math.floor(column / raysBlock)) * 3;
      const [low, high, steps] = [bounds[block]!, bounds[block + 1]!, bounds[block + 2]!];
      if (steps === 0) continue;
      let k = high;
      const first = qFar + k * (qNear - qFar);
      let above = k - closenessAt(u0 + du * first, v0 + dv * first);
      let before = k;
      let gap = above;
      for (let n = 1; n <= steps && gap > 0; n++) {
        before = k;
        above = gap;
        k = high + (low - high) * (n / steps);
        const q = qFar + k * (qNear - qFar);
        gap = k - closenessAt(u0 + du * q, v0 + dv * q);
      }
      // Between the last look above the relief and the first below it, it is met where the straight line says.
      let stretch = 1;
      if (gap < 0 && above > 0) {
        // By how much faster the ray sinks under the relief than it goes on: that is how steep the relief rises to meet it.
        stretch = (above - gap) / (before - k);
        k = k + ((before - k) * -gap) / (above - gap);
      }
      const q = qFar + k * (qNear - qFar);
      write(u0 + du * q, v0 + dv * q, row * area.width + column, stretch);
    }
  }
}

/** 1 / distance as the camera takes it, with near and far made more or less unlike. */
function relatedCloseness({ camera }: ReliefView, q: number): number {
  const { planes } = camera;
  return planes ? Math.max(1e-3, 1 / planes.depth + planes.parallax * (q - 1 / planes.depth)) : q;
}

/** Closeness from a grey picture. */
export function closenessOf({ width, height, data }: Rgba): Plane {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = data[i * 4]! / 255;
  return { width, height, data: out };
}
