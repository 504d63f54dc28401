import { expect } from 'chai';
import type { Rgba } from '../pixels/raster.ts';
import { chromaKeyByKernel, hasChromaKernel } from './chroma-kernel.ts';
import { defaultChroma, type ChromaSettings, type Keyed } from './keyed.ts';
import { chromaKeyPlain } from './plain-chroma.ts';
import type { Rgb } from './screen.ts';
import { shotOn, throughJpeg } from './test-screens.ts';

interface Gap {
  worst: number;
  mean: number;
}

function gapOf(a: ArrayLike<number>, b: ArrayLike<number>, counts: (i: number) => boolean = () => true): Gap {
  let [worst, sum, n] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    if (!counts(i)) continue;
    worst = Math.max(worst, Math.abs(a[i]! - b[i]!));
    sum += Math.abs(a[i]! - b[i]!);
    n++;
  }
  return { worst, mean: sum / Math.max(1, n) };
}

/** The kernel counts in half as many digits, so that a value at a rounding or a threshold may fall to its other side. */
function expectSame(kernel: Keyed, plain: Keyed, what: string): void {
  const alpha = gapOf(kernel.alpha.data, plain.alpha.data);
  expect(alpha.mean, `${what}: alpha`).to.be.below(0.01);
  expect(alpha.worst, `${what}: worst alpha`).to.be.at.most(6);
  // The colour of a pixel that is hardly there is a division by nearly nothing.
  const seen = gapOf(kernel.colours.data, plain.colours.data, (i) => plain.alpha.data[i >> 2]! > 24);
  expect(seen.mean, `${what}: colours`).to.be.below(0.05);
  expect(seen.worst, `${what}: worst colour`).to.be.at.most(8);
}

describe('the chroma kernel', () => {
  const [green, blue, magenta, grey]: Rgb[] = [
    [40, 190, 70],
    [36, 60, 190],
    [200, 40, 160],
    [206, 206, 206],
  ];
  const both = (picture: Rgba, settings: ChromaSettings, what: string): void =>
    expectSame(chromaKeyByKernel(picture, settings), chromaKeyPlain(picture, settings), what);

  it('runs on this machine', () => {
    expect(hasChromaKernel()).to.equal(true);
  });

  it('keys as the plain steps do, on every screen, with colour in full and at half size', async () => {
    for (const [name, screen] of Object.entries({ green, blue, magenta, grey })) {
      const { picture } = shotOn({ screen: screen!, subject: [205, 120, 60], noise: 3 });
      both(picture, defaultChroma, name);
      both(await throughJpeg(picture, 88, '4:2:0'), defaultChroma, `${name}, JPEG`);
    }
  });

  it('keys pictures of any size, whose sides fill no vectors', async () => {
    for (const [width, height] of [
      [237, 173],
      [250, 96],
      [65, 34],
      [9, 7],
      [3, 2],
      [1, 1],
    ] as const) {
      const { picture } = shotOn({ width, height, screen: green!, subject: [190, 60, 50], noise: 2, soft: 3 });
      both(picture, defaultChroma, `${width} x ${height}`);
      if (width % 2 === 0 && height % 2 === 0)
        both(await throughJpeg(picture, 90, '4:2:0'), defaultChroma, `${width} x ${height}, JPEG`);
    }
  });

  it('obeys samples, thresholds and spill in the same way', () => {
    const { picture } = shotOn({ screen: green!, subject: [90, 140, 120], noise: 4, unevenness: 0.5 });
    both(picture, { colours: [green!, [22, 100, 38]], core: 4, edge: 20, spill: 0.4 }, 'two samples');
    both(picture, { colours: [[250, 10, 10]], core: 10, edge: 34, spill: 1 }, 'a sample that is not there');
    both(picture, { colours: [], core: 0, edge: 90, spill: 0 }, 'wide thresholds');
  });

  it('finds nothing on a bare screen, and keeps no memory of the picture before', () => {
    const shot = shotOn({ screen: green!, subject: [190, 60, 50], noise: 2 });
    const bare = shotOn({ screen: green!, subject: green!, noise: 2, unevenness: 0 });
    const first = chromaKeyByKernel(shot.picture, defaultChroma);
    expect(Math.max(...chromaKeyByKernel(bare.picture, defaultChroma).alpha.data)).to.be.at.most(3);
    expect(chromaKeyByKernel(shot.picture, defaultChroma)).to.deep.equal(first);
  });
});
