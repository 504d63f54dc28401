import { expect } from 'chai';
import { aboveNoise, betweenThresholds, mixedShare, type Thresholds } from './mixture.ts';
import { mostNoise, noiseOf, noiseSteps } from './noise.ts';

const thresholds: Thresholds = { core: 10, edge: 34, noise: 1.5 };

describe('mixtures of screen and subject', () => {
  /** From a green screen to a pale and to a dark subject. */
  const ways = [
    [170, 14, 116],
    [-10, -140, -40],
  ] as const;

  it('alpha is how far a colour has come from the screen to the subject, its ends pulled in', () => {
    for (const [r, g, b] of ways) {
      for (const share of [0.1, 0.25, 0.5, 0.75, 0.9]) {
        const found = mixedShare(share * r, share * g, share * b, r, g, b, thresholds);
        expect(found, `${share}`).to.be.closeTo((share - 0.02) / 0.92, 1e-9);
      }
      expect(mixedShare(0, 0, 0, r, g, b, thresholds)).to.equal(0);
      expect(mixedShare(0.96 * r, 0.96 * g, 0.96 * b, r, g, b, thresholds)).to.equal(1);
      expect(mixedShare(2 * r, 2 * g, 2 * b, r, g, b, thresholds)).to.equal(1);
    }
  });

  it('a colour beside the way is a thing of its own, as solid as it is far from the screen', () => {
    const [r, g, b] = ways[0];
    // Across the way: by the way alone it would be no subject at all.
    const across = [-g, r, 0].map((v) => v * 0.9) as [number, number, number];
    expect(mixedShare(...across, r, g, b, thresholds)).to.be.greaterThan(0.4);
    const slightly = [0.3 * r - g * 0.05, 0.3 * g + r * 0.05, 0.3 * b] as const;
    expect(mixedShare(...slightly, r, g, b, thresholds)).to.be.closeTo((0.3 - 0.02) / 0.92, 1e-6);
  });

  it('thresholds decide alone where screen and subject are alike', () => {
    expect(betweenThresholds(10, thresholds)).to.equal(0);
    expect(betweenThresholds(22, thresholds)).to.equal(0.5);
    expect(betweenThresholds(90, thresholds)).to.equal(1);
    expect(mixedShare(0, 40, 0, 2, 3, 1, thresholds)).to.be.within(0.01, 1);
    expect(mixedShare(0, 4, 0, 2, 3, 1, thresholds)).to.equal(0);
  });

  it('what may be noise is screen, and faint edges begin from twice as far on', () => {
    expect([1.5, 2.25, 3, 9].map((d) => aboveNoise(d, thresholds))).to.deep.equal([0, 0.5, 1, 1]);
  });
});

describe('noise of a screen', () => {
  const counts = (distances: number[], most: number): Uint32Array => {
    const out = new Uint32Array(noiseSteps);
    for (const d of distances) if (d < most) out[Math.floor((d / most) * noiseSteps)]! += 1;
    return out;
  };

  it('reaches a little further than 97 of 100 distances', () => {
    const most = 16;
    const even = Array.from({ length: 10_000 }, (_, i) => (i / 10_000) * 8);
    expect(noiseOf(counts(even, most), most)).to.be.closeTo(1.35 * 0.97 * 8, 0.4);
    const quiet = [...even.map((d) => d / 4), ...Array.from({ length: 200 }, () => 15)];
    expect(noiseOf(counts(quiet, most), most), 'a few far ones are no noise').to.be.closeTo(1.35 * 2, 0.5);
  });

  it('is never less than a still picture has, nor more than the core allows', () => {
    expect(noiseOf(new Uint32Array(noiseSteps), 5)).to.equal(1.5);
    expect(noiseOf(counts([0, 0, 0], 5), 5)).to.equal(1.5);
    expect(
      noiseOf(
        counts(
          Array.from({ length: 100 }, () => 4.9),
          5,
        ),
        5,
      ),
    ).to.equal(5);
    expect([0, 2, 10, 30].map(mostNoise)).to.deep.equal([1.5, 1.5, 5, 15]);
  });
});
