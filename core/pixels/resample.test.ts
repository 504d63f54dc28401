import { expect } from 'chai';
import { seededRandom } from './random.ts';
import { makePlane, makeRgba } from './raster.ts';
import { averagedTo, enlargedPlane, halve } from './resample.ts';

describe('resampling', () => {
  it('a plane that rises evenly rises evenly at any size, up to half a pixel of its border', () => {
    const plane = makePlane(20, 14);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = 3 * ((i % 20) + 0.5) - 2 * (Math.floor(i / 20) + 0.5);
    for (const [width, height] of [
      [60, 50],
      [33, 17],
      [20, 14],
    ] as const) {
      const large = enlargedPlane(plane, width, height);
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const [u, v] = [((x + 0.5) * 20) / width, ((y + 0.5) * 14) / height];
          if (u < 0.5 || v < 0.5 || u > 19.5 || v > 13.5) continue;
          expect(large.data[y * width + x]).to.be.closeTo(3 * u - 2 * v, 1e-4);
        }
    }
  });

  it('a plane of one pixel, row or column fills any size', () => {
    const one = { width: 1, height: 1, data: new Float32Array([0.4]) };
    expect([...enlargedPlane(one, 3, 2).data].every((v) => Math.abs(v - 0.4) < 1e-6)).to.equal(true);
    const row = { width: 2, height: 1, data: new Float32Array([0, 1]) };
    expect([...enlargedPlane(row, 2, 3).data]).to.deep.equal([0, 1, 0, 1, 0, 1]);
  });

  it('the mean of an area is the mean of the pixels it covers, each by its share', () => {
    const random = seededRandom(4);
    const picture = makeRgba(23, 17);
    for (let i = 0; i < picture.data.length; i++) picture.data[i] = Math.floor(256 * random());
    const [width, height] = [7, 5];
    const small = averagedTo(picture, width, height);
    // The truth: 60 x 60 points within every pixel of the result.
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (let k = 0; k < 3600; k++) {
          const u = Math.floor(((x + ((k % 60) + 0.5) / 60) * 23) / width);
          const v = Math.floor(((y + (Math.floor(k / 60) + 0.5) / 60) * 17) / height);
          sum += picture.data[(v * 23 + u) * 4 + 1]!;
        }
        expect(small.data[(y * width + x) * 4 + 1]).to.be.closeTo(sum / 3600, 2.5);
      }
  });

  it('half of an even size is what halving gives, and its own size is itself', () => {
    const random = seededRandom(6);
    const picture = makeRgba(12, 8);
    for (let i = 0; i < picture.data.length; i++) picture.data[i] = Math.floor(256 * random());
    const [half, means] = [halve(picture), averagedTo(picture, 6, 4)];
    for (let i = 0; i < half.data.length; i++) expect(means.data[i]).to.be.closeTo(half.data[i]!, 1);
    expect(averagedTo(picture, 12, 8).data).to.deep.equal(picture.data);
  });
});
