import { expect } from 'chai';
import { inOrder } from './in-order.ts';

/** A maker whose works are ended by hand, in whatever order. */
function byHand() {
  const begun: number[] = [];
  const ends = new Map<number, { end(): void; fail(error: Error): void }>();
  const make = (index: number): Promise<string> => {
    begun.push(index);
    return new Promise((resolve, reject) => ends.set(index, { end: () => resolve(`made ${index}`), fail: reject }));
  };
  return {
    begun,
    make,
    end: (index: number) => ends.get(index)!.end(),
    fail: (index: number, e: Error) => ends.get(index)!.fail(e),
  };
}

/** Lets everything happen that waits for nothing from outside. */
const settle = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

describe('things made side by side', () => {
  it('are handed over in their order, whichever is ready first', async () => {
    const { make, end } = byHand();
    const got: string[] = [];
    const done = inOrder([7, 3, 5], [make, make, make], (made, index) => got.push(`${made} as ${index}`) > 0);
    await settle();
    for (const index of [5, 3]) end(index);
    await settle();
    expect(got).to.deep.equal([]);
    end(7);
    expect(await done).to.equal(true);
    expect(got).to.deep.equal(['made 7 as 7', 'made 3 as 3', 'made 5 as 5']);
  });

  it('are begun one at a time by each maker, and no more than a few ahead of what was taken', async () => {
    const { begun, make, end } = byHand();
    const done = inOrder([...Array(9).keys()], [make, make], () => true);
    await settle();
    expect(begun).to.deep.equal([0, 1]);
    for (const index of [1, 2, 3]) {
      end(index);
      await settle();
    }
    // The first is not there yet: two makers and two that wait are all there may be.
    expect(begun).to.deep.equal([0, 1, 2, 3]);
    for (let index = 0; index < 9; index++) {
      end(index);
      await settle();
    }
    expect(begun).to.deep.equal([...Array(9).keys()]);
    expect(await done).to.equal(true);
  });

  it('end early when no more are taken, and nothing further is begun', async () => {
    const begun: number[] = [];
    const make = (index: number): Promise<number> => Promise.resolve(begun.push(index) && index);
    expect(await inOrder([...Array(50).keys()], [make], (index) => index < 2)).to.equal(false);
    await settle();
    expect(begun.length).to.be.at.most(6);
  });

  it('fail when the turn comes of one that failed', async () => {
    const { make, end, fail } = byHand();
    const got: string[] = [];
    const done = inOrder([0, 1, 2], [make, make, make], (made) => got.push(made) > 0);
    await settle();
    fail(1, new Error('no memory'));
    end(2);
    await settle();
    end(0);
    const why = await done.then(
      () => 'none',
      (error: Error) => error.message,
    );
    expect([why, got]).to.deep.equal(['no memory', ['made 0']]);
  });

  it('are none where none are wanted', async () => {
    expect(await inOrder([], [() => Promise.reject(new Error('not to be made'))], () => false)).to.equal(true);
  });
});
