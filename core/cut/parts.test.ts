import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, type Bytes } from '../pixels/raster.ts';
import { partsOf } from './parts.ts';

/** By flooding from every pixel in turn. */
function flooded({ width, height, data }: Bytes): { label: number[]; sizes: number[] } {
  const label = Array.from(data, () => 0);
  const sizes: number[] = [];
  for (let start = 0; start < data.length; start++) {
    if (!data[start] || label[start]) continue;
    const own = sizes.push(0);
    const waiting = [start];
    label[start] = own;
    for (let i = waiting.pop(); i !== undefined; i = waiting.pop()) {
      sizes[own - 1]! += 1;
      const [x, y] = [i % width, Math.floor(i / width)];
      for (const [dx, dy] of [-1, 0, 1].flatMap((a) => [-1, 0, 1].map((b) => [a, b] as const))) {
        const [u, v] = [x + dx, y + dy];
        if (u < 0 || v < 0 || u >= width || v >= height || !data[v * width + u] || label[v * width + u]) continue;
        label[v * width + u] = own;
        waiting.push(v * width + u);
      }
    }
  }
  return { label, sizes };
}

describe('parts of a mask', () => {
  it('are those that flooding finds, numbered as they are met, for masks of any density', () => {
    const random = seededRandom(41);
    for (let k = 0; k < 300; k++) {
      const mask = makeBytes(1 + Math.floor(24 * random()), 1 + Math.floor(24 * random()));
      const density = random();
      for (let i = 0; i < mask.data.length; i++) mask.data[i] = random() < density ? 1 : 0;
      const { label, sizes } = partsOf(mask);
      expect({ label: [...label], sizes }).to.deep.equal(flooded(mask));
    }
  });

  it('are one where a way winds through all of a mask', () => {
    const mask = makeBytes(41, 41);
    for (let y = 0; y < 41; y++)
      for (let x = 0; x < 41; x++) mask.data[y * 41 + x] = y % 2 === 0 || x === (y % 4 === 1 ? 40 : 0) ? 1 : 0;
    expect(partsOf(mask).sizes).to.deep.equal([mask.data.reduce((sum, v) => sum + v, 0)]);
  });

  it('are none in an empty mask, and hang together over corners but not across the frame', () => {
    expect(partsOf(makeBytes(5, 4)).sizes).to.deep.equal([]);
    const mask = makeBytes(4, 3);
    mask.data.set([0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0]);
    expect(partsOf(mask).sizes).to.deep.equal([1, 2]);
  });
});
