import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { rebuild } from './fill.ts';
import { enlargedCopies, halvingsFor, smallerRequest } from './large-fill.ts';

const area = (width: number, height: number) => ({ x: 0, y: 0, width, height });

describe('holes in very large pictures', () => {
  it('are continued at a size of some six million pixels at most', () => {
    expect(halvingsFor(area(3000, 2000))).to.equal(0);
    expect(halvingsFor(area(3001, 2000))).to.equal(1);
    expect(halvingsFor(area(6000, 4000))).to.equal(1);
    expect(halvingsFor(area(7000, 5000))).to.equal(2);
  });

  it('are as large in the smaller picture as whatever they touch, and what is in them colours nothing there', async () => {
    const picture = makeRgba(7, 6);
    const hole = makeBytes(7, 6);
    for (let i = 0; i < 42; i++) picture.data.set([10, 20, 30, 255], i * 4);
    for (const [x, y] of [
      [2, 2],
      [3, 3],
      [6, 5],
    ] as const) {
      hole.data[y * 7 + x] = 1;
      picture.data.set([255, 0, 255, 255], (y * 7 + x) * 4);
    }
    const lines = [{ from: [2, 4] as [number, number], to: [6, 1] as [number, number] }];
    const small = await smallerRequest({ picture, hole, seed: 1, lines }, 1);
    expect([...small.hole.data]).to.deep.equal([0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 1]);
    expect([...small.picture.data.subarray(5 * 4, 5 * 4 + 3)]).to.deep.equal([10, 20, 30]);
    expect(small.lines).to.deep.equal([{ from: [1, 2], to: [3, 0.5] }]);
    expect((await smallerRequest({ picture, hole, seed: 1 }, 2)).hole.data).to.deep.equal(
      Uint8Array.from([1, 0, 0, 1]),
    );
  });

  it('get at full size the pixels of the blocks that were copied, each from its own place in the block, relit', async () => {
    const [width, height] = [23, 18];
    const random = seededRandom(3);
    const picture = makeRgba(width, height);
    for (let i = 0; i < picture.data.length; i++) picture.data[i] = i % 4 === 3 ? 255 : 40 + 150 * random();
    const hole = makeBytes(width, height);
    for (let y = 8; y < 13; y++) for (let x = 9; x < 15; x++) hole.data[y * width + x] = 1;
    // The smaller picture is 6 x 5; its pixel (2, 2) copies (0, 1), its pixel (3, 2) nothing, those below copy (4, 1).
    const inArea = { x: 1, y: 1, width: 4, height: 4 };
    const origin = new Int32Array(16).fill(-1);
    const at = (u: number, v: number): number => (v - inArea.y) * inArea.width + u - inArea.x;
    origin[at(2, 2)] = at(1, 1);
    origin[at(2, 3)] = origin[at(3, 3)] = at(4, 1);
    const small: Rgba = makeRgba(6, 5);
    small.data.set([7, 8, 9], (2 * 6 + 3) * 4);
    const relit = (byte: number, channel: number, i: number): number => byte + channel + (i === at(3, 3) ? 10 : 0);
    const made = await enlargedCopies({ picture, hole, seed: 1 }, 2, small, { area: inArea, origin, relit });
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = (y * width + x) * 4;
        const [u, v] = [x >> 2, y >> 2];
        const [bx, by] = v === 3 ? [16, 4] : [4, 4];
        const j = ((by + (y % 4)) * width + Math.min(width - 1, bx + (x % 4))) * 4;
        const wanted = [0, 1, 2].map((c) => {
          if (!hole.data[y * width + x]) return picture.data[i + c]!;
          if (u === 3 && v === 2) return small.data[(2 * 6 + 3) * 4 + c]!;
          return picture.data[j + c]! + c + (u === 3 && v === 3 ? 10 : 0);
        });
        expect([...made.data.subarray(i, i + 3)], `${x}, ${y}`).to.deep.equal(wanted);
      }
  });

  it('keep what is around them, show nothing of what stood there, and have the grain of what surrounds them', async () => {
    const [width, height] = [2501, 2403];
    const random = seededRandom(9);
    const picture = makeRgba(width, height);
    const hole: Bytes = makeBytes(width, height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        const inside = Math.hypot(x - 1257, y - 1201) < 560.5;
        const grain = 18 * (random() - 0.5);
        if (inside) hole.data[i] = 1;
        picture.data.set(inside ? [255, 0, 255, 255] : [96 + 0.01 * y + grain, 110 + grain, 84 + grain, 255], i * 4);
      }
    const made = await rebuild({ picture, hole, seed: 1 });
    let [changed, loud, sum, squares, count] = [0, 0, 0, 0, 0];
    for (let i = 0; i < hole.data.length; i++) {
      const [r, g, b] = made.data.subarray(i * 4, i * 4 + 3) as unknown as [number, number, number];
      if (!hole.data[i] && (r !== picture.data[i * 4] || g !== picture.data[i * 4 + 1])) changed++;
      if (!hole.data[i]) continue;
      if (Math.abs(r - 0.01 * Math.floor(i / width) - 96) > 24 || Math.abs(g - 110) > 24 || Math.abs(b - 84) > 24)
        loud++;
      // What two neighbours have between them is grain alone.
      if (!hole.data[i + 1]) continue;
      const step = made.data[i * 4 + 5]! - g;
      sum += step;
      squares += step * step;
      count++;
    }
    expect(changed).to.equal(0);
    expect(loud / count).to.be.below(0.001);
    const spread = Math.sqrt(squares / count - (sum / count) ** 2);
    // Of two independent values in -9 to 9.
    expect(spread).to.be.closeTo(18 / Math.sqrt(6), 0.8);
  });
});
