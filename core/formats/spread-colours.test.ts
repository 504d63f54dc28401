import { expect } from 'chai';
import { spreadColours } from './spread-colours.ts';

const [width, height] = [37, 22];
const at = (x: number, y: number): number => (y * width + x) * 4;

describe('colours under what is transparent', () => {
  it('are those of what is visible nearby; what is visible, and alpha, stay', () => {
    const rgba = new Uint8ClampedArray(width * height * 4);
    // Red at the left, blue at the right, nothing between; a soft edge of red.
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < 10; x++) rgba.set([200, 30, 20, x === 9 ? 60 : 255], at(x, y));
      for (let x = 28; x < width; x++) rgba.set([20, 40, 210, 255], at(x, y));
    }
    const before = rgba.slice();
    spreadColours(rgba, width, height);
    for (let i = 0; i < rgba.length; i += 4) {
      expect(rgba[i + 3]).to.equal(before[i + 3]);
      if (before[i + 3]! > 0) expect([...rgba.subarray(i, i + 3)]).to.deep.equal([...before.subarray(i, i + 3)]);
    }
    const [red, , blue] = rgba.subarray(at(11, 10), at(11, 10) + 3);
    expect(red).to.be.greaterThan(150);
    expect(blue).to.be.lessThan(80);
    expect(rgba[at(26, 10) + 2]).to.be.greaterThan(150);
    // Nothing is darker than both: no black is mixed in.
    for (let x = 0; x < width; x++) expect(rgba[at(x, 5)]! + rgba[at(x, 5) + 2]!).to.be.greaterThan(180);
  });

  it('of a picture in which nothing is visible stay as they are', () => {
    const rgba = new Uint8ClampedArray(5 * 3 * 4);
    spreadColours(rgba, 5, 3);
    expect([...rgba].every((v) => v === 0)).to.equal(true);
  });
});
