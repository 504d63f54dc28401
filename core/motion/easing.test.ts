import { expect } from 'chai';
import { ease, type Easing } from './easing.ts';
import { valueAt, type Property } from './property.ts';
import { withKey, withKeysMoved, withoutKey, withValueAt } from './keys.ts';

describe('easing', () => {
  it('ease-in-out is symmetric and passes its middle', () => {
    expect(ease('ease-in-out', 0.5)).to.be.closeTo(0.5, 1e-6);
    for (const t of [0.1, 0.3, 0.45])
      expect(ease('ease-in-out', t) + ease('ease-in-out', 1 - t)).to.be.closeTo(1, 1e-6);
  });

  it('agrees with points found by walking the curve in small steps', () => {
    const [x1, y1, x2, y2] = [0.25, 0.1, 0.25, 1];
    const at = (a: number, b: number, s: number): number => 3 * (1 - s) ** 2 * s * a + 3 * (1 - s) * s * s * b + s ** 3;
    for (let s = 0.05; s < 1; s += 0.05) expect(ease('ease', at(x1, x2, s))).to.be.closeTo(at(y1, y2, s), 1e-5);
  });

  it('holds, goes straight, and overshoots beyond the value', () => {
    expect(ease('hold', 0.99)).to.equal(0);
    expect(ease('hold', 1)).to.equal(1);
    expect(ease('linear', 0.37)).to.equal(0.37);
    expect(Math.max(...[0.5, 0.6, 0.7].map((t) => ease('overshoot', t)))).to.be.greaterThan(1);
  });

  it('finds its way where the slope is flat', () => {
    const steep: Easing = [1, 0, 0, 1];
    expect(ease(steep, 0.5)).to.be.closeTo(0.5, 1e-6);
  });
});

describe('properties', () => {
  const moving: Property<number> = {
    keys: [
      { frame: 10, value: 0, easing: 'linear' },
      { frame: 20, value: 100, easing: 'hold' },
      { frame: 30, value: 50, easing: 'linear' },
    ],
  };

  it('hold before the first and after the last key, and go between', () => {
    expect([0, 10, 15, 20, 25, 30, 99].map((f) => valueAt(moving, f))).to.deep.equal([0, 0, 50, 100, 100, 50, 50]);
  });

  it('a constant stays one until a key is added; the last key removed leaves its value', () => {
    const still: Property<number> = { value: 7 };
    expect(withValueAt(still, 12, 9)).to.deep.equal({ value: 9 });
    const keyed = withKey(still, 12, 9);
    expect(keyed).to.deep.equal({ keys: [{ frame: 12, value: 9, easing: 'ease-in-out' }] });
    expect(withoutKey(keyed, 12)).to.deep.equal({ value: 9 });
  });

  it('keys stay in order when one is moved past others', () => {
    const moved = withKeysMoved(moving, [10], () => 25) as { keys: { frame: number; value: number }[] };
    expect(moved.keys.map((k) => [k.frame, k.value])).to.deep.equal([
      [20, 100],
      [25, 0],
      [30, 50],
    ]);
  });
});
