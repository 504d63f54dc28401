import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import { exposureOf } from './exposure.ts';

/** Greys about a middle. */
function greys(middle: number): Rgba {
  const picture = makeRgba(60, 40);
  const random = seededRandom(middle + 1);
  for (let i = 0; i < picture.data.length; i += 4) {
    const v = Math.max(0, Math.min(255, Math.round(middle + 20 * (random() - 0.5))));
    picture.data.set([v, v, v, 255], i);
  }
  return picture;
}

const medianOf = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]!;
const middleAfter = (picture: Rgba): number => {
  const table = exposureOf(picture)!;
  return medianOf([...picture.data.filter((_, i) => i % 4 === 0)].map((v) => 255 * table[v]!));
};

describe('the exposure networks are shown a picture in', () => {
  it('leaves pictures alone whose brightness lies as photographs have it', () => {
    for (const middle of [70, 128, 190]) expect(exposureOf(greys(middle)), `${middle}`).to.equal(null);
  });

  it('brings the middle of dark and of light pictures to where it should lie, black and white staying', () => {
    expect(middleAfter(greys(36))).closeTo(100, 4);
    expect(middleAfter(greys(210))).closeTo(160, 6);
    for (const middle of [4, 36, 210, 250]) {
      const table = exposureOf(greys(middle))!;
      expect([table[0], table[255]]).to.deep.equal([0, 1]);
      for (let v = 1; v < 256; v++) expect(table[v]! >= table[v - 1]!, `${middle}, ${v}`).to.equal(true);
    }
  });

  it('bends what is nearly black only so far, as it holds little but noise', () => {
    expect(middleAfter(greys(12))).to.be.within(60, 90);
    expect(exposureOf(makeRgba(4, 4))![128]).closeTo((128 / 255) ** 0.4, 1e-6);
  });
});
