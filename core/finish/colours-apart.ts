import { kernelOf, laid } from './operations/memory.ts';
import { defineFinish, set } from './finish.ts';

export const coloursApart = defineFinish({
  id: 'colours-apart',
  name: 'Colours pulled apart',
  family: 'texture',
  purpose: 'Moves red and blue away from each other, as a poor lens or a loose print does.',
  settings: { distance: set.pixels('Distance', 5, 200), angle: set.angle('Direction', 0) },
  reach: ({ distance }) => distance + 1,
  apply({ data, width, height }, { distance, angle }, { scale }) {
    const [dx, dy] = [
      Math.round(distance * scale * Math.cos((angle * Math.PI) / 180)),
      Math.round(distance * scale * Math.sin((angle * Math.PI) / 180)),
    ];
    const kernel = kernelOf(data);
    if (kernel && laid([data], (source) => kernel.pullApart(source, width, height, dx, dy, data.byteOffset))) return;
    const source = data.slice();
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const to = (y * width + x) * 4;
        let most = source[to + 3]!;
        const green = source[to + 1]! * source[to + 3]!;
        const parts = [0, green, 0];
        for (const [channel, sign] of [
          [0, -1],
          [2, 1],
        ] as const) {
          const [u, v] = [x - dx * sign, y - dy * sign];
          if (u < 0 || v < 0 || u >= width || v >= height) continue;
          const from = (v * width + u) * 4;
          parts[channel] = source[from + channel]! * source[from + 3]!;
          most = Math.max(most, source[from + 3]!);
        }
        data[to + 3] = most;
        for (let c = 0; c < 3; c++) data[to + c] = most > 0 ? parts[c]! / most : 0;
      }
  },
});
