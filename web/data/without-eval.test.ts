import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { config } from 'zod/v4/core';

const web = join(import.meta.dirname, '..');
const firstLine = (file: string): string => readFileSync(join(web, file), 'utf8').split('\n', 1)[0]!;

describe('pages and workers', () => {
  // Other tests of this process may.
  after(() => void config({ jitless: false }));

  it('do not try to make code out of text: that stands before all they load', () => {
    const workers = readdirSync(join(web, 'workers')).filter((file) => file.endsWith('.worker.ts'));
    expect(workers).to.include('paint.worker.ts');
    for (const worker of workers)
      expect(firstLine(`workers/${worker}`), worker).to.equal("import '../data/without-eval.ts';");
    expect(firstLine('main.ts')).to.equal("import './data/without-eval.ts';");
  });

  it('are refused nothing by schemas made after it', async () => {
    await import('./without-eval.ts');
    const { z } = await import('zod');
    const made = globalThis.Function;
    let tries = 0;
    globalThis.Function = new Proxy(made, {
      construct: (target, given) => {
        tries++;
        return Reflect.construct(target, given) as object;
      },
    });
    try {
      expect(z.object({ depth: z.number() }).parse({ depth: 3 })).to.deep.equal({ depth: 3 });
    } finally {
      globalThis.Function = made;
    }
    expect(tries).to.equal(0);
  });
});
