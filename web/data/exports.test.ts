import { expect } from 'chai';
import type { ExportWanted } from './exports.ts';

/** A worker whose exports fail, after a moment. */
class Failing {
  static asked = 0;
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror = null;

  postMessage(): void {
    Failing.asked++;
    setTimeout(() => this.onmessage?.({ data: { kind: 'failed', message: 'The encoder gave up.' } }));
  }
  terminate(): void {
    this.onmessage = null;
  }
}

describe('exports that wait for their turn', () => {
  const replaced = ['Worker', 'window', 'localStorage', 'navigator'] as const;
  const before = replaced.map((name) => Object.getOwnPropertyDescriptor(globalThis, name));
  const replace = (name: (typeof replaced)[number], value: unknown): void =>
    void Object.defineProperty(globalThis, name, { configurable: true, writable: true, value });

  afterEach(() => {
    replaced.forEach((name, k) => {
      if (before[k]) Object.defineProperty(globalThis, name, before[k]);
      else Reflect.deleteProperty(globalThis, name);
    });
  });

  it('each come to it once, though they fail and the browser stores nothing, as where the page is on its way out', async () => {
    let refused = 0;
    const refuse = (): null => {
      // An end of it all the same, where it is tried for ever.
      if (refused++ < 500) throw new TypeError('no storage');
      return null;
    };
    replace('Worker', Failing);
    replace('window', { addEventListener: () => undefined, removeEventListener: () => undefined });
    replace('localStorage', { getItem: refuse, setItem: refuse });
    replace('navigator', { locks: { request: () => Promise.resolve() } });
    const { queueExport, useExports } = await import('./exports.ts');
    const { watchExports } = await import('./unfinished-exports.ts');
    const { useNotices } = await import('./notices.ts');
    watchExports();
    for (const name of ['float', 'mast', 'lamp'])
      queueExport('quay', name, { format: 'gif', sound: false } as ExportWanted);
    await new Promise<void>((resolve) => {
      const unsubscribe = useExports.subscribe(({ running, waiting }) => {
        if (running || waiting.length > 0) return;
        unsubscribe();
        resolve();
      });
    });
    // What went wrong with the last is told right after it.
    await new Promise((resolve) => setTimeout(resolve));
    expect(Failing.asked).to.equal(3);
    expect(refused).to.be.below(100);
    const told = useNotices.getState().notices.map(({ text }) => text);
    expect(told).to.deep.equal(Array(3).fill('The encoder gave up.'));
  });
});
