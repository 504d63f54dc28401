import { expect } from 'chai';
import { Turns } from './turns.ts';

describe('turns', () => {
  it('run at once what fits together, in the order it came, and never more; also after failures', async () => {
    const turns = new Turns(10);
    let used = 0;
    let most = 0;
    const order: number[] = [];
    const work = (need: number, name: number, fails = false) =>
      turns.take(need, async () => {
        order.push(name);
        used += need;
        most = Math.max(most, used);
        await new Promise((resolve) => setImmediate(resolve));
        used -= need;
        if (fails) throw new Error('damaged');
        return name;
      });
    const results = await Promise.allSettled([work(6, 1), work(4, 2, true), work(6, 3), work(1, 4), work(9, 5)]);
    expect(results.map(({ status }) => status)).to.deep.equal([
      'fulfilled',
      'rejected',
      'fulfilled',
      'fulfilled',
      'fulfilled',
    ]);
    expect([most, order]).to.deep.equal([10, [1, 2, 3, 4, 5]]);
  });

  it('let what needs more than there is run alone', async () => {
    const turns = new Turns(10);
    let running = 0;
    let together = 0;
    const work = (need: number) =>
      turns.take(need, async () => {
        together = Math.max(together, ++running);
        await new Promise((resolve) => setImmediate(resolve));
        running--;
      });
    await Promise.all([work(1), work(50), work(1)]);
    expect(together).to.equal(1);
  });
});
