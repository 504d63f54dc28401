import { expect } from 'chai';
import { firstPlan, givenUp, nextPlan, plentifulBitrate, type VideoPlan } from './fit-size.ts';

const wanted = { width: 1280, height: 720, rate: 30 };

describe('fitting a video under a size', () => {
  it('gives up nothing where there is room, and asks for no more bits than help', () => {
    const plan = firstPlan(wanted, 5, 50e6);
    expect(plan).to.include(wanted);
    expect(plan.bitrate).to.equal(1280 * 720 * 30 * 0.35);
    expect(givenUp(wanted, plan)).to.equal('');
  });

  it('without a limit a small picture gets most bits for a pixel, a large one fewer for a pixel and more in all', () => {
    const [small, full] = [
      plentifulBitrate({ width: 640, height: 360, rate: 30 }),
      plentifulBitrate({ width: 1920, height: 1080, rate: 30 }),
    ];
    expect(small).to.equal(640 * 360 * 30 * 0.24);
    // Nine times the pixels at 1 / sqrt(3) of the bits for each.
    expect(full / small).closeTo(9 / Math.sqrt(3), 1e-3);
    expect(plentifulBitrate({ width: 320, height: 180, rate: 15 })).to.equal(320 * 180 * 15 * 0.24);
  });

  it('spends the limit over the seconds, a little less', () => {
    const plan = firstPlan(wanted, 5, 600e3);
    expect(plan).to.include(wanted);
    expect((plan.bitrate * 5) / 8).to.be.within(0.9 * 600e3, 600e3);
  });

  it('gives up frames before pixels, and never keeps pixels that fall to pieces', () => {
    const tight = firstPlan(wanted, 6, 300e3);
    expect(tight).to.include({ width: 1280, height: 720, rate: 15 });
    expect(givenUp(wanted, tight)).to.equal('15 frames per second');
    const tighter = firstPlan(wanted, 6, 100e3);
    expect(tighter.rate).to.equal(15);
    expect(tighter.width).to.be.below(1280);
    expect((tighter.width % 2) + (tighter.height % 2)).to.equal(0);
    expect(tighter.width / tighter.height).to.be.closeTo(16 / 9, 0.03);
    expect(givenUp(wanted, tighter)).to.match(/^15 frames per second, \d+ × \d+$/);
    for (const limit of [40e3, 100e3, 300e3, 1e6]) {
      const { width, height, rate, bitrate } = firstPlan(wanted, 6, limit);
      expect(bitrate / (width * height * rate), String(limit)).to.be.at.least(0.0249);
    }
  });

  it('ends under the limit with any encoder that does not get larger for fewer bits, or says that it cannot', () => {
    for (const factor of [0.7, 1, 1.6, 3, 8]) {
      let plan: VideoPlan | null = firstPlan(wanted, 6, 400e3);
      let bytes = Infinity;
      let passes = 0;
      while (plan && passes < 30) {
        passes++;
        bytes = (plan.bitrate * 6 * factor) / 8;
        if (bytes <= 400e3) break;
        plan = nextPlan(plan, bytes, 400e3);
      }
      expect(bytes, `an encoder that takes ${factor} of what it is given`).to.be.at.most(400e3);
      expect(passes).to.be.at.most(2);
    }
    // One that cannot go below a size comes to an end.
    let plan: VideoPlan | null = firstPlan(wanted, 6, 1000);
    let passes = 0;
    while (plan && passes < 60) [plan, passes] = [nextPlan(plan, 50e3, 1000), passes + 1];
    expect(plan).to.equal(null);
  });
});
