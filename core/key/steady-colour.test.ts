import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { emptyBlocks, type Blocks } from './blocks.ts';
import { steadyColours } from './steady-colour.ts';

const [width, height] = [40, 30];
/** A slanting edge between green (left) and red. */
const coverAt = (x: number, y: number): number => Math.max(0, Math.min(1, (x - 14 - y / 10) / 1.5 + 0.5));
const colourAt = (share: number): [number, number, number] => [120, -60 + 40 * share, -80 + 150 * share];

/** The edge's blocks, colour with an error of some bytes, luma without. */
function blocksWith(error: number): { blocks: Blocks; cover: Float32Array } {
  const blocks = emptyBlocks(width, height);
  const cover = new Float32Array(width * height);
  const random = seededRandom(17);
  for (let i = 0; i < cover.length; i++) {
    cover[i] = coverAt(i % width, Math.floor(i / width));
    const [luma, blue, red] = colourAt(cover[i]!);
    blocks.luma[i] = luma;
    blocks.blue[i] = blue + error * (random() + random() + random() - 1.5) * 2;
    blocks.red[i] = red + error * (random() + random() + random() - 1.5) * 2;
  }
  return { blocks, cover };
}

function meanError({ blue, red }: Blocks, indices: number[]): number {
  const errors = indices.map((i) => {
    const [, trueBlue, trueRed] = colourAt(coverAt(i % width, Math.floor(i / width)));
    return Math.hypot(blue[i]! - trueBlue, red[i]! - trueRed);
  });
  return errors.reduce((sum, e) => sum + e, 0) / errors.length;
}

const all = Array.from({ length: width * height }, (_, i) => i);
const inEdge = all.filter((i) => Math.abs(coverAt(i % width, Math.floor(i / width)) - 0.5) < 0.49);

describe('steady colours', () => {
  it('take a third and more off the error of colours along an edge', () => {
    const { blocks, cover } = blocksWith(6);
    const before = meanError(blocks, inEdge);
    expect(meanError(steadyColours(blocks, cover), inEdge)).to.be.lessThan(0.67 * before);
  });

  it('leave an edge without error as steep as it is', () => {
    const { blocks, cover } = blocksWith(0);
    expect(meanError(steadyColours(blocks, cover), inEdge)).to.be.lessThan(4);
  });

  it('change neither what lies away from the edge nor luma, nor the blocks given', () => {
    const { blocks, cover } = blocksWith(6);
    const before = { ...blocks, blue: blocks.blue.slice(), red: blocks.red.slice() };
    const after = steadyColours(blocks, cover);
    const away = all.filter((i) => Math.abs((i % width) - 14 - Math.floor(i / width) / 10) > 3);
    for (const i of away) expect([after.blue[i], after.red[i]]).to.deep.equal([before.blue[i], before.red[i]]);
    expect(after.luma).to.deep.equal(before.luma);
    expect(blocks.blue).to.deep.equal(before.blue);
    expect(blocks.red).to.deep.equal(before.red);
  });

  it('do not mix a thing of another colour into the edge it touches', () => {
    const { blocks, cover } = blocksWith(0);
    const odd = all.filter((i) => i % width === 16 && Math.floor(i / width) === 12);
    for (const i of odd) [blocks.blue[i], blocks.red[i]] = [90, -90];
    const after = steadyColours(blocks, cover);
    for (const i of odd) expect(Math.hypot(after.blue[i]! - 90, after.red[i]! + 90)).to.be.lessThan(1);
  });
});
