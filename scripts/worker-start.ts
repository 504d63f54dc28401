import type { Plugin } from 'vite';

/**
 * Puts what a worker does into a file of its own, which the worker's first file only imports. A browser keeps what it compiled of
 * modules that a worker imports while it runs, but not of the first one nor of those it imports statically: workers start sooner
 * from the third time on.
 */
export function workersThatImport(): Plugin {
  return {
    name: 'workers-that-import',
    generateBundle(_, bundle) {
      const chunks = Object.values(bundle).filter((one) => one.type === 'chunk');
      for (const entry of chunks.filter(({ isEntry }) => isEntry)) {
        const first = nameOf(entry.fileName);
        const work = first.replace('.worker-', '.work-');
        for (const chunk of chunks) chunk.code = chunk.code.replaceAll(first, work);
        this.emitFile({ type: 'asset', fileName: entry.fileName.replace(first, work), source: entry.code });
        entry.code = startOf(work);
      }
    },
  };
}

const nameOf = (path: string): string => path.split('/').at(-1)!;

/** What is said to the worker before it listens is kept until then. */
const startOf = (work: string): string => `const early = [];
const keep = (event) => early.push(event);
addEventListener('message', keep);
import('./${work}').then(() => {
  removeEventListener('message', keep);
  for (const { data, ports } of early) dispatchEvent(new MessageEvent('message', { data, ports: [...ports] }));
}).catch(reportError);
`;
