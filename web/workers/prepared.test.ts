import { expect } from 'chai';
import { forgetInRested, prepareWorker, restWorker, takeWorker, type PreparedKind } from './prepared.ts';

/** A worker that runs nothing. */
class Idle {
  onmessage: (() => void) | null = null;
  onerror: (() => void) | null = null;
}

describe('workers that wait for whoever needs one', () => {
  const before = globalThis.Worker;
  let ended: Worker[] = [];
  let forgot: Worker[] = [];
  const rest = (worker: Worker, kind: PreparedKind = 'cut', restFor?: number): void =>
    restWorker(kind, worker, { end: () => void ended.push(worker), forget: () => void forgot.push(worker) }, restFor);

  beforeEach(() => {
    globalThis.Worker = Idle as unknown as typeof Worker;
    [ended, forgot] = [[], []];
  });
  afterEach(() => {
    for (const kind of ['cut', 'paint', 'plate'] as const) takeWorker(kind);
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
    rest(worker, 'cut', 1);
    expect(worker.onmessage).to.equal(null);
    prepareWorker('cut');
    expect(takeWorker('cut')).to.equal(worker);
    // Nor is what is at work again told to forget.
    forgetInRested();
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect([ended, forgot]).to.deep.equal([[], []]);
    expect(takeWorker('cut')).to.not.equal(worker);
  });

  it('end when nobody comes', async () => {
    const late = takeWorker('cut');
    await new Promise<void>((resolve) => restWorker('cut', late, { end: resolve }, 1));
    expect(takeWorker('cut')).to.not.equal(late);
  });

  it('wait no longer than from when they were left last', async () => {
    const worker = takeWorker('cut');
    rest(worker, 'cut', 1);
    expect(takeWorker('cut')).to.equal(worker);
    rest(worker);
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(ended).to.deep.equal([]);
    expect(takeWorker('cut')).to.equal(worker);
  });

  it('let go of a project that was left, by their kind where only some rooms are done with, and wait for the next', () => {
    const [cut, paint, plate] = [takeWorker('cut'), takeWorker('paint'), takeWorker('plate')];
    rest(cut);
    rest(paint, 'paint');
    // One that holds nothing has nothing to let go of.
    restWorker('plate', plate, { end: () => void ended.push(plate) });
    forgetInRested(['cut', 'plate']);
    expect(forgot).to.deep.equal([cut]);
    forgetInRested();
    expect(forgot).to.deep.equal([cut, paint, cut]);
    expect([takeWorker('cut'), takeWorker('paint'), takeWorker('plate')]).to.deep.equal([cut, paint, plate]);
    expect(ended).to.deep.equal([]);
  });

  it('end at once where another one waits, which stays', () => {
    const [kept, other] = [takeWorker('cut'), takeWorker('cut')];
    rest(kept);
    rest(other);
    expect(ended).to.deep.equal([other]);
    expect(takeWorker('cut')).to.equal(kept);
  });

  it('that were only prepared hold nothing; one that dies is not given to anybody', () => {
    prepareWorker('cut');
    forgetInRested();
    const worker = takeWorker('cut');
    rest(worker);
    (worker as unknown as Idle).onerror!();
    expect(takeWorker('cut')).to.not.equal(worker);
    expect([ended, forgot]).to.deep.equal([[], []]);
  });
});
