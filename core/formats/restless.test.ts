import { expect } from 'chai';
import { makeRestless } from './restless.ts';

const flat = (value: number, size = 320 * 180): Uint8Array => new Uint8Array(size).fill(value);
const at = (frame: number, value = 120): Uint8Array => {
  const luma = flat(value);
  makeRestless(luma, frame);
  return luma;
};
const mean = (values: Uint8Array): number => values.reduce((sum, v) => sum + v, 0) / values.length;

describe('a ground that is never quite still', () => {
  it('is one level off at most, and not off at all in the mean', () => {
    const luma = at(3);
    expect(luma.every((v) => Math.abs(v - 120) <= 1)).to.equal(true);
    expect(mean(luma)).closeTo(120, 0.02);
  });

  it('is another in every frame, and the same when the frame is made again', () => {
    const [one, two] = [at(10), at(11)];
    expect(at(10)).to.deep.equal(one);
    const other = one.filter((v, i) => v !== two[i]).length / one.length;
    // Two of three steps taken at random differ.
    expect(other).closeTo(2 / 3, 0.03);
    // No block of 16 x 16 stands still.
    for (let y = 0; y < 176; y += 16)
      for (let x = 0; x < 320; x += 16) {
        let changed = 0;
        for (let v = 0; v < 16; v++)
          for (let u = 0; u < 16; u++) if (one[(y + v) * 320 + x + u] !== two[(y + v) * 320 + x + u]) changed++;
        expect(changed).above(100);
      }
  });

  it('keeps to the limited range', () => {
    expect([Math.min(...at(1, 16)), Math.max(...at(1, 235))]).to.deep.equal([16, 235]);
  });
});
