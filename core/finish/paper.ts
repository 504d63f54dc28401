import type { Point } from '../motion/property.ts';
import type { Plane } from '../pixels/raster.ts';
import { defineFinish, set } from './finish.ts';
import { kernelOf, laid, zerosLike } from './operations/memory.ts';
import { hash } from './operations/noise.ts';

/** Value noise of three octaves (Perlin's fractal sum) lit from the upper left, multiplied onto the picture. */
export const paper = defineFinish({
  id: 'paper',
  name: 'Paper',
  family: 'texture',
  purpose: 'Gives the surface of rough paper, lit from one side.',
  settings: {
    strength: set.percent('Strength', 0.4),
    size: { kind: 'number', name: 'Size', unit: 'px', least: 2, most: 60, start: 7 },
    seed: set.seed,
  },
  apply(pixels, { strength, size, seed }, { scale, box }) {
    const { data, width, height } = pixels;
    const relief = zerosLike(pixels);
    for (let octave = 0; octave < 3; octave++) {
      const cell = (size * scale) / 2 ** octave;
      if (cell >= 1.2) addNoise(relief, cell, [box.x, box.y], 2 ** -octave, seed * 8 + octave);
    }
    const reach = Math.max(1, Math.round(scale));
    const kernel = kernelOf(data, relief.data);
    const contrast = (strength * 2.2) / reach;
    if (kernel) return kernel.lightSurface(data.byteOffset, width, height, relief.data.byteOffset, reach, contrast);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = (y * width + x) * 4;
        if (data[i + 3] === 0) continue;
        const beside = relief.data[Math.min(height - 1, y + reach) * width + Math.min(width - 1, x + reach)]!;
        const light = 1 + contrast * (relief.data[y * width + x]! - beside);
        for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! * light;
      }
  },
});

/** Adds noise between the corners of a lattice of cells; its corners are counted from `origin`, so it moves with the box. */
function addNoise(plane: Plane, cell: number, [ox, oy]: Point, strength: number, seed: number): void {
  const { data, width, height } = plane;
  const [left, top] = [Math.floor(-ox / cell), Math.floor(-oy / cell)];
  const columns = Math.floor((width - ox) / cell) - left + 2;
  const rows = Math.floor((height - oy) / cell) - top + 2;
  const kernel = kernelOf(data);
  const byKernel = (corners: number): void =>
    kernel!.addNoise(
      ...[data.byteOffset, width, height, seed, left, top, columns, rows],
      ...[cell, -ox / cell - left, -oy / cell - top, strength, corners],
    );
  if (kernel && laid([(columns * (rows + 1) + 2 * width) * 4 + 64], byKernel)) return;
  const corners = Float32Array.from({ length: columns * rows }, (_, k) =>
    hash(left + (k % columns), top + Math.floor(k / columns), seed),
  );
  const smooth = (t: number): number => t * t * (3 - 2 * t);
  for (let y = 0; y < height; y++) {
    const v = (y - oy) / cell - top;
    const row = Math.floor(v) * columns;
    const sy = smooth(v - Math.floor(v));
    for (let x = 0; x < width; x++) {
      const u = (x - ox) / cell - left;
      const at = row + Math.floor(u);
      const sx = smooth(u - Math.floor(u));
      const upper = corners[at]! + (corners[at + 1]! - corners[at]!) * sx;
      const lower = corners[at + columns]! + (corners[at + columns + 1]! - corners[at + columns]!) * sx;
      data[y * width + x] = data[y * width + x]! + (upper + (lower - upper) * sy) * strength;
    }
  }
}
