import { expect } from 'chai';
import { differencePicture, meanDifference, seamOf } from './seam.ts';

/** A bright square of 20 in a dark picture of 100 x 40, at a place. */
function square(x: number): Uint8ClampedArray {
  const data = new Uint8ClampedArray(100 * 40 * 4);
  for (let row = 10; row < 30; row++)
    for (let column = 0; column < 20; column++)
      data.fill(255, (row * 100 + ((x + column) % 100)) * 4, (row * 100 + ((x + column) % 100)) * 4 + 3);
  return data;
}

describe('the seam of a loop', () => {
  it('a motion that goes on into its beginning has none: the last step is like every other', () => {
    // Ten steps of ten pixels round a picture of a hundred.
    const { jump, step, seen } = seamOf(square(0), square(10), square(90));
    expect(jump).to.be.closeTo(step, 1e-9);
    expect(seen).to.equal(false);
  });

  it('one that jumps back is seen, and the figure is what changes: two squares of 20 in 4,000 pixels', () => {
    const { jump, seen } = seamOf(square(0), square(2), square(60));
    expect(jump).to.be.closeTo((2 * 400) / 4000, 1e-9);
    expect(seen).to.equal(true);
  });

  it('what stands still has no seam, and noise is none', () => {
    const quiet = square(5);
    expect(seamOf(quiet, quiet, quiet)).to.deep.equal({ jump: 0, step: 0, seen: false });
    const noisy = quiet.map((v, i) => (i % 4 === 3 ? v : Math.max(0, v - 1)));
    expect(seamOf(quiet, quiet, noisy).seen).to.equal(false);
    expect(meanDifference([], [])).to.equal(0);
  });

  it('the picture of a difference is black where nothing is and bright where something is', () => {
    const picture = differencePicture([10, 20, 30, 255], [10, 30, 130, 255]);
    expect([...picture]).to.deep.equal([0, 40, 255, 255]);
  });
});
