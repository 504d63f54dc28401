import { expect } from 'chai';
import { halfOf, halvingsFor } from './halvings.ts';

describe('smaller copies of a picture', () => {
  it('have at least a pixel for each that is drawn, and less than four, as long as they do not get tiny', () => {
    const size = { width: 1600, height: 900 };
    for (const shrink of [3, 1, 0.9, 0.5, 0.49, 0.26, 0.25, 0.13, 0.07]) {
      const made = 0.5 ** halvingsFor(size, shrink);
      expect(made, `${shrink}`).to.be.at.least(Math.min(1, shrink));
      expect(made / 2, `${shrink}`).to.be.lessThan(shrink);
    }
    expect(halvingsFor(size, 0.0001)).to.equal(4);
    expect(halvingsFor({ width: 50, height: 4000 }, 0.1)).to.equal(0);
    expect(halfOf({ width: 7, height: 1 })).to.deep.equal([3, 1]);
  });
});
