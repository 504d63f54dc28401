import { expect } from 'chai';
import { firstGifPlan, nextGifPlan, type GifPlan } from './fit-gif.ts';

const wanted = { width: 480, height: 270, rate: 15 };

/** What an encoder makes of six seconds by a plan. @param like how much smaller hold, frames and pixels make it */
const bytesOf = ({ width, height, rate, hold }: GifPlan, like = { hold: 0.93, rate: 0.9, edge: 1.8 }): number =>
  2_400_000 *
  like.hold ** (hold - 4) *
  (rate / 15) ** like.rate *
  Math.sqrt((width * height) / (480 * 270)) ** like.edge;

describe('a GIF under a size', () => {
  it('gives up colours first, then frames, then pixels', () => {
    const first = firstGifPlan(wanted);
    expect(nextGifPlan(first, 1_000_000, 900_000)).to.deep.equal({ ...first, hold: 7 });
    expect(nextGifPlan(first, 1_000_000, 500_000)).to.deep.equal({ ...first, hold: 10, rate: 10 });
    const small = nextGifPlan(first, 1_000_000, 100_000)!;
    expect(small).to.include({ hold: 10, rate: 8 });
    expect(small.width).to.be.below(300);
    expect([small.width % 2, small.height % 2]).to.deep.equal([0, 0]);
    expect(small.width / small.height).to.be.closeTo(16 / 9, 0.04);
  });

  it('ends under the limit within few passes, or says that it cannot', () => {
    for (const like of [undefined, { hold: 1, rate: 0.6, edge: 1.2 }, { hold: 0.9, rate: 1, edge: 2 }])
      for (const limit of [1_000_000, 600_000]) {
        let plan: GifPlan | null = firstGifPlan(wanted);
        let passes = 1;
        for (; plan && bytesOf(plan, like) > limit && passes < 12; passes++)
          plan = nextGifPlan(plan, bytesOf(plan, like), limit);
        expect(plan, `${limit}`).to.not.equal(null);
        expect(bytesOf(plan!, like)).to.be.at.most(limit);
        expect(passes).to.be.at.most(7);
      }
    expect(nextGifPlan(firstGifPlan(wanted), 2_400_000, 2000)).to.equal(null);
  });
});
