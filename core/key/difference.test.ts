import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeRgba, type Rgba } from '../pixels/raster.ts';
import { defaultDifference, differenceKey, temporalMedian } from './difference.ts';

const [width, height] = [80, 50];

/** A float drifting past a still, mottled wall; noise in every frame. */
function frame(at: number): Rgba {
  const [random, wall] = [seededRandom(100 + at), seededRandom(7)];
  const picture = makeRgba(width, height);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const shade = 90 + 40 * wall();
    const inside = Math.hypot(x - at, y - 25) < 9;
    const noise = 6 * (random() - 0.5);
    picture.data.set(
      inside ? [220 + noise, 110 + noise, 40 + noise, 255] : [shade + noise, shade + noise, shade + noise, 255],
      i * 4,
    );
  }
  return picture;
}

describe('difference to a still ground', () => {
  const frames = [-20, 12, 30, 48, 66, 84, 100].map(frame);
  const empty = frame(-20);

  it('the median over time is the ground without what passes', () => {
    const ground = temporalMedian(frames);
    let worst = 0;
    for (let i = 0; i < ground.data.length; i++) worst = Math.max(worst, Math.abs(ground.data[i]! - empty.data[i]!));
    expect(worst).below(8);
  });

  it('takes what passes and nothing else, noise or not', () => {
    const alpha = differenceKey(frames[2]!, temporalMedian(frames), defaultDifference);
    let [missed, extra] = [0, 0];
    for (let i = 0; i < alpha.data.length; i++) {
      const distance = Math.hypot((i % width) - 30, Math.floor(i / width) - 25);
      if (distance < 7.5 && alpha.data[i]! < 250) missed++;
      if (distance > 11 && alpha.data[i]! > 4) extra++;
    }
    expect([missed, extra]).to.deep.equal([0, 0]);
  });

  it('is nothing where nothing differs', () => {
    expect(differenceKey(empty, empty, defaultDifference).data.some((a) => a > 0)).to.equal(false);
  });
});
