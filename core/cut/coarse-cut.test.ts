import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makePlane, makeRgba, type Bytes } from '../pixels/raster.ts';
import { cutAfterStroke } from './coarse-cut.ts';
import { contrastScale, DROP } from './graph-cut.ts';

const [width, height] = [120, 80];
const count = width * height;
const inPiece = (x: number, y: number): boolean => x >= 30 && x < 90 && y >= 10 && y < 70;

/** A piece of two greys, of which the right one is that of the ground, and a Drop stroke on the left one. */
function afterDrop(evidence: number): Bytes {
  const random = seededRandom(4);
  const picture = makeRgba(width, height);
  const [before, seeds, drawn] = [makeBytes(width, height), makeBytes(width, height), makeBytes(width, height)];
  const prior = makePlane(width, height);
  for (let i = 0; i < count; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const grey = (inPiece(x, y) && x < 60 ? 40 : 62) + 3 * (random() - 0.5);
    picture.data.set([grey, grey, grey, 255], i * 4);
    if (inPiece(x, y)) before.data[i] = 1;
    prior.data[i] = inPiece(x, y) ? evidence : -2;
    if (Math.hypot(x - 45, y - 40) < 5) {
      drawn.data[i] = 1;
      seeds.data[i] = DROP;
    }
  }
  const coarse = {
    picture,
    beta: contrastScale(picture),
    evidence: { prior, novelty: makePlane(width, height), lasting: 0.6 },
    textures: null,
  };
  return cutAfterStroke(coarse, before, { seeds, drawn, keeps: false }).mask;
}

/** Share of the left or the right half of the piece that is in a mask. */
function shareOf({ data }: Bytes, left: boolean): number {
  let [found, all] = [0, 0];
  for (let i = 0; i < count; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    if (!inPiece(x, y) || x < 60 !== left) continue;
    all++;
    found += data[i]!;
  }
  return found / all;
}

describe('a Drop stroke', () => {
  it('takes what is like the place it was drawn on, and not what evidence speaks for and is unlike that', () => {
    const mask = afterDrop(1.5);
    expect(shareOf(mask, true)).to.be.below(0.05);
    expect(shareOf(mask, false)).to.be.above(0.95);
  });

  it('may take what little speaks for', () => {
    expect(shareOf(afterDrop(0.3), false)).to.be.below(0.05);
  });
});
