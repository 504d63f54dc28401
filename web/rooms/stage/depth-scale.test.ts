import { expect } from 'chai';
import { depthScale, horizon, nearest, placeRows } from './depth-scale.ts';

describe('depth rack', () => {
  it('goes from the lens to the horizon, near distances taking more room', () => {
    const scale = depthScale(400);
    expect(scale(nearest)).to.equal(0);
    expect(scale(horizon)).to.be.closeTo(400, 1e-9);
    expect(scale(2) - scale(1)).to.be.greaterThan(scale(11) - scale(10));
    expect(scale.invert(scale(4.5))).to.be.closeTo(4.5, 1e-9);
  });

  it('rows hang at their depth where there is room, and never overlap', () => {
    expect(placeRows([100, 300], 40, 400)).to.deep.equal([80, 280]);
    const tops = placeRows([100, 104, 110, 300], 40, 400);
    expect(tops).to.deep.equal([80, 120, 160, 280]);
  });

  it('rows pushed below the edge come up again, in order', () => {
    expect(placeRows([380, 390, 395], 40, 400)).to.deep.equal([280, 320, 360]);
  });
});
