import { expect } from 'chai';
import { PaintQuality } from './paint-quality.ts';

describe('quality of a playing shot', () => {
  it('is full while there is time, and comes down when frames keep taking too long', () => {
    const quality = new PaintQuality();
    for (let k = 0; k < 50; k++) quality.learn(20, 33);
    expect(quality.share).to.equal(1);
    quality.learn(80, 33);
    quality.learn(20, 33);
    expect(quality.share, 'one slow frame is nothing').to.equal(1);
    for (let k = 0; k < 3; k++) quality.learn(80, 33);
    expect(quality.share).to.equal(0.75);
    for (let k = 0; k < 300; k++) quality.learn(80, 33);
    expect(quality.share).to.equal(0.35);
  });

  it('goes up again when there is plenty of time', () => {
    const quality = new PaintQuality();
    for (let k = 0; k < 9; k++) quality.learn(90, 33);
    const before = quality.share;
    for (let k = 0; k < 24; k++) quality.learn(5, 33);
    expect(quality.share).to.be.greaterThan(before);
  });
});
