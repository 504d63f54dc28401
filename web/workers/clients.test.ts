import { expect } from 'chai';
import { emptyDocument, type Document } from '../../core/document/document.ts';
import { renameProject } from '../../core/edits/project-edits.ts';
import type { ExportOrder } from './export-messages.ts';

/** A worker that writes down what it is told, and answers what a test lets it. */
class Scripted {
  static started: Scripted[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  readonly told: { kind: string; request: number; news?: object }[] = [];
  ended = false;

  constructor() {
    Scripted.started.push(this);
  }
  postMessage(message: Scripted['told'][number]): void {
    this.told.push(message);
  }
  terminate(): void {
    this.ended = true;
  }
  answer(message: object): void {
    this.onmessage?.({ data: message });
  }
  kinds(): string[] {
    return this.told.map(({ kind }) => kind);
  }
}

/** Schemas of messages name what only browsers have. */
const clients = async () => ({
  ...(await import('./export-client.ts')),
  ...(await import('./plate-client.ts')),
  ...(await import('./still-client.ts')),
  ...(await import('./prepared.ts')),
});

describe('what is asked of workers', () => {
  const [workerBefore, bitmapBefore] = [globalThis.Worker, globalThis.ImageBitmap];
  const started = Scripted.started;
  let asking: Awaited<ReturnType<typeof clients>>;
  const empty = (name: string): Document => emptyDocument(name, { width: 64, height: 36, rate: 30 }, 2, 'shot-1');
  const about = { document: empty('Quay'), picture: 'quay' };

  before(async () => {
    globalThis.Worker = Scripted as unknown as typeof Worker;
    globalThis.ImageBitmap ??= class {} as typeof ImageBitmap;
    asking = await clients();
  });
  afterEach(() => {
    // What rests is taken by nobody.
    for (const kind of ['export', 'plate'] as const) asking.takeWorker(kind);
    started.length = 0;
  });
  after(() => {
    globalThis.Worker = workerBefore;
    globalThis.ImageBitmap = bitmapBefore;
  });

  describe('an export', () => {
    const order = { document: empty('Signals') } as Omit<ExportOrder, 'kind'>;
    const finished = { kind: 'finished', data: new Blob(['x']), frames: 1, width: 64, height: 36, rate: 30 };
    const begin = () => asking.startExport(order, () => undefined);

    it('is made by the worker of the one before, which lets go of that when it is left', async () => {
      const first = begin();
      started[0]!.answer(finished);
      expect((await first.result)!.data.size).to.equal(1);
      asking.forgetInRested(['export']);
      const second = begin();
      started[0]!.answer({ ...finished, frames: 2 });
      expect((await second.result)!.frames).to.equal(2);
      expect(started).to.have.length(1);
      expect(started[0]!.kinds()).to.deep.equal(['export', 'forget', 'export']);
    });

    it('that is cancelled when it is there already does not cancel the next one', async () => {
      const first = begin();
      started[0]!.answer(finished);
      await first.result;
      first.cancel();
      expect(started[0]!.kinds()).to.deep.equal(['export']);
    });

    it('that was cancelled or failed leaves no worker to the next one', async () => {
      const cancelled = begin();
      cancelled.cancel();
      started[0]!.answer({ kind: 'cancelled' });
      expect(await cancelled.result).to.equal(null);
      const failing = begin();
      started[1]!.answer({ kind: 'failed', message: 'No space is left.' });
      const why = await failing.result.catch((error: Error) => error.message);
      expect(why).to.equal('No space is left.');
      begin().result.catch(() => undefined);
      expect(started.map(({ ended }) => ended)).to.deep.equal([true, true, false]);
    });
  });

  describe('a step of a background', () => {
    const ask = () => asking.makeStepsAgain(about, 0, {});
    const made = (worker: Scripted) => worker.answer({ kind: 'made', request: worker.told.at(-1)!.request, steps: [] });

    it('is made by the worker of the one before, under a number of its own', async () => {
      const first = ask();
      made(started[0]!);
      await first.answer;
      // Too late for the first: what it says must not be taken for the second.
      first.cancel();
      const second = ask();
      made(started[0]!);
      expect((await second.answer)!.kind).to.equal('made');
      const [one, late, two] = started[0]!.told;
      expect(started).to.have.length(1);
      expect(late).to.deep.equal({ kind: 'cancel', request: one!.request });
      expect(two!.request).to.not.equal(one!.request);
    });

    it('beside another is made by a worker of its own, of which one waits', async () => {
      const both = [ask(), ask()];
      expect(started).to.have.length(2);
      for (const worker of started) made(worker);
      await Promise.all(both.map(({ answer }) => answer));
      expect(started.filter(({ ended }) => ended)).to.have.length(1);
    });

    it('that was cancelled ends its worker', async () => {
      const job = ask();
      started[0]!.answer({ kind: 'cancelled', request: 1 });
      expect(await job.answer).to.equal(null);
      expect(started[0]!.ended).to.equal(true);
    });
  });

  it('small pictures tell what is different from the one before, and a new worker everything', async () => {
    const client = new asking.StillClient();
    const view = { shot: 'shot-1', frame: 0, width: 8, height: 8, scale: 1, x: 0, y: 0 };
    const document = empty('Signals');
    const renamed = renameProject('Signals at noon').apply(document);
    const paint = (of: Document) => client.paint({ document: of, ...view });
    const pictures = [paint(document), paint(document), paint(renamed)];
    const [first, same, other] = started[0]!.told.map(({ news }) => news);
    expect(first).to.deep.equal({ document });
    expect(same).to.deep.equal({ changes: [] });
    expect((other as { changes: unknown[] }).changes).to.have.length(1);
    started[0]!.onerror!({ message: 'out of memory' });
    expect(await Promise.all(pictures)).to.deep.equal([null, null, null]);
    const again = paint(renamed);
    expect(started[1]!.told[0]!.news).to.deep.equal({ document: renamed });
    client.close();
    expect(await again).to.equal(null);
    asking.endIdleStills();
    expect(started[1]!.ended).to.equal(true);
  });
});
