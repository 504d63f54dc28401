import { makePlane } from '../pixels/raster.ts';
import { defineFinish, set } from './finish.ts';
import { hash } from './pixels.ts';

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
  apply({ data, width, height }, { strength, size, seed }, { scale, box }) {
    const relief = makePlane(width, height);
    const value = (x: number, y: number, octave: number): number => {
      const [u, v] = [Math.floor(x), Math.floor(y)];
      const [fx, fy] = [x - u, y - v];
      const [sx, sy] = [fx * fx * (3 - 2 * fx), fy * fy * (3 - 2 * fy)];
      const corner = (a: number, b: number): number => hash(u + a, v + b, seed * 8 + octave);
      const top = corner(0, 0) + (corner(1, 0) - corner(0, 0)) * sx;
      const bottom = corner(0, 1) + (corner(1, 1) - corner(0, 1)) * sx;
      return top + (bottom - top) * sy;
    };
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (let octave = 0; octave < 3; octave++) {
          const cell = (size * scale) / 2 ** octave;
          if (cell >= 1.2) sum += value((x - box.x) / cell, (y - box.y) / cell, octave) / 2 ** octave;
        }
        relief.data[y * width + x] = sum;
      }
    const reach = Math.max(1, Math.round(scale));
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = (y * width + x) * 4;
        if (data[i + 3] === 0) continue;
        const beside = relief.data[Math.min(height - 1, y + reach) * width + Math.min(width - 1, x + reach)]!;
        const light = 1 + (strength * (relief.data[y * width + x]! - beside) * 2.2) / reach;
        for (let c = 0; c < 3; c++) data[i + c] = data[i + c]! * light;
      }
  },
});
