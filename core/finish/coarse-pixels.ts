import { defineFinish, type FinishPixels } from './finish.ts';
import { kernelOf } from './operations/memory.ts';

export const coarsePixels = defineFinish({
  id: 'coarse-pixels',
  name: 'Coarse pixels',
  family: 'texture',
  purpose: 'Breaks the picture into squares of one colour each.',
  settings: { size: { kind: 'number', name: 'Size', unit: 'px', least: 1, most: 300, start: 16 } },
  reach: ({ size }) => size,
  apply(pixels, { size }, { scale, box }) {
    const { width, height } = pixels;
    const cell = Math.max(1, size * scale);
    const from = (at: number, start: number): number => Math.floor((at - start) / cell);
    const edge = (n: number, start: number, most: number): number =>
      Math.max(0, Math.min(most, Math.ceil(n * cell + start - 1e-6)));
    for (let v = from(0, box.y); edge(v, box.y, height) < height; v++)
      for (let u = from(0, box.x); edge(u, box.x, width) < width; u++) {
        const [x0, x1] = [edge(u, box.x, width), edge(u + 1, box.x, width)];
        const [y0, y1] = [edge(v, box.y, height), edge(v + 1, box.y, height)];
        evenOut(pixels, x0, y0, x1, y1);
      }
  },
});

/** Gives the pixels of a rectangle their mean, colours by their alpha. */
function evenOut({ data, width }: FinishPixels, x0: number, y0: number, x1: number, y1: number): void {
  const kernel = kernelOf(data);
  if (kernel) return kernel.evenOut(data.byteOffset, width, x0, y0, x1, y1);
  const sum = [0, 0, 0, 0];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const i = (y * width + x) * 4;
      for (let c = 0; c < 3; c++) sum[c]! += data[i + c]! * data[i + 3]!;
      sum[3]! += data[i + 3]!;
    }
  const alpha = sum[3]! / Math.max(1, (x1 - x0) * (y1 - y0));
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const i = (y * width + x) * 4;
      for (let c = 0; c < 3; c++) data[i + c] = sum[3]! > 0 ? sum[c]! / sum[3]! : 0;
      data[i + 3] = alpha;
    }
}
