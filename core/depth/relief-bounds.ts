import type { Plane } from '../pixels/raster.ts';

/** Pixels of a surface a block is wide and high: its rays are looked at together first. */
export const raysBlock = 8;
/** Looks at the map along one ray, at most. */
const mostLooks = 24;
/** Pixels a cell of the finest level of a pyramid is wide and high, as a power of two. */
const finestShift = 2;
/** Times the range of a block is narrowed, at most, and the share of it that has to be left out for another time. */
const [narrowings, worthIt] = [6, 0.1];

/** The least and the most closeness in every cell of a map, side by side, row by row; cells twice as large from level to level. */
interface Level {
  data: Float32Array;
  columns: number;
  rows: number;
}

/** For each map once: which map is looked at rarely changes from frame to frame. */
const pyramids = new WeakMap<Float32Array, Level[]>();

/** A bundle of rays that changes in proportion to the place on the surface, in pixels of the map. */
export interface MapRays {
  /** Where the ray of the surface's first pixel meets closeness 0 and 1, and what steps along a row and down add to that. */
  start: readonly [u0: number, v0: number, u1: number, v1: number];
  along: readonly [u0: number, v0: number, u1: number, v1: number];
  down: readonly [u0: number, v0: number, u1: number, v1: number];
}

/**
 * Between which closenesses the rays of every block of a surface can meet the relief, and in how many steps it is to be looked
 * for there: the range is narrowed to what the map holds along the way of the rays, which makes their way shorter, and so on
 * (min-max pyramids: Tevs, Ihrke & Seidel 2008).
 * @param only 1 for each block that is wanted; the others get no steps
 * @returns least, most and steps of each block of `raysBlock` pixels, row by row
 */
export function boundsOfBlocks(
  map: Plane,
  rays: MapRays,
  { width, height }: { width: number; height: number },
  only?: Uint8Array,
): Float32Array {
  const levels = pyramids.get(map.data) ?? pyramidOf(map);
  pyramids.set(map.data, levels);
  const [columns, rows] = [Math.ceil(width / raysBlock), Math.ceil(height / raysBlock)];
  const out = new Float32Array(columns * rows * 3);
  const way = new Way(rays, map, levels);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      if (only && !only[row * columns + column]) continue;
      way.over(column * raysBlock, row * raysBlock);
      way.narrow();
      const at = (row * columns + column) * 3;
      out[at] = way.low;
      out[at + 1] = way.high;
      out[at + 2] = Math.max(1, Math.min(mostLooks, Math.ceil(way.longest * (way.high - way.low))));
    }
  }
  return out;
}

/** Where in the map all rays of one block go between two closenesses. */
class Way {
  low = 0;
  high = 1;
  /** Pixels of the map that the longest of them crosses from closeness 0 to 1. */
  longest = 0;
  /** Where the rays at the block's corners are at closeness 0, and how they go from there to 1. */
  private readonly corners = new Float64Array(16);
  /** Least and most closeness in the part of the map that was looked at last. */
  private least = 0;
  private most = 1;

  constructor(
    private readonly rays: MapRays,
    private readonly map: Plane,
    private readonly levels: readonly Level[],
  ) {}

  /** @param x of the block's first pixel, as y */
  over(x: number, y: number): void {
    const { start, along, down } = this.rays;
    const { corners } = this;
    let longest = 0;
    for (let at = 0; at < 16; at += 4) {
      const px = x + (at & 4 ? raysBlock - 1 : 0);
      const py = y + (at & 8 ? raysBlock - 1 : 0);
      const u = start[0] + along[0] * px + down[0] * py;
      const v = start[1] + along[1] * px + down[1] * py;
      const du = start[2] + along[2] * px + down[2] * py - u;
      const dv = start[3] + along[3] * px + down[3] * py - v;
      corners[at] = u;
      corners[at + 1] = v;
      corners[at + 2] = du;
      corners[at + 3] = dv;
      longest = Math.max(longest, du * du + dv * dv);
    }
    this.longest = Math.sqrt(longest);
  }

