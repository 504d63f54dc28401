import type { Rgba } from '../pixels/raster.ts';
import type { Draw, SpreadContent } from '../scene/draw.ts';
import type { Studio, Surface2D } from './surface.ts';
import { setMatrix, type PaintView } from './view.ts';

/** Cells along the longer side of the picture colours are spread on: they are soft, so few are enough. */
const mostCells = 320;
/** Only what is as good as opaque has a colour of its own. */
const opaque = 250;

/** Draws the colours of an image spread beyond its edge, each place in that of the nearest opaque one. */
export function paintSpread<Image>(
  surface: Surface2D<Image>,
  draw: Draw,
  { file, room }: SpreadContent,
  studio: Studio<Image>,
  view: PaintView,
): void {
  const image = studio.imageOf(file);
  if (image === undefined) return void view.missing.push(file);
  const size = { width: draw.width, height: draw.height };
  const kept = studio.kept(JSON.stringify(['spread', file, room, size]), () => {
    const cell = Math.max(room.width, room.height) / mostCells;
    const [columns, rows] = [Math.ceil(room.width / cell), Math.ceil(room.height / cell)];
    const paper = studio.scratch(columns, rows);
    const made = paper.context.createImageData(columns, rows);
    made.data.set(spreadColours(studio.pixelsOf(image), size, room, cell, columns, rows));
    paper.context.putImageData(made as never, 0, 0);
    return paper;
  });
  setMatrix(surface, draw.matrix, view);
  surface.imageSmoothingQuality = 'medium';
  surface.drawImage(kept.image, room.x, room.y, room.width, room.height);
  surface.imageSmoothingQuality = 'low';
}

/** @param size of the image in the pixels of the room, which need not be its own */
function spreadColours(
  pixels: Rgba,
  size: { width: number; height: number },
  room: SpreadContent['room'],
  cell: number,
  columns: number,
  rows: number,
): Uint8ClampedArray {
  const nearest = new Int32Array(columns * rows).fill(-1);
  const colours = new Float32Array(columns * rows * 3);
  for (let y = 0, i = 0; y < rows; y++)
    for (let x = 0; x < columns; x++, i++) {
      const u = ((room.x + (x + 0.5) * cell) / size.width) * pixels.width;
      const v = ((room.y + (y + 0.5) * cell) / size.height) * pixels.height;
      if (u < 0 || v < 0 || u >= pixels.width || v >= pixels.height) continue;
      const at = (Math.floor(v) * pixels.width + Math.floor(u)) * 4;
      if (pixels.data[at + 3]! < opaque) continue;
      nearest[i] = i;
      for (let n = 0; n < 3; n++) colours[i * 3 + n] = pixels.data[at + n]!;
    }
  findNearest(nearest, columns, rows);
  return softened(nearest, colours, columns, rows);
}

/** For every cell the nearest one that had a colour, by vectors handed on in two passes (Danielsson 1980). */
function findNearest(nearest: Int32Array, columns: number, rows: number): void {
  const far = (i: number, source: number): number => {
    const [dx, dy] = [(i % columns) - (source % columns), Math.floor(i / columns) - Math.floor(source / columns)];
    return dx * dx + dy * dy;
  };
  const take = (i: number, x: number, y: number): void => {
    if (x < 0 || y < 0 || x >= columns || y >= rows) return;
    const source = nearest[y * columns + x]!;
    if (source >= 0 && (nearest[i]! < 0 || far(i, source) < far(i, nearest[i]!))) nearest[i] = source;
  };
  const pass = (from: number, to: number, way: 1 | -1): void => {
    for (let y = from; y !== to; y += way) {
      for (let x = 0; x < columns; x++) for (const dx of [0, -1, 1]) take(y * columns + x, x + dx, y - way);
      for (let x = 0; x < columns; x++) take(y * columns + x, x - 1, y);
      for (let x = columns - 1; x >= 0; x--) take(y * columns + x, x + 1, y);
    }
  };
  pass(0, rows, 1);
  pass(rows - 1, -1, -1);
}

/** The colours found, the softer the further they were carried: streaks of single pixels would be seen. */
function softened(nearest: Int32Array, colours: Float32Array, columns: number, rows: number): Uint8ClampedArray {
  const data = new Uint8ClampedArray(columns * rows * 4);
  const reach = 3;
  for (let y = 0, i = 0; y < rows; y++)
    for (let x = 0; x < columns; x++, i++) {
      const sum = [0, 0, 0];
      let count = 0;
      for (let v = Math.max(0, y - reach); v <= Math.min(rows - 1, y + reach); v++)
        for (let u = Math.max(0, x - reach); u <= Math.min(columns - 1, x + reach); u++) {
          const source = nearest[v * columns + u]!;
          if (source < 0) continue;
          for (let n = 0; n < 3; n++) sum[n]! += colours[source * 3 + n]!;
          count++;
        }
      if (count === 0) continue;
      for (let n = 0; n < 3; n++) data[i * 4 + n] = sum[n]! / count;
      data[i * 4 + 3] = 255;
    }
  return data;
}
