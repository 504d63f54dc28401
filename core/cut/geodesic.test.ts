import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { cuttingPlainly } from './cut-kernel.ts';
import { geodesicDistance } from './geodesic.ts';

const [width, height] = [25, 17];
const at = (x: number, y: number): number => y * width + x;

function painted(color: (x: number, y: number) => number): Rgba {
  const picture = makeRgba(width, height);
  for (let i = 0; i < width * height; i++) {
    const v = color(i % width, Math.floor(i / width));
    picture.data.set([v, 255 - v, v >> 1, 255], i * 4);
  }
  return picture;
}

function seedsAt(...places: [number, number][]): Bytes {
  const seeds = makeBytes(width, height);
  for (const [x, y] of places) seeds.data[at(x, y)] = 2;
  return seeds;
}

/** Shortest ways found by trying every step until none is shorter. */
function shortest({ data }: Rgba, seeds: Bytes, spatial: number, free: number): number[] {
  const found = Array.from(seeds.data, (seed) => (seed === 2 ? 0 : Infinity));
  for (let isShorter = true; isShorter;) {
    isShorter = false;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        for (const [u, v] of [-1, 0, 1].flatMap((dy) => [-1, 0, 1].map((dx) => [x + dx, y + dy] as const))) {
          if (u < 0 || v < 0 || u >= width || v >= height) continue;
          const [i, j] = [at(x, y) * 4, at(u, v) * 4];
          const change = [0, 1, 2].reduce((sum, c) => sum + Math.abs(data[i + c]! - data[j + c]!), 0);
          const way = found[at(u, v)]! + spatial + Math.max(0, change - free);
          if (way >= found[at(x, y)]! - 1e-9) continue;
          found[at(x, y)] = way;
          isShorter = true;
        }
  }
  return found;
}

describe('distances in colour from strokes', () => {
  const ways = { 'by the kernel': <T>(work: () => T): T => work(), 'without it': cuttingPlainly };
  for (const [name, inThatWay] of Object.entries(ways)) {
    it(`are the lengths of the shortest ways, where no way turns back more than once, ${name}`, () => {
      // A wall across the middle with a gap at one end: ways go along it, through the gap, and back.
      const walled = painted((x, y) => (y === 8 && x < 20 ? 220 : 40 + 2 * x));
      const seeds = seedsAt([4, 3], [14, 2]);
      for (const [spatial, free] of [
        [1, 0],
        [1, 6],
        [2.5, 3],
      ] as const) {
        const found = inThatWay(() => geodesicDistance(walled, seeds, 2, spatial, free));
        const truth = shortest(walled, seeds, spatial, free);
        for (const [i, way] of truth.entries()) expect(found.data[i]).to.be.closeTo(way, 1e-3);
      }
    });

    it(`are infinite where nothing was drawn, ${name}`, () => {
      const found = inThatWay(() =>
        geodesicDistance(
          painted(() => 90),
          seedsAt([3, 3]),
          1,
          1,
        ),
      );
      for (const way of found.data) expect(way).to.equal(Infinity);
    });
  }

  it('are the same to the bit, on noise of any kind', () => {
    const random = seededRandom(5);
    for (const most of [3, 40, 255]) {
      const noise = painted(() => Math.floor(most * random()));
      const seeds = seedsAt([12, 6], [0, 16], [24, 0]);
      const plain = cuttingPlainly(() => geodesicDistance(noise, seeds, 2, 1, 16));
      expect(geodesicDistance(noise, seeds, 2, 1, 16).data).to.deep.equal(plain.data);
    }
  });
});
