import { expect } from 'chai';
import { inTurn } from './in-turn.ts';

const later = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

describe('what waits for its turn', () => {
  it('is done one thing at a time, in order, with room for others in between', async () => {
    const done: string[] = [];
    for (const name of ['a', 'b', 'c']) inTurn(() => done.push(name));
    expect(done).to.deep.equal([]);
    const seen: string[] = [];
    while (done.length < 3) {
      await later();
      seen.push(done.join(''));
    }
    for (const stage of ['a', 'ab', 'abc']) expect(seen).to.include(stage);
  });

  it('is left out once it is taken back, and goes on after what fails', async () => {
    const done: string[] = [];
    const failures: unknown[] = [];
    const before = process.listeners('uncaughtException');
    process.removeAllListeners('uncaughtException');
    process.once('uncaughtException', (error) => failures.push(error));
    inTurn(() => {
      throw new Error('cannot be drawn');
    });
    const back = inTurn(() => done.push('taken back'));
    inTurn(() => done.push('kept'));
    back();
    while (done.length === 0) await later();
    for (const listener of before) process.on('uncaughtException', listener);
    expect(done).to.deep.equal(['kept']);
    expect(failures.map(String)).to.deep.equal(['Error: cannot be drawn']);
    back();
    inTurn(() => done.push('asked for afterwards'));
    while (done.length === 1) await later();
    expect(done).to.have.length(2);
  });
});
