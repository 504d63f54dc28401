import type { Camera } from './camera.ts';
import type { Plane, Rgba } from '../pixels/raster.ts';

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

/** Places at which a ray is looked at, at most, before the crossing is narrowed down. */
const mostLooks = 14;

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
  /** Places at which each is looked at from near to far: a ray that crosses few pixels of the map needs few. */
  looks: number;
  /** Pixels of the map it crosses at most. */
  longest: number;
}

/** The least and the most closeness in and around every cell of a map, side by side, row by row. */
export interface ReliefBounds {
  data: Float32Array;
  columns: number;
  rows: number;
}

/** Pixels of the map a cell of its bounds is wide and high. */
export const boundsCell = 16;

/** Bounds of the cells alone, for each map once: which map is looked at rarely changes from frame to frame. */
const cellBounds = new WeakMap<Float32Array, ReliefBounds>();

/**
 * Between which closenesses the surface can be that a ray meets which begins or ends in a cell: it is looked for only there.
 * @param reach pixels of the map the ray crosses
 */
export function boundsOfRelief(map: Plane, reach: number): ReliefBounds {
  const cells = cellBounds.get(map.data) ?? boundsOfCells(map);
  cellBounds.set(map.data, cells);
  const around = Math.ceil((reach + 1) / boundsCell);
  const { columns, rows } = cells;
  const across = spreadBounds(cells, around, 1, columns, (row) => row * columns, rows);
  return spreadBounds(across, around, columns, rows, (column) => column, columns);
}

function boundsOfCells({ width, height, data }: Plane): ReliefBounds {
  const [columns, rows] = [Math.ceil(width / boundsCell), Math.ceil(height / boundsCell)];
  const bounds = new Float32Array(columns * rows * 2);
  for (let i = 0; i < bounds.length; i += 2) [bounds[i], bounds[i + 1]] = [1, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (Math.floor(y / boundsCell) * columns + Math.floor(x / boundsCell)) * 2;
      const v = data[y * width + x]!;
      if (v < bounds[at]!) bounds[at] = v;
      if (v > bounds[at + 1]!) bounds[at + 1] = v;
    }
  }
  return { data: bounds, columns, rows };
}

/** Bounds with those of their neighbours in one direction taken in. */
function spreadBounds(
  { data, columns, rows }: ReliefBounds,
  around: number,
  step: number,
  length: number,
  start: (line: number) => number,
  lines: number,
): ReliefBounds {
  const out = new Float32Array(data.length);
  for (let line = 0; line < lines; line++) {
    for (let k = 0; k < length; k++) {
      let [low, high] = [1, 0];
      for (let n = Math.max(0, k - around); n <= Math.min(length - 1, k + around); n++) {
        const at = (start(line) + n * step) * 2;
        low = Math.min(low, data[at]!);
        high = Math.max(high, data[at + 1]!);
      }
      const to = (start(line) + k * step) * 2;
      [out[to], out[to + 1]] = [low, high];
    }
  }
  return { data: out, columns, rows };
}

/**
 * @param area of the surface, in its pixels
 * @param shrink pixels of the map for each pixel of the picture
 */
export function raysOf(
  view: ReliefView,
  area: { x: number; y: number; width: number; height: number },
  shrink: number,
): ReliefRays {
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
  const [a, b, c, d] = view.toPicture;
  // The way over the map is longest at a corner, as it changes in proportion to the place.
  let longest = 0;
  for (const x of [0, area.width])
    for (const y of [0, area.height]) {
      const wx = camera.x - camera.z * (start[0] + cos * x - sin * y);
      const wy = camera.y - camera.z * (start[1] + sin * x + cos * y);
      longest = Math.max(longest, Math.hypot(a * wx + c * wy, b * wx + d * wy) * Math.abs(qNear - qFar) * shrink);
    }
  const looks = Math.max(2, Math.min(mostLooks, Math.ceil(longest) + 1));
  const eye = [camera.x, camera.y, camera.z] as const;
  return { start, along: [cos, sin], down: [-sin, cos], camera: eye, qNear, qFar, looks, longest };
}

/**
 * A picture seen through the lens pixel by pixel, each at the distance its closeness says. With q = 1 / distance, a point
 * at p appears at (p - c q) / (1 - z q), so what is seen at o lies at p = o + q (c - z o): a straight line over the
 * picture. It is followed from near to far until it meets the relief (relief mapping: Policarpo, Oliveira & Comba 2005).
 * @param map closeness 0..1, with the picture's proportions
 * @param write called for every pixel of the surface with the place in the picture (pixels) that it shows, and how far that is
 *   stretched there along the ray: 1 as it lies, 4 where one pixel covers four
 */
export function traceRelief(
  map: Plane,
  picture: { width: number; height: number },
  view: ReliefView,
  area: { x: number; y: number; width: number; height: number },
  write: (u: number, v: number, at: number, stretch: number) => void,
): void {
  const [a, b, c, d, e, f] = view.toPicture;
  const [sx, sy] = [map.width / picture.width, map.height / picture.height];
  const { start, along, down, camera, qNear, qFar, looks, longest } = raysOf(view, area, Math.max(sx, sy));
  const bounds = boundsOfRelief(map, longest);
  const cellOf = (v: number, cells: number): number => Math.max(0, Math.min(cells - 1, Math.floor(v / boundsCell)));
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
      const column0 = cellOf((u0 + du * qFar) * sx, bounds.columns);
      const cell = (cellOf((v0 + dv * qFar) * sy, bounds.rows) * bounds.columns + column0) * 2;
      const [low, high] = [bounds.data[cell]!, bounds.data[cell + 1]!];
      const steps = Math.ceil(looks * (high - low)) + 1;
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
