import { makePlane, type Plane } from '../pixels/raster.ts';
import { flattened, type Path, type Point } from './path.ts';

/**
 * The exact share of every pixel that a path covers, 0..1. Each edge adds the signed area right of it to the pixels it
 * crosses, and running sums along the rows give the winding of areas (the accumulation buffer of font rasterisers). Where
 * a path runs over itself it is filled as SVG's nonzero rule says, up to pixels that two of its edges share. An open path
 * is closed by a straight line.
 */
export function coverageOf(path: Path, width: number, height: number): Plane {
  return coverageOfAll([path], width, height);
}

/** The share of every pixel that several paths cover together: one that runs the other way within another is a hole. */
export function coverageOfAll(paths: readonly Path[], width: number, height: number): Plane {
  const edges = new Float32Array((width + 2) * height);
  for (const path of paths) {
    const line = flattened(path);
    for (let k = 0; k < line.length; k++) addClipped(edges, width, height, line[k]!, line[(k + 1) % line.length]!);
  }
  const out = makePlane(width, height);
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = 0, i = y * (width + 2); x < width; x++, i++) {
      sum += edges[i]!;
      out.data[y * width + x] = Math.min(1, Math.abs(sum));
    }
  }
  return out;
}

/** Cuts an edge at the left and right border; what lies outside counts along the border itself. */
function addClipped(edges: Float32Array, width: number, height: number, from: Point, to: Point): void {
  const cuts = [0, 1];
  for (const border of [0, width]) {
    const t = (border - from[0]) / (to[0] - from[0]);
    if (t > 0 && t < 1) cuts.push(t);
  }
  cuts.sort((a, b) => a - b);
  const at = (t: number): Point => [
    Math.max(0, Math.min(width, from[0] + (to[0] - from[0]) * t)),
    from[1] + (to[1] - from[1]) * t,
  ];
  for (let k = 1; k < cuts.length; k++) addEdge(edges, width + 2, height, at(cuts[k - 1]!), at(cuts[k]!));
}

/** Adds one edge whose x lies within the buffer, row by row. */
function addEdge(edges: Float32Array, stride: number, height: number, from: Point, to: Point): void {
  if (from[1] === to[1]) return;
  const sign = from[1] < to[1] ? 1 : -1;
  const [top, bottom] = sign > 0 ? [from, to] : [to, from];
  const slope = (bottom[0] - top[0]) / (bottom[1] - top[1]);
  const first = Math.max(0, Math.floor(top[1]));
  const last = Math.min(height, Math.ceil(bottom[1]));
  for (let y = first; y < last; y++) {
    const [y0, y1] = [Math.max(y, top[1]), Math.min(y + 1, bottom[1])];
    const [x0, x1] = [top[0] + (y0 - top[1]) * slope, top[0] + (y1 - top[1]) * slope];
    addRow(edges, y * stride, Math.min(x0, x1), Math.max(x0, x1), sign * (y1 - y0));
  }
}

/** Spreads an edge that goes from x0 to x1 within one row over the pixels it crosses, by the area right of it in each. */
function addRow(edges: Float32Array, row: number, x0: number, x1: number, rise: number): void {
  const first = Math.floor(x0);
  const last = Math.floor(x1);
  if (first === last) {
    const right = first + 1 - (x0 + x1) / 2;
    edges[row + first] = edges[row + first]! + rise * right;
    edges[row + first + 1] = edges[row + first + 1]! + rise * (1 - right);
    return;
  }
  // `covered` is the area right of the edge, summed up to and including a pixel's column.
  let before = 0;
  const perPixel = rise / (x1 - x0);
  for (let x = first; x <= last + 1; x++) {
    const [a, b] = [Math.max(x0, x), Math.min(x1, x + 1)];
    const inside = b > a ? perPixel * (b - a) * (x + 1 - (a + b) / 2) : 0;
    const passed = a > x0 ? perPixel * (Math.min(a, x1) - x0) : 0;
    const covered = inside + passed;
    edges[row + x] = edges[row + x]! + covered - before;
    before = covered;
  }
}
