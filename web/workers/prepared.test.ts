import { expect } from 'chai';
import { endRested, prepareWorker, restWorker, takeWorker } from './prepared.ts';

/** A worker that runs nothing. */
class Idle {
  onmessage: (() => void) | null = null;
  onerror: (() => void) | null = null;
}

describe('workers that wait for whoever needs one', () => {
  const before = globalThis.Worker;
  let ended: Worker[] = [];
  const rest = (worker: Worker, restFor?: number): void =>
    restWorker('cut', worker, () => void ended.push(worker), restFor);

  beforeEach(() => {
    globalThis.Worker = Idle as unknown as typeof Worker;
    ended = [];
  });
  afterEach(() => {
    endRested();
    globalThis.Worker = before;
  });

  it('are started once for a room on its way, and another one for who comes beside', () => {
    prepareWorker('cut');
    prepareWorker('cut');
    const [first, second] = [takeWorker('cut'), takeWorker('cut')];
    expect(first).to.not.equal(second);
    expect(takeWorker('paint')).to.not.equal(first);
  });

  it('are found again by who comes back, hear nothing meanwhile, and are not ended under their hands', async () => {
    const worker = takeWorker('cut');
    worker.onmessage = () => undefined;
    rest(worker, 1);
    expect(worker.onmessage).to.equal(null);
    prepareWorker('cut');
    expect(takeWorker('cut')).to.equal(worker);
    endRested();
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(ended).to.deep.equal([]);
    expect(takeWorker('cut')).to.not.equal(worker);
  });

  it('end when nobody comes, and at once where nobody will', async () => {
    const [late, left] = [takeWorker('cut'), takeWorker('cut')];
    const gone = new Promise<void>((resolve) => restWorker('cut', late, resolve, 1));
    await gone;
    rest(left);
    endRested();
    expect(ended).to.deep.equal([left]);
    expect([late, left]).to.not.include(takeWorker('cut'));
  });

  it('end by their kind, where only those of some rooms are done with', () => {
    const [cut, paint] = [takeWorker('cut'), takeWorker('paint')];
    rest(cut);
    restWorker('paint', paint, () => void ended.push(paint));
    endRested(['cut', 'bare']);
    expect(ended).to.deep.equal([cut]);
    expect(takeWorker('paint')).to.equal(paint);
  });

  it('end at once where another one waits, which stays', () => {
    const [kept, other] = [takeWorker('cut'), takeWorker('cut')];
    rest(kept);
    rest(other);
    expect(ended).to.deep.equal([other]);
    expect(takeWorker('cut')).to.equal(kept);
  });

  it('that were only prepared are not ended with those that rest; one that dies is not given to anybody', () => {
    prepareWorker('cut');
    endRested();
    const worker = takeWorker('cut');
    rest(worker);
    (worker as unknown as Idle).onerror!();
    expect(takeWorker('cut')).to.not.equal(worker);
    expect(ended).to.deep.equal([]);
  });
});
