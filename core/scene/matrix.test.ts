import { expect } from 'chai';
import { compose, invert, transform, type Matrix } from './matrix.ts';

describe('matrices', () => {
  it('compose as doing one after the other, and invert', () => {
    const a: Matrix = [2, 0.3, -0.5, 1.5, 10, -4];
    const b: Matrix = [0.8, -0.2, 0.6, 1.1, -7, 3];
    const [x, y] = transform(compose(a, b), 5, 9);
    const [wantX, wantY] = transform(a, ...transform(b, 5, 9));
    expect(x).to.be.closeTo(wantX, 1e-9);
    expect(y).to.be.closeTo(wantY, 1e-9);
    const [u, v] = transform(invert(a), ...transform(a, 12, -8));
    expect(u).to.be.closeTo(12, 1e-9);
    expect(v).to.be.closeTo(-8, 1e-9);
  });
});
