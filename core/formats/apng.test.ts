import { expect } from 'chai';
import { decode, decodeApng, encode } from 'fast-png';
import { seededRandom } from '../pixels/random.ts';
import { MovingPng, UnfitFrame } from './apng.ts';

const [width, height] = [23, 11];

/** See-through noise, another for every frame. */
function frame(seed: number, w = width): Uint8Array {
  const random = seededRandom(seed);
  const data = Uint8Array.from({ length: w * height * 4 }, () => Math.floor(256 * random()));
  return encode({ width: w, height, data, channels: 4, depth: 8 });
}

const joined = (parts: readonly Uint8Array[]): Uint8Array => Uint8Array.from(parts.flatMap((part) => [...part]));
const delay = { numerator: 100, denominator: 2997 };

describe('moving PNGs', () => {
  it('hold every frame to the byte with its delay, as a public library reads them', () => {
    const frames = [1, 2, 3, 4].map((seed) => frame(seed));
    const moving = new MovingPng(frames.length);
    for (const png of frames) moving.add(png, delay);
    const read = decodeApng(joined(moving.finish()));
    expect([read.width, read.height, read.numberOfFrames, read.numberOfPlays]).to.deep.equal([width, height, 4, 0]);
    expect(read.frames).to.have.length(4);
    for (const [k, png] of frames.entries()) {
      expect(read.frames[k]!.data).to.deep.equal(decode(png).data);
      expect([read.frames[k]!.delayNumber, read.frames[k]!.delayDenominator]).to.deep.equal([100, 2997]);
    }
  });

  it('are their first frame to whoever knows still pictures only', () => {
    const moving = new MovingPng(2, 3);
    for (const seed of [7, 8]) moving.add(frame(seed), delay);
    const file = joined(moving.finish());
    expect(decode(file, { checkCrc: true }).data).to.deep.equal(decode(frame(7)).data);
    expect(decodeApng(file).numberOfPlays).to.equal(3);
  });

  it('refuse what is no PNG, a frame of another size, and another number of frames than was said', () => {
    const moving = new MovingPng(2);
    expect(() => moving.add(Uint8Array.from([1, 2, 3]), delay)).to.throw(UnfitFrame);
    moving.add(frame(1), delay);
    expect(() => moving.add(frame(2, width + 1), delay)).to.throw(UnfitFrame, /numbered pictures/);
    expect(() => moving.add(frame(2).slice(0, 60), delay)).to.throw(UnfitFrame);
    expect(() => moving.finish()).to.throw(UnfitFrame);
  });
});
