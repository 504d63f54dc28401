import { expect } from 'chai';
import { workersThatImport } from './worker-start.ts';

type Chunk = { type: 'chunk'; isEntry: boolean; fileName: string; code: string };

/** What the plugin makes of a worker's bundle, and what it adds to it. */
function built(chunks: Chunk[]): { added: { fileName: string; source: string }[] } {
  const added: { fileName: string; source: string }[] = [];
  const bundle = Object.fromEntries(chunks.map((chunk) => [chunk.fileName, chunk]));
  const { generateBundle } = workersThatImport();
  const hook = generateBundle as unknown as (options: unknown, bundle: unknown) => void;
  hook.call({ emitFile: (file: { fileName: string; source: string }) => added.push(file) }, {}, bundle);
  return { added };
}

describe('the first file of a worker', () => {
  const entry = (): Chunk => ({
    type: 'chunk',
    isEntry: true,
    fileName: 'assets/paint.worker-Ab1.js',
    code: 'import("./reader-Cd2.js");export const shared=1;',
  });

  it('only imports what the worker does, where other files of it look for it too', () => {
    const code = 'import{shared}from"./paint.worker-Ab1.js";';
    const [first, reader] = [entry(), { ...entry(), isEntry: false, fileName: 'assets/reader-Cd2.js', code }];
    const { added } = built([first, reader]);
    expect(added).to.deep.equal([{ type: 'asset', fileName: 'assets/paint.work-Ab1.js', source: entry().code }]);
    expect(first.code).to.contain("import('./paint.work-Ab1.js')");
    expect(first.fileName).to.equal(entry().fileName);
    expect(reader.code).to.equal('import{shared}from"./paint.work-Ab1.js";');
  });

  it('keeps what is said to the worker until it listens, in order, and reports what cannot be imported', async () => {
    const first = entry();
    built([first]);
    const start = (imported: Promise<unknown>, worker: EventTarget, report: (error: unknown) => void): void => {
      const names = ['imported', 'addEventListener', 'removeEventListener', 'dispatchEvent', 'reportError'];
      const run = new Function(...names, first.code.replace(/import\(.*?\)/, 'imported'));
      const { addEventListener, removeEventListener, dispatchEvent } = worker;
      run(imported, ...[addEventListener, removeEventListener, dispatchEvent].map((f) => f.bind(worker)), report);
    };
    const worker = new EventTarget();
    let listens: () => void = () => undefined;
    start(new Promise<void>((resolve) => (listens = resolve)), worker, () => undefined);
    const { port1 } = new MessageChannel();
    worker.dispatchEvent(new MessageEvent('message', { data: 'first', ports: [port1] }));
    worker.dispatchEvent(new MessageEvent('message', { data: 'second' }));
    const heard: [unknown, number][] = [];
    worker.addEventListener('message', (event) => {
      const { data, ports } = event as MessageEvent<unknown>;
      heard.push([data, ports.length]);
    });
    listens();
    await new Promise((resolve) => setTimeout(resolve));
    worker.dispatchEvent(new MessageEvent('message', { data: 'third' }));
    expect(heard).to.deep.equal([
      ['first', 1],
      ['second', 0],
      ['third', 0],
    ]);
    port1.close();
    const failure = new Error('not there');
    const reported = new Promise((resolve) => start(Promise.reject(failure), new EventTarget(), resolve));
    expect(await reported).to.equal(failure);
  });
});
