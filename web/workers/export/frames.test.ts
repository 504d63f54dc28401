import { expect } from 'chai';
import { everyFrame, Frames } from './frames.ts';
import { HelperGone } from './frame-helper.ts';

const of = (index: number, by: number): Uint8ClampedArray<ArrayBuffer> => new Uint8ClampedArray([index, by]);

/** Paints here, and complains when it is asked for two frames at once: it has one canvas. */
function oneCanvas() {
  let busy = false;
  return {
    frame: async (index: number) => {
      if (busy) throw new Error('two frames on one canvas');
      busy = true;
      await new Promise((resolve) => setImmediate(resolve));
      busy = false;
      return of(index, 0);
    },
  };
}

const helper = (by: number, paint = (index: number) => Promise.resolve(of(index, by))) => ({
  paint,
  close: () => undefined,
});
const gone = (): Promise<never> => Promise.reject(new HelperGone());

async function painted(frames: Frames, total: number): Promise<number[][]> {
  const got: number[][] = [];
  expect(await frames.each(everyFrame(total), 'pixels', (data) => void got.push([...data]))).to.equal(true);
  return got;
}

describe('frames of an export', () => {
  it('come in their order, painted here where there are no helpers', async () => {
    const got = await painted(new Frames(oneCanvas(), [], () => false), 5);
    expect(got).to.deep.equal([0, 1, 2, 3, 4].map((index) => [index, 0]));
  });

  it('are painted by all helpers', async () => {
    const got = await painted(new Frames(oneCanvas(), [helper(1), helper(2)], () => false), 8);
    expect(got.map(([index]) => index)).to.deep.equal([0, 1, 2, 3, 4, 5, 6, 7]);
    expect([...new Set(got.map(([, by]) => by))].sort()).to.deep.equal([1, 2]);
  });

  it('of helpers that are gone are painted here, one after the other', async () => {
    const got = await painted(new Frames(oneCanvas(), [helper(1, gone), helper(2, gone)], () => false), 8);
    expect(got).to.deep.equal([0, 1, 2, 3, 4, 5, 6, 7].map((index) => [index, 0]));
  });

  it('fail with what hindered the painting', async () => {
    const broken = helper(1, () => Promise.reject(new Error('A picture could not be loaded.')));
    const frames = new Frames(oneCanvas(), [broken], () => false);
    const why = await frames.each([0], 'png', () => undefined).catch((error: Error) => error.message);
    expect(why).to.equal('A picture could not be loaded.');
  });

  it('end where the export is cancelled', async () => {
    const taken: number[] = [];
    const frames = new Frames(oneCanvas(), [helper(1)], () => taken.length === 3);
    expect(await frames.each(everyFrame(9), 'pixels', (_, index) => void taken.push(index))).to.equal(false);
    expect(taken).to.deep.equal([0, 1, 2]);
  });
});
