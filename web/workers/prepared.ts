/** Workers a room waits for when it is entered: their code is large, and they can be started before the room is there. */
const starts = {
  paint: () => new Worker(new URL('./paint.worker.ts', import.meta.url), { type: 'module', name: 'paint' }),
  cut: () => new Worker(new URL('./cut.worker.ts', import.meta.url), { type: 'module', name: 'cut' }),
};
export type PreparedKind = keyof typeof starts;

const waiting: Partial<Record<PreparedKind, Worker>> = {};

/** Starts a worker that will be taken soon; one that already waits is enough. */
export function prepareWorker(kind: PreparedKind): void {
  if (waiting[kind]) return;
  const worker = starts[kind]();
  // One that dies before it is taken is nobody's loss: who wants one gets another.
  worker.onerror = () => {
    if (waiting[kind] === worker) delete waiting[kind];
  };
  waiting[kind] = worker;
}

/** A worker that nobody else has: the one that was prepared, where there is one. It is then the caller's to end. */
export function takeWorker(kind: PreparedKind): Worker {
  const prepared = waiting[kind];
  delete waiting[kind];
  return prepared ?? starts[kind]();
}
