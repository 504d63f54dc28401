/**
 * Workers a room waits for when it is entered, or while something is made: their code is large, and they can be started before
 * the room is there, or wait for who comes back to it, or to the same room of another project.
 */
const starts = {
  paint: () => new Worker(new URL('./paint.worker.ts', import.meta.url), { type: 'module', name: 'paint' }),
  cut: () => new Worker(new URL('./cut.worker.ts', import.meta.url), { type: 'module', name: 'cut' }),
  bare: () => new Worker(new URL('./bare.worker.ts', import.meta.url), { type: 'module', name: 'bare' }),
  plate: () => new Worker(new URL('./plate.worker.ts', import.meta.url), { type: 'module', name: 'plate' }),
  export: () => new Worker(new URL('./export.worker.ts', import.meta.url), { type: 'module', name: 'export' }),
};
export type PreparedKind = keyof typeof starts;
const allKinds = Object.keys(starts) as PreparedKind[];

/** How a worker that waits is told what it need not do by itself. */
export interface Rest {
  /** Ends it, when nobody came. */
  end(): void;
  /** Has it let go of what it holds of its project, which was left; for one that holds something. */
  forget?(): void;
}

interface Waiting {
  worker: Worker;
  /** Null for one that nobody had yet. */
  rest: Rest | null;
}

const waiting: Partial<Record<PreparedKind, Waiting>> = {};

function wait(kind: PreparedKind, one: Waiting): void {
  // One that dies before it is taken is nobody's loss: who wants one gets another.
  one.worker.onerror = () => {
    if (waiting[kind] === one) delete waiting[kind];
  };
  waiting[kind] = one;
}

/** Starts a worker that will be taken soon; one that already waits is enough. */
export function prepareWorker(kind: PreparedKind): void {
  if (!waiting[kind]) wait(kind, { worker: starts[kind](), rest: null });
}

/** A worker that nobody else has: the one that waits, where there is one. It is then the caller's to end. */
export function takeWorker(kind: PreparedKind): Worker {
  const taken = waiting[kind]?.worker;
  delete waiting[kind];
  return taken ?? starts[kind]();
}

/**
 * Lets a worker wait that is done: who comes back soon finds it with all it has read and found out, and in any case started.
 * @param restFor how long it waits, in milliseconds
 */
export function restWorker(kind: PreparedKind, worker: Worker, rest: Rest, restFor = 30_000): void {
  worker.onmessage = null;
  if (waiting[kind]) return rest.end();
  const one = { worker, rest };
  wait(kind, one);
  setTimeout(() => {
    // It may be at work again.
    if (waiting[kind] !== one) return;
    delete waiting[kind];
    rest.end();
  }, restFor);
}

/** Has workers of some kinds that wait let go of what they hold: their rooms, or the project, were left. They go on waiting. */
export function forgetInRested(kinds: readonly PreparedKind[] = allKinds): void {
  for (const kind of kinds) waiting[kind]?.rest?.forget?.();
}
