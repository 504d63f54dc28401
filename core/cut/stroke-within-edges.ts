import { cropRgba, growRect, makeBytes, type Bytes, type Rect, type Rgba } from '../pixels/raster.ts';
import { boundsOfPoints, drawStroke, movedStroke, thinnest, type Stroke } from './strokes.ts';

/** Share of the brush's radius around its middle line that is marked whatever lies there: it is what the hand points at. */
const middle = 0.15;
/** Difference of colour (sum of bytes over the three channels) along a way that makes it cross an edge. */
const edgeCost = 72;
/** How many times the usual difference between neighbours under the middle line costs nothing: texture and noise. */
const texture = 1.6;

/**
 * As `drawStroke`, but only over pixels that are reached from the stroke's middle line without crossing an edge: a broad brush
 * along a thin thing, or beside a border, then marks no more than that. Ways are shortest in colour difference (geodesic, as in
 * Criminisi, Sharp & Blake 2008), less what the texture under the middle line itself differs.
 * @param picture size of the mask  @param scale pixels of the mask per pixel the stroke is measured in
 */
export function drawStrokeWithinEdges(mask: Bytes, picture: Rgba, stroke: Stroke, value: number, scale = 1): void {
  const area = areaOf(stroke, mask, scale);
  if (!area) return;
  const part = cropRgba(picture, area);
  const moved = movedStroke(stroke, area.x / scale, area.y / scale);
  const brush = makeBytes(area.width, area.height);
  drawStroke(brush, moved, 1, scale);
  drawStroke(brush, { ...moved, radius: Math.max(stroke.radius * middle, thinnest / scale) }, 2, scale);
  for (const i of reachedFrom(part, brush)) {
    const at = (area.y + Math.floor(i / area.width)) * mask.width + area.x + (i % area.width);
    mask.data[at] = value;
  }
}

function areaOf(stroke: Stroke, mask: Bytes, scale: number): Rect | null {
  const rect = boundsOfPoints(stroke, scale);
  const area = growRect(rect, Math.ceil(stroke.radius * scale) + 2, mask.width, mask.height);
  return area.width > 0 && area.height > 0 ? area : null;
}

/** Pixels of the brush (1) that are reached from its middle (2), by Dijkstra's algorithm with a queue for every cost. */
function reachedFrom({ data }: Rgba, brush: Bytes): number[] {
  const { width, height } = brush;
  const cost = new Uint8Array(brush.data.length).fill(edgeCost);
  const queues: number[][] = Array.from({ length: edgeCost }, () => []);
  for (let i = 0; i < cost.length; i++) {
    if (brush.data[i] !== 2) continue;
    cost[i] = 0;
    queues[0]!.push(i);
  }
  const free = texture * usualDifference(data, brush);
  for (let now = 0; now < edgeCost; now++) {
    const queue = queues[now]!;
    for (let k = 0; k < queue.length; k++) {
      const i = queue[k]!;
      if (cost[i] !== now) continue;
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i, i - width, i + width]) {
        if (j < 0 || j >= width * height || brush.data[j] === 0) continue;
        const next = now + Math.round(Math.max(0, differenceOf(data, i, j) - free));
        if (next >= cost[j]!) continue;
        cost[j] = next;
        queues[next]!.push(j);
      }
    }
  }
  const reached: number[] = [];
  for (let i = 0; i < cost.length; i++) if (cost[i]! < edgeCost) reached.push(i);
  return reached;
}

const differenceOf = (data: Uint8ClampedArray, i: number, j: number): number =>
  Math.abs(data[i * 4]! - data[j * 4]!) +
  Math.abs(data[i * 4 + 1]! - data[j * 4 + 1]!) +
  Math.abs(data[i * 4 + 2]! - data[j * 4 + 2]!);

/** Median difference of neighbours under the middle line. */
function usualDifference(data: Uint8ClampedArray, brush: Bytes): number {
  const found: number[] = [];
  for (let i = 0; i + 1 < brush.data.length; i++)
    if (brush.data[i] === 2 && brush.data[i + 1] === 2) found.push(differenceOf(data, i, i + 1));
  found.sort((a, b) => a - b);
  return Math.min(24, found[found.length >> 1] ?? 0);
}

/** Draws a stroke in the way it asks for. */
export function drawAnyStroke(mask: Bytes, picture: Rgba, stroke: Stroke, value: number, scale: number): void {
  if (stroke.withinEdges) drawStrokeWithinEdges(mask, picture, stroke, value, scale);
  else drawStroke(mask, stroke, value, scale);
}
