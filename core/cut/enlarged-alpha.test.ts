import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { halve } from '../pixels/resample.ts';
import { doneAtOnce } from '../pixels/steps.ts';
import { estimateAlpha } from './alpha.ts';
import { enlargedAlpha } from './enlarged-alpha.ts';

/** Alpha of a disc with a soft rim, 0..1. */
const disc =
  (cx: number, cy: number, r: number, soft: number) =>
  (x: number, y: number): number =>
    Math.max(0, Math.min(1, 0.5 + (r - Math.hypot(x + 0.5 - cx, y + 0.5 - cy)) / soft));

function mixed(width: number, height: number, alpha: (x: number, y: number) => number, noise = 0): Rgba {
  const picture = makeRgba(width, height);
  const random = seededRandom(4);
  for (let i = 0; i < width * height; i++) {
    const a = alpha(i % width, Math.floor(i / width));
    const grain = noise * (random() + random() - 1);
    picture.data.set([...[210, 70, 40].map((f, c) => a * f + (1 - a) * [40, 90, 150][c]! + grain), 255], i * 4);
  }
  return picture;
}

function errors(found: Bytes, alpha: (x: number, y: number) => number): { mean: number; most: number } {
  let [sum, count, most] = [0, 0, 0];
  for (let i = 0; i < found.data.length; i++) {
    const truth = alpha(i % found.width, Math.floor(i / found.width));
    const error = Math.abs(found.data[i]! / 255 - truth);
    most = Math.max(most, error);
    if (truth === 0 || truth === 1) continue;
    sum += error;
    count++;
  }
  return { mean: sum / count, most };
}

describe('alpha from that of the half', () => {
  it('is the true one where colours mix two, though the half has lost every second pixel', () => {
    for (const soft of [1, 3, 14]) {
      const truth = disc(101, 83, 52, soft);
      const picture = mixed(201, 161, truth);
      const half = halve(picture);
      const ofHalf = makeBytes(half.width, half.height);
      for (let i = 0; i < ofHalf.data.length; i++) {
        const [x, y] = [2 * (i % half.width), 2 * Math.floor(i / half.width)];
        const four = [truth(x, y), truth(x + 1, y), truth(x, y + 1), truth(x + 1, y + 1)];
        ofHalf.data[i] = Math.round((255 * four.reduce((a, b) => a + b)) / 4);
      }
      const { mean, most } = errors(doneAtOnce(enlargedAlpha(picture, half, ofHalf)), truth);
      expect(mean, `rim ${soft}`).to.be.below(0.03);
      expect(most, `rim ${soft}`).to.be.below(0.2);
    }
  });

  it('leaves clear and opaque places as they are, whatever their colours', () => {
    const random = seededRandom(2);
    const picture = makeRgba(80, 60);
    for (let i = 0; i < picture.data.length; i++) picture.data[i] = i % 4 === 3 ? 255 : 255 * random();
    const half = halve(picture);
    const alpha = makeBytes(half.width, half.height);
    for (let i = 0; i < alpha.data.length; i++) alpha.data[i] = i % half.width < 20 ? 0 : 255;
    const found = doneAtOnce(enlargedAlpha(picture, half, alpha));
    for (let i = 0; i < found.data.length; i++) {
      if (i % 80 < 37) expect(found.data[i]).to.equal(0);
      if (i % 80 > 42) expect(found.data[i]).to.equal(255);
    }
  });
});

describe('alpha of a large picture', () => {
  const [width, height] = [2401, 1501];
  const truth = disc(1100, 760, 520, 8);
  const picture = mixed(width, height, truth, 6);
  const mask = makeBytes(width, height);
  for (let i = 0; i < mask.data.length; i++) mask.data[i] = truth(i % width, Math.floor(i / width)) > 0.5 ? 1 : 0;

  it('follows its soft edge', () => {
    const { mean } = errors(estimateAlpha(picture, mask), truth);
    expect(mean).to.be.below(0.06);
  });

  it('changes in the asked part alone, and is there what it is in the whole', () => {
    const whole = estimateAlpha(picture, mask);
    const before = makeBytes(width, height, 7);
    const rect = { x: 1501, y: 601, width: 251, height: 333 };
    const part = estimateAlpha(picture, mask, rect, before);
    let most = 0;
    for (let i = 0; i < part.data.length; i++) {
      const [x, y] = [i % width, Math.floor(i / width)];
      const asked = x >= rect.x && y >= rect.y && x < rect.x + rect.width && y < rect.y + rect.height;
      if (!asked && part.data[i] !== 7) expect.fail(`changed at ${x}, ${y}`);
      if (asked) most = Math.max(most, Math.abs(part.data[i]! - whole.data[i]!));
    }
    expect(most).to.be.below(30);
  });
});
