import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { alphaOf, type Bytes, type Rgba } from '../pixels/raster.ts';
import { rebuildBehind } from './behind.ts';
import { NothingToContinue, rebuild } from './fill.ts';
import { findShadow } from './find-shadow.ts';
import { covered, disc, meanDifference, paint, planks } from './test-pictures.ts';
import { widen } from './widen.ts';

const [width, height] = [200, 140];

/** A picture that brings its own alpha along; where that says nothing the file is red, which must never be seen. */
function withOwn(picture: Rgba, ownAt: (x: number, y: number) => number): Rgba {
  const data = picture.data.slice();
  for (let i = 0; i < width * height; i++) {
    const a = Math.round(255 * Math.max(0, Math.min(1, ownAt(i % width, Math.floor(i / width)))));
    data.set(a === 0 ? [255, 0, 0, 0] : [...data.slice(i * 4, i * 4 + 3), a], i * 4);
  }
  return { ...picture, data };
}

const asAlpha = (mask: Bytes): Bytes => ({ ...mask, data: mask.data.map((v) => v * 255) });
const limited = (alpha: Bytes, picture: Rgba): Bytes => ({
  ...alpha,
  data: alpha.data.map((a, i) => Math.min(a, picture.data[i * 4 + 3]!)),
});

describe('the background of a picture that brings its own alpha along', () => {
  const ground = planks(width, height);
  /** It ends, over four pixels, in the middle of the ball. */
  const ball = disc(width, height, 130, 70, 24);
  const picture = withOwn(covered(ground, ball, [220, 60, 200]), (x) => (134 - x) / 4);
  const pieces = [{ alpha: limited(asAlpha(ball), picture), x: 0, y: 0 }];

  it('goes on where there was anything, and is as empty as the picture elsewhere', async () => {
    const { plate } = await rebuildBehind({ picture, pieces, shadows: [], seed: 1 });
    expect([...alphaOf(plate).data]).to.deep.equal([...alphaOf(picture).data]);
    const under: Bytes = { ...ball, data: ball.data.map((v, i) => (v && picture.data[i * 4 + 3]! >= 128 ? 1 : 0)) };
    const opaque = await rebuild({ picture: covered(ground, ball, [220, 60, 200]), hole: ball, seed: 1 });
    expect(meanDifference(plate, ground, under)).to.be.below(1.3 * meanDifference(opaque, ground, under) + 2);
    for (let i = 0; i < under.data.length; i++)
      if (under.data[i]) expect(plate.data[i * 4]! - plate.data[i * 4 + 1]!, 'no red').to.be.below(60);
  });

  it('is nothing to go on with where the piece was all there is', async () => {
    const alone = withOwn(picture, (x, y) => 24.5 - Math.hypot(x - 130, y - 70));
    const all = [{ alpha: alphaOf(alone), x: 0, y: 0 }];
    const reason: unknown = await rebuildBehind({ picture: alone, pieces: all, shadows: [], seed: 1 }).catch((e) => e);
    expect(reason).to.be.instanceOf(NothingToContinue);
  });

  it('ends where the picture does as if it did not, and what was not asked for is as it was', async () => {
    const random = seededRandom(3);
    const even = paint(width, height, (x, y) => {
      const v = 90 + (60 * y) / height + 20 * Math.sin(x * 0.05) + 4 * (random() - 0.5);
      return [v, v * 0.9, v * 0.8];
    });
    const full = withOwn(even, (_, y) => (100 - y) / 2);
    const hole = disc(width, height, 100, 80, 30);
    const seen: Bytes = { ...hole, data: hole.data.map((v, i) => (v && full.data[i * 4 + 3]! >= 128 ? 1 : 0)) };
    for (const seed of [1, 2]) {
      const made = await rebuild({ picture: full, hole, seed });
      expect(meanDifference(made, even, seen), `${seed}`).to.be.below(6);
      for (let i = 0; i < hole.data.length; i++)
        if (!hole.data[i])
          expect([...made.data.subarray(i * 4, i * 4 + 4)]).to.deep.equal([...full.data.subarray(i * 4, i * 4 + 4)]);
    }
  });

  it('shows no shadow where it shows nothing', async () => {
    const above = withOwn(covered(ground, ball, [220, 60, 200]), (_, y) => (100 - y) / 3);
    expect(await findShadow(above, limited(asAlpha(ball), above))).to.equal(null);
    const beside = withOwn(covered(ground, ball, [220, 60, 200]), (x) => (150 - x) / 3);
    expect(await findShadow(beside, limited(asAlpha(ball), beside))).to.equal(null);
  });

  it('is filled where it is widened, as before', async () => {
    const pad = { left: 0, top: 0, right: 10, bottom: 0 };
    const made = await widen({ picture: withOwn(ground, (x) => 150 - x), pad, seed: 1 });
    expect(alphaOf(made).data.every((a) => a === 255)).to.equal(true);
    expect(made.width).to.equal(width + 10);
  });
});
