import { expect } from 'chai';
import { estimatedBytes, probesOf, type Pace } from './estimate.ts';

const sum = (values: number[]): number => values.reduce((a, b) => a + b, 0);

describe('the size of a file before it is made', () => {
  const paces: Pace[] = [
    { keyEvery: Infinity, settles: 0 },
    { keyEvery: 150, settles: 0 },
    { keyEvery: 150, settles: 25 },
  ];

  it('stretches lie inside the clip, apart from each other, and a short clip is looked at whole', () => {
    for (const pace of paces)
      for (const total of [1, 2, 36, 37, 60, 180, 3600]) {
        const probes = probesOf(total, pace);
        probes.forEach(({ first, count }, k) => {
          expect(first).to.be.at.least(k === 0 ? 0 : probes[k - 1]!.first + probes[k - 1]!.count);
          expect(first + count).to.be.at.most(total);
        });
        if (total <= 36) expect(probes).to.deep.equal([{ first: 0, count: total }]);
        // It is never much work beside the export itself.
        if (total === 180) expect(sum(probes.map(({ count }) => count))).to.be.lessThan(80);
      }
  });

  it('whole frames, those until it settles, and changes are counted as often as they are written', () => {
    for (const pace of paces) {
      const { keyEvery, settles } = pace;
      // Whole frames of 900 bytes, then small ones that grow until the writer has settled, and slowly on through the clip.
      const size = (n: number, since: number): number =>
        since === 0 ? 900 : (20 + n / 10) * Math.min(1, (since + 1) / (settles + 1));
      const stretches = probesOf(400, pace).map(({ first, count }) =>
        Array.from({ length: count }, (_, k) => size(first + k, k)),
      );
      const really = sum(Array.from({ length: 400 }, (_, n) => size(n, n % keyEvery)));
      expect(estimatedBytes(400, pace, stretches)).to.be.closeTo(really, really * 0.04);
    }
    expect(estimatedBytes(9, paces[1]!, [[5, 1, 1, 1, 1, 1, 1, 1, 1]])).to.equal(13);
  });
});
