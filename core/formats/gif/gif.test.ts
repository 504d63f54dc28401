import { expect } from 'chai';
import { seededRandom } from '../../pixels/random.ts';
import { IndexedFrames } from './indexed-frames.ts';
import { settledPalette } from './palette.ts';

const colourOf = (colours: Uint8Array, index: number): number[] => [...colours.subarray(3 * index, 3 * index + 3)];
const squared = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, k) => sum + (v - b[k]!) ** 2, 0);

/** Pixels of some hues about three colours. */
function speckles(count: number, seed: number): number[][] {
  const random = seededRandom(seed);
  const hues = [
    [200, 60, 40],
    [40, 90, 160],
    [236, 232, 222],
  ];
  return Array.from({ length: count }, () =>
    hues[Math.floor(random() * 3)]!.map((v) => Math.round(v + 24 * (random() - 0.5))),
  );
}

describe('colours of a GIF', () => {
  const samples = speckles(4000, 5);
  const first = samples.slice(0, 16);
  const palette = settledPalette(first, Uint8Array.from(samples.flat()));
  const table = [...Array(16).keys()].map((p) => colourOf(palette.colours, p));
  const errorOf = (colours: readonly number[][]): number =>
    samples.reduce((sum, one) => sum + Math.min(...colours.map((c) => squared(c, one))), 0);

  it('settle where they stand for their pixels better than before', () => {
    expect(errorOf(table)).to.be.lessThan(0.8 * errorOf(first));
    // Each is the mean of those nearest to it, but for rounding and for pixels counted together.
    for (const [k, colour] of table.entries()) {
      const its = samples.filter((one) => table.every((other) => squared(other, one) >= squared(colour, one)));
      if (its.length < 20) continue;
      const mean = [0, 1, 2].map((c) => its.reduce((sum, one) => sum + one[c]!, 0) / its.length);
      expect(squared(mean, colour), `colour ${k}`).to.be.lessThan(9);
    }
  });

  it('the nearest is the nearest of all', () => {
    const random = seededRandom(9);
    for (let n = 0; n < 500; n++) {
      const one = [0, 0, 0].map(() => Math.floor(random() * 256));
      const found = table[palette.nearest(one[0]!, one[1]!, one[2]!)]!;
      const best = Math.min(...table.map((c) => Math.sqrt(squared(c, one))));
      // Two colours that differ in the last bit only are looked up as one.
      expect(Math.sqrt(squared(found, one)) - best).to.be.lessThan(2);
    }
  });
});

describe('frames of a GIF', () => {
  const greys = settledPalette(
    [0, 32, 64, 96, 128, 160, 192, 224].map((v) => [v, v, v]),
    Uint8Array.from([0, 32, 64, 96, 128, 160, 192, 224].flatMap((v) => [v, v, v])),
  );
  const picture = (width: number, height: number, at: (x: number, y: number) => number): Uint8ClampedArray =>
    Uint8ClampedArray.from({ length: width * height * 4 }, (_, i) =>
      i % 4 === 3 ? 255 : at((i >> 2) % width, Math.floor((i >> 2) / width)),
    );
  const options = { palette: greys, keep: 8, hold: 3, run: 0, dither: false };

  it('what stays, or nearly stays, is said to be as before; what changes is said', () => {
    const frames = new IndexedFrames({ ...options, width: 8, height: 4 });
    expect(new Set(frames.next(picture(8, 4, () => 64)))).to.deep.equal(new Set([2]));
    expect(new Set(frames.next(picture(8, 4, () => 66)))).to.deep.equal(new Set([8]));
    const moved = frames.next(picture(8, 4, (x) => (x < 3 ? 129 : 64)));
    for (const [i, index] of moved.entries()) expect(index, `pixel ${i}`).to.equal(i % 8 < 3 ? 4 : 8);
  });

  it('slow change is followed, however small its steps', () => {
    const frames = new IndexedFrames({ ...options, width: 1, height: 1 });
    let shown = 0;
    for (let v = 0; v <= 224; v++) {
      const [index] = frames.next(picture(1, 1, () => v));
      if (index !== 8) shown = index!;
      expect(Math.abs(32 * shown - v), `at ${v}`).to.be.at.most(16 + 3);
    }
  });

  it('tones about half way between two colours have their mean, by a pattern that stands still', () => {
    for (const tone of [42, 48, 54, 116, 150]) {
      const frames = new IndexedFrames({ ...options, dither: true, width: 64, height: 64 });
      const first = frames.next(picture(64, 64, () => tone));
      expect(first.reduce((sum, index) => sum + 32 * index, 0) / first.length, `tone ${tone}`).to.be.closeTo(tone, 0.8);
      expect(frames.next(picture(64, 64, () => tone)).every((index, i) => index === 8 || index === first[i])).to.equal(
        true,
      );
    }
  });

  it('runs of a row take the colour before where that is as good', () => {
    const rough = picture(64, 1, (x) => 47 + 3 * (x % 2));
    const changes = (run: number): number => {
      const row = new IndexedFrames({ ...options, run, width: 64, height: 1 }).next(rough);
      return row.filter((index, x) => x > 0 && index !== row[x - 1]).length;
    };
    expect(changes(3)).to.be.at.most(1);
    expect(changes(0)).to.be.greaterThan(30);
  });
});