  /** Makes the range as small as what the map holds along the way says. */
  narrow(): void {
    this.low = 0;
    this.high = 1;
    for (let n = 0; n < narrowings; n++) {
      this.look();
      const range = this.high - this.low;
      this.low = Math.max(this.low, this.least);
      this.high = Math.max(this.low, Math.min(this.high, this.most));
      const now = this.high - this.low;
      if (range - now <= worthIt * range || now * this.longest < 1) return;
    }
  }

  /** Rays are straight, and so is what changes between them: those at the corners reach as far as any. */
  private look(): void {
    const { corners, low, high } = this;
    let left = Infinity;
    let top = Infinity;
    let right = -Infinity;
    let bottom = -Infinity;
    for (let at = 0; at < 16; at += 4) {
      const du = corners[at + 2]!;
      const dv = corners[at + 3]!;
      const u = corners[at]! + du * low;
      const v = corners[at + 1]! + dv * low;
      const u1 = u + du * (high - low);
      const v1 = v + dv * (high - low);
      left = Math.min(left, u, u1);
      right = Math.max(right, u, u1);
      top = Math.min(top, v, v1);
      bottom = Math.max(bottom, v, v1);
    }
    this.readWithin(left, top, right, bottom);
  }

  /** Reads least and most closeness in a part of the map and one pixel around, as those are mixed in. */
  private readWithin(left: number, top: number, right: number, bottom: number): void {
    const { levels } = this;
    const [lastX, lastY] = [this.map.width - 1, this.map.height - 1];
    const x0 = Math.max(0, Math.min(lastX, left - 1.5)) | 0;
    const y0 = Math.max(0, Math.min(lastY, top - 1.5)) | 0;
    const x1 = Math.max(0, Math.min(lastX, right + 1.5)) | 0;
    const y1 = Math.max(0, Math.min(lastY, bottom + 1.5)) | 0;
    let shift = finestShift;
    // A few cells a side tell nearly as much as many would.
    while (shift < finestShift + levels.length - 1 && Math.max(x1 - x0, y1 - y0) >> shift > 2) shift++;
    const { data, columns } = levels[shift - finestShift]!;
    let least = 1;
    let most = 0;
    for (let y = y0 >> shift; y <= y1 >> shift; y++) {
      for (let x = x0 >> shift; x <= x1 >> shift; x++) {
        const at = (y * columns + x) * 2;
        least = Math.min(least, data[at]!);
        most = Math.max(most, data[at + 1]!);
      }
    }
    this.least = least;
    this.most = most;
  }
}

function pyramidOf(map: Plane): Level[] {
  const levels = [finestLevel(map)];
  for (let last = levels[0]!; last.columns > 1 || last.rows > 1; last = levels.at(-1)!) levels.push(coarser(last));
  return levels;
}

function emptyLevel(columns: number, rows: number): Level {
  const data = new Float32Array(columns * rows * 2);
  for (let i = 0; i < data.length; i += 2) data[i] = 1;
  return { data, columns, rows };
}

function finestLevel({ width, height, data }: Plane): Level {
  const level = emptyLevel(((width - 1) >> finestShift) + 1, ((height - 1) >> finestShift) + 1);
  for (let y = 0; y < height; y++) {
    const row = (y >> finestShift) * level.columns;
    for (let x = 0; x < width; x++) takeIn(level, row + (x >> finestShift), data[y * width + x]!, data[y * width + x]!);
  }
  return level;
}

function coarser({ data, columns, rows }: Level): Level {
  const level = emptyLevel(Math.ceil(columns / 2), Math.ceil(rows / 2));
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const at = (y * columns + x) * 2;
      takeIn(level, (y >> 1) * level.columns + (x >> 1), data[at]!, data[at + 1]!);
    }
  }
  return level;
}

function takeIn({ data }: Level, cell: number, least: number, most: number): void {
  if (least < data[cell * 2]!) data[cell * 2] = least;
  if (most > data[cell * 2 + 1]!) data[cell * 2 + 1] = most;
}
