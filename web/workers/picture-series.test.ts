import { expect } from 'chai';
import { unzipSync } from 'fflate';
import { packedSeries, seriesIn } from './picture-series.ts';

const named = (...names: string[]) => names.map((name) => ({ name }));
const eight = (prefix: string, from: number): string[] =>
  Array.from({ length: 8 }, (_, k) => `${prefix}${from + k}.png`);

describe('numbered pictures', () => {
  it('are one clip where their names differ by a number that counts on, in whatever order they came', () => {
    expect(seriesIn(named(...eight('walk_', 7)))!.map((f) => f.name)).to.deep.equal(eight('walk_', 7));
    const mixed = [...eight('walk_', 7)].reverse();
    expect(seriesIn(named(...mixed))!.map((f) => f.name)).to.deep.equal(eight('walk_', 7));
    // Nine comes before ten, as numbers and not as words.
    expect(seriesIn(named(...eight('', 5)))!.map((f) => f.name)).to.deep.equal(eight('', 5));
  });

  it('are pictures where they are few, miss one, are not PNG, or are called differently', () => {
    expect(seriesIn(named(...eight('a', 1).slice(1)))).to.equal(null);
    expect(seriesIn(named(...eight('a', 1).slice(0, 7), 'a9.png'))).to.equal(null);
    expect(seriesIn(named(...eight('a', 1).slice(0, 7), 'b8.png'))).to.equal(null);
    expect(seriesIn(named(...eight('a', 1).slice(0, 7), 'a8.jpg'))).to.equal(null);
    expect(seriesIn([])).to.equal(null);
  });

  it('are kept byte for byte in one file that is named after them', async () => {
    const files = [3, 4].map((n) => new File([new Uint8Array([n, 0, 255])], `crab walk_000${n}.png`));
    const packed = await packedSeries(files);
    expect(packed.name).to.equal('crab walk.zip');
    const entries = unzipSync(new Uint8Array(await packed.arrayBuffer()));
    expect(Object.entries(entries).map(([name, data]) => [name, ...data])).to.deep.equal([
      ['00000.png', 3, 0, 255],
      ['00001.png', 4, 0, 255],
    ]);
  });
});
