import { expect } from 'chai';
import { chanceShot, shotWidth } from './shots.ts';

describe('shots to learn from', () => {
  it('are the same for the same number, and unlike for others', async () => {
    const [first, again, other] = await Promise.all([chanceShot(3), chanceShot(3), chanceShot(4)]);
    expect(first!.picture.data).to.deep.equal(again!.picture.data);
    expect(first!.picture.data).to.not.deep.equal(other!.picture.data);
  });

  it('show something with an edge before a screen, each', async () => {
    for (let number = 0; number < 6; number++) {
      const { alpha } = await chanceShot(number);
      expect(alpha.width).to.equal(shotWidth);
      const share = (counts: (a: number) => boolean): number => alpha.data.filter(counts).length / alpha.data.length;
      expect(
        share((a) => a === 0),
        `${number}: screen`,
      ).to.be.within(0.3, 0.99);
      expect(
        share((a) => a > 0 && a < 255),
        `${number}: edge`,
      ).to.be.within(0.0005, 0.5);
    }
  });
});
