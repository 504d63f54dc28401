/**
 * Workers a room waits for when it is entered: their code is large, and they can be started before the room is there, or wait for
 * who comes back to it.
 */
const starts = {
  paint: () => new Worker(new URL('./paint.worker.ts', import.meta.url), { type: 'module', name: 'paint' }),
  cut: () => new Worker(new URL('./cut.worker.ts', import.meta.url), { type: 'module', name: 'cut' }),
  bare: () => new Worker(new URL('./bare.worker.ts', import.meta.url), { type: 'module', name: 'bare' }),
  export: () => new Worker(new URL('./export.worker.ts', import.meta.url), { type: 'module', name: 'export' }),
};
export type PreparedKind = keyof typeof starts;
const allKinds = Object.keys(starts) as PreparedKind[];

interface Waiting {
  worker: Worker;
  /** Ends it; for one whose room was left. */
  end: (() => void) | null;
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
  if (!waiting[kind]) wait(kind, { worker: starts[kind](), end: null });
}

/** A worker that nobody else has: the one that waits, where there is one. It is then the caller's to end. */
export function takeWorker(kind: PreparedKind): Worker {
  const taken = waiting[kind]?.worker;
  delete waiting[kind];
  return taken ?? starts[kind]();
}

/**
 * Lets a worker wait whose room was left: who comes back soon finds it with all it has read and found out.
 * @param end is called when nobody came, and ends it  @param restFor how long it waits, in milliseconds
 */
export function restWorker(kind: PreparedKind, worker: Worker, end: () => void, restFor = 30_000): void {
  worker.onmessage = null;
  if (waiting[kind]) return end();
  const one = { worker, end };
  wait(kind, one);
  setTimeout(() => endWaiting(kind, one), restFor);
}

/** Ends the workers of some kinds whose rooms were left: nobody will be back soon. */
export function endRested(kinds: readonly PreparedKind[] = allKinds): void {
  for (const kind of kinds) {
    const one = waiting[kind];
    if (one) endWaiting(kind, one);
  }
}

function endWaiting(kind: PreparedKind, one: Waiting): void {
  // It may be at work again, or be one that was started for a room on its way.
  if (waiting[kind] !== one || !one.end) return;
  delete waiting[kind];
  one.end();
}
