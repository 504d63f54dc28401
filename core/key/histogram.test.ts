import { expect } from 'chai';
import { makeRgba } from '../pixels/raster.ts';
import { distanceHistogram, lumaHistogram } from './histogram.ts';
import { screenDistance } from './screen.ts';

describe('key histograms', () => {
  const picture = makeRgba(100, 80);
  for (let i = 0; i < 8000; i++) {
    const inside = i % 100 > 40 && i % 100 < 60 && i > 2000 && i < 6000;
    picture.data.set(inside ? [210, 190, 170, 255] : [40, 180, 70, 255], i * 4);
  }
  // 19 of 100 columns in 39 full rows and parts of two more.
  const share =
    [...Array(8000).keys()].filter((i) => i % 100 > 40 && i % 100 < 60 && i > 2000 && i < 6000).length / 8000;

  it('shares add up to one, with a heap at the screen and one at the subject', () => {
    const { most, shares, screen } = distanceHistogram(picture, []);
    expect(shares.reduce((a, b) => a + b, 0)).to.be.closeTo(1, 1e-9);
    expect(screen.map(Math.round)).to.deep.equal([40, 180, 70]);
    const subject = Math.floor((screenDistance([210, 190, 170], [40, 180, 70]) / most) * shares.length);
    const around = shares.slice(subject - 1, subject + 2).reduce((a, b) => a + b, 0);
    expect(around).to.be.closeTo(share, 0.01);
    expect(shares[0]).to.be.closeTo(1 - share, 0.01);
  });

  it('brightness is counted where it is', () => {
    const { most, shares } = lumaHistogram(picture);
    expect(most).to.equal(256);
    const at = Math.floor((0.2126 * 210 + 0.7152 * 190 + 0.0722 * 170) / 4);
    expect(shares[at]).to.be.closeTo(share, 1e-9);
    expect(shares.filter((s) => s > 0)).to.have.length(2);
  });

  it('another sample of the screen moves everything nearer or further', () => {
    const wrong = distanceHistogram(picture, [[210, 190, 170]]);
    expect(wrong.shares[0]).to.be.closeTo(share, 0.01);
  });
});
