import { defineFinish, set, type FinishPixels } from './finish.ts';
import { lightOf } from './operations/colour.ts';
import { kernelOf, laid } from './operations/memory.ts';
import { hash } from './operations/noise.ts';
import { seenPart } from './operations/seen-part.ts';

/** Lattice noise as large as its grains, the same at every resolution; strongest in the middle tones, as film's is. */
export const grain = defineFinish({
  id: 'grain',
  name: 'Grain',
  family: 'texture',
  purpose: 'Lays fine grain over everything, which ties pictures of unlike origin together.',
  settings: {
    amount: set.percent('Amount', 0.18),
    size: { kind: 'number', name: 'Size', unit: 'px', least: 1, most: 12, start: 1.6 },
    colour: set.percent('Colour', 0.2),
    moving: { kind: 'switch', name: 'Moves', start: true },
    seed: set.seed,
  },
  moves: ({ moving, amount }) => moving && amount > 0,
  apply(pixels, { amount, size, colour, moving, seed }, { frame, scale, box }) {
    const cell = 1 / Math.max(0.5, size * scale);
    const time = moving ? frame + 1 : 0;
    const { data, width, height } = pixels;
    const noise = (u: number, v: number, channel: number): number => hash(u, v, seed * 4 + channel + time * 131) - 0.5;
    // Cells smaller than a pixel average out; what is left of their contrast is what a smaller copy would show.
    const strength = 150 * amount * Math.min(1, size * scale);
    if (grainByKernel(pixels, { cell, box, seed: seed * 4 + time * 131, strength, colour })) return;
    for (let y = 0; y < height; y++) {
      const v = Math.floor((y - box.y) * cell);
      for (let x = 0; x < width; x++) {
        const i = (y * width + x) * 4;
        if (data[i + 3] === 0) continue;
        const u = Math.floor((x - box.x) * cell);
        const light = lightOf(data[i]!, data[i + 1]!, data[i + 2]!) / 255;
        const part = strength * (0.35 + 2.6 * light * (1 - light));
        const common = noise(u, v, 0) + noise(u, v, 3);
        for (let c = 0; c < 3; c++)
          data[i + c] =
            data[i + c]! + part * (common * (1 - colour) * 0.7 + (colour > 0 ? noise(u, v, c + 5) * colour : 0));
      }
    }
  },
});

interface Grains {
  /** Cells a pixel. */
  cell: number;
  box: { x: number; y: number };
  seed: number;
  strength: number;
  colour: number;
}

function grainByKernel({ data, width, height }: FinishPixels, { cell, box, seed, strength, colour }: Grains): boolean {
  const kernel = kernelOf(data);
  if (!kernel) return false;
  const seen = seenPart({ data, width, height });
  if (!seen) return true;
  const [wide, high] = [seen.right - seen.left, seen.bottom - seen.top];
  const first = Math.floor((seen.left - box.x) * cell);
  const columns = Int32Array.from({ length: wide }, (_, x) => Math.floor((seen.left + x - box.x) * cell) - first);
  const rows = Int32Array.from({ length: high }, (_, y) => Math.floor((seen.top + y - box.y) * cell));
  const cells = columns.at(-1)! + 1;
  const from = data.byteOffset + (seen.top * width + seen.left) * 4;
  return laid([columns, rows, cells * 12 + (wide + 20) * 12], (c, r, noise) =>
    kernel.grain(from, width, wide, high, c, cells, first, r, seed, strength, colour, noise),
  );
}
