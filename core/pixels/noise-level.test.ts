import { expect } from 'chai';
import { noiseLevel } from './noise-level.ts';
import { makeRgba } from './raster.ts';
import { noisyPicture } from './test-noise.ts';

describe('noise level', () => {
  const slope = (x: number, y: number): number[] => [40 + x / 3, 200 - y / 2, 90 + (x + y) / 6];

  it('is the deviation that was put into an even slope', () => {
    for (const sigma of [2, 5, 12])
      expect(noiseLevel(noisyPicture(320, 240, sigma, slope)), `sigma ${sigma}`).to.be.closeTo(sigma, sigma * 0.12);
  });

  it('is that of the quiet parts where half the picture is textured or cut off at white', () => {
    const boards = (x: number, y: number): number[] =>
      x < 150 ? ((x ^ y) & 4 ? [70, 60, 40] : [150, 130, 100]) : x < 220 ? [255, 255, 255] : slope(x, y);
    expect(noiseLevel(noisyPicture(480, 320, 4, boards))).to.be.closeTo(4, 0.8);
  });

  it('is the same for a picture four times the size, of which only a part of the blocks is looked at', () => {
    const [small, large] = [300, 1200].map((side) => noiseLevel(noisyPicture(side, side, 6, () => [120, 110, 90])));
    expect(large).to.be.closeTo(small!, 0.4);
  });

  it('is nothing without noise, and where nothing can be told', () => {
    expect(noiseLevel(noisyPicture(100, 100, 0, () => [120, 110, 90]))).to.equal(0);
    expect(noiseLevel(makeRgba(9, 9))).to.equal(0);
  });
});
