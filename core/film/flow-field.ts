import { pyramidOf } from '../follow/cutting.ts';
import { flowOf, type Point } from '../follow/flow.ts';
import { lumaOf } from '../pixels/color.ts';
import { makePlane, type Plane, type Rect, type Rgba } from '../pixels/raster.ts';

/** Where the pixels of a frame were in another one: a vector for every cell of a grid. */
export interface FlowField {
  /** Side of a cell, pixels. */
  cell: number;
  columns: number;
  rows: number;
  dx: Float32Array;
  dy: Float32Array;
  /** 1 where it was seen, 0 where it was taken over from around. */
  seen: Uint8Array;
}

const cell = 10;
const levels = 4;

/** Brightness of a frame in sizes each half of the one before. */
export function sizesOf({ width, height, data }: Rgba): Plane[] {
  const plane = makePlane(width, height);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = lumaOf(data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!);
  return pyramidOf({ x: 0, y: 0, plane }, levels);
}

/**
 * Optical flow from one frame to another on a grid (pyramidal Lucas & Kanade), each vector then the vector median of those
 * around it (Astola 1990), so that single ones that went astray do not count.
 * @param from, to brightness in sizes, see sizesOf
 * @param wanted whether a cell around a place is of interest; the others take over what lies nearest
 */
export function flowField(
  from: readonly Plane[],
  to: readonly Plane[],
  wanted: (x: number, y: number) => boolean,
): FlowField {
  const { width, height } = from[0]!;
  const [columns, rows] = [Math.ceil(width / cell), Math.ceil(height / cell)];
  const field: FlowField = {
    cell,
    columns,
    rows,
    dx: new Float32Array(columns * rows),
    dy: new Float32Array(columns * rows),
    seen: new Uint8Array(columns * rows),
  };
  let guess: Point = [0, 0];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const at: Point = [(column + 0.5) * cell - 0.5, (row + 0.5) * cell - 0.5];
      if (!wanted(at[0], at[1])) continue;
      const found = flowOf(from, to, at, guess, 0.04);
      if (!found || Math.hypot(found[0] - at[0], found[1] - at[1]) > 0.25 * width) continue;
      const k = row * columns + column;
      [field.dx[k], field.dy[k], field.seen[k]] = [found[0] - at[0], found[1] - at[1], 1];
      guess = [field.dx[k]!, field.dy[k]!];
    }
  medianed(field);
  spread(field);
  return field;
}

function medianed(field: FlowField): void {
  const { columns, rows, seen } = field;
  const [dx, dy] = [field.dx.slice(), field.dy.slice()];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      if (!seen[row * columns + column]) continue;
      const around: number[] = [];
      for (let r = Math.max(0, row - 1); r <= Math.min(rows - 1, row + 1); r++)
        for (let c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c++)
          if (seen[r * columns + c]) around.push(r * columns + c);
      let [best, least] = [around[0]!, Infinity];
      for (const a of around) {
        let sum = 0;
        for (const b of around) sum += Math.hypot(dx[a]! - dx[b]!, dy[a]! - dy[b]!);
        if (sum < least) [best, least] = [a, sum];
      }
      field.dx[row * columns + column] = dx[best]!;
      field.dy[row * columns + column] = dy[best]!;
    }
}

/** Cells where nothing was seen take the mean of those beside them, ring by ring. */
function spread({ columns, rows, dx, dy, seen }: FlowField): void {
  let known = seen.slice();
  for (let left = columns + rows; left > 0 && known.includes(0); left--) {
    const next = known.slice();
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        const k = row * columns + column;
        if (known[k]) continue;
        let [x, y, n] = [0, 0, 0];
        for (const [r, c] of [
          [row - 1, column],
          [row + 1, column],
          [row, column - 1],
          [row, column + 1],
        ] as const) {
          if (r < 0 || c < 0 || r >= rows || c >= columns || !known[r * columns + c]) continue;
          x += dx[r * columns + c]!;
          y += dy[r * columns + c]!;
          n++;
        }
        if (n === 0) continue;
        [dx[k], dy[k], next[k]] = [x / n, y / n, 1];
      }
    known = next;
  }
}

/**
 * A mask or alpha as it was in the frame a field leads to, seen in a part of the frame the field starts from.
 * @param area whole pixels
 */
export function carriedBy(field: FlowField, { width, height, data }: Plane, area: Rect): Plane {
  const out = makePlane(area.width, area.height);
  const rowX = new Float32Array(area.width);
  const rowY = new Float32Array(area.width);
  for (let y = 0; y < area.height; y++) {
    flowOfRow(field, area.x, area.y + y, rowX, rowY);
    for (let x = 0; x < area.width; x++) {
      const u = Math.max(0, Math.min(width - 1.001, area.x + x + rowX[x]!));
      const v = Math.max(0, Math.min(height - 1.001, area.y + y + rowY[x]!));
      const [left, top] = [u | 0, v | 0];
      const [fx, fy] = [u - left, v - top];
      const o = top * width + left;
      const right = left + 1 < width ? 1 : 0;
      const under = top + 1 < height ? width : 0;
      out.data[y * area.width + x] =
        (data[o]! * (1 - fx) + data[o + right]! * fx) * (1 - fy) +
        (data[o + under]! * (1 - fx) + data[o + under + right]! * fx) * fy;
    }
  }
  return out;
}

function flowOfRow(
  { columns, rows, dx, dy }: FlowField,
  x0: number,
  y: number,
  intoX: Float32Array,
  intoY: Float32Array,
) {
  const v = Math.max(0, Math.min(rows - 1.001, (y + 0.5) / cell - 0.5));
  const row = v | 0;
  const fy = v - row;
  const under = row + 1 < rows ? columns : 0;
  for (let k = 0; k < intoX.length; k++) {
    const u = Math.max(0, Math.min(columns - 1.001, (x0 + k + 0.5) / cell - 0.5));
    const column = u | 0;
    const fx = u - column;
    const i = row * columns + column;
    const right = column + 1 < columns ? 1 : 0;
    intoX[k] =
      (dx[i]! * (1 - fx) + dx[i + right]! * fx) * (1 - fy) +
      (dx[i + under]! * (1 - fx) + dx[i + under + right]! * fx) * fy;
    intoY[k] =
      (dy[i]! * (1 - fx) + dy[i + right]! * fx) * (1 - fy) +
      (dy[i + under]! * (1 - fx) + dy[i + under + right]! * fx) * fy;
  }
}
