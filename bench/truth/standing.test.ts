import { expect } from 'chai';
import { Standing } from './standing.ts';

const width = 240;
const sum = (values: Float32Array): number => values.reduce((all, v) => all + v, 0);
const level = (thick: number, opacity: number): Standing => {
  const standing = new Standing(width);
  standing.addStrand({
    curve: [
      [0.25, 0.301],
      [0.5, 0.337],
      [0.75, 0.373],
    ],
    width: [thick, thick],
    opacity: [opacity, opacity],
    colour: () => [200, 100, 50],
  });
  return standing;
};

describe('what stands before a screen', () => {
  it('a strand covers its length times its width times its opacity, also below a pixel', () => {
    const length = Math.hypot(0.5, 0.072) * width;
    for (const thick of [0.5, 1, 2, 6])
      for (const opacity of [0.3, 1])
        expect(sum(level(thick, opacity).alpha) / (length * thick * opacity)).to.be.closeTo(1, 0.04 + 0.02 * thick);
  });

  it('carries its colours times its alpha', () => {
    const { own, alpha } = level(1.3, 0.6);
    const off = (c: number, value: number): number =>
      Math.max(...alpha.map((a, i) => Math.abs(own[i * 3 + c]! - value * a)));
    for (const [c, value] of [200, 100, 50].entries()) expect(off(c, value)).to.be.lessThan(1e-3);
    expect(Math.max(...alpha)).to.be.closeTo(0.6, 1e-6);
  });

  it('a thing covers its area, and hides what was there before', () => {
    const standing = level(6, 1);
    const disc = (u: number, v: number): number => Math.hypot(u - 0.5, v - 0.337) - 0.1;
    standing.add(disc, () => [10, 20, 30]);
    const alone = new Standing(width);
    alone.add(disc, () => [10, 20, 30]);
    expect(sum(alone.alpha)).to.be.closeTo(Math.PI * 24 * 24, 6);
    const middle = Math.floor(0.337 * width) * width + width / 2;
    expect([0, 1, 2].map((c) => standing.own[middle * 3 + c])).to.deep.equal([10, 20, 30]);
  });

  it('blurred, it covers as much, and spreads as a Gaussian does', () => {
    const standing = level(1, 1);
    const before = sum(standing.alpha);
    const square = (): number => {
      let [moment, all] = [0, 0];
      for (let y = 0; y < standing.height; y++) {
        const a = standing.alpha[y * width + width / 2]!;
        moment += a * (y + 0.5 - 0.337 * width) ** 2;
        all += a;
      }
      return moment / all;
    };
    const narrow = square();
    standing.blur(1.5);
    expect(sum(standing.alpha)).to.be.closeTo(before, 0.01 * before);
    expect(square() - narrow).to.be.closeTo(1.5 * 1.5, 0.25);
  });
});
