import type { Document } from '../../core/document/document.ts';
import { ToldDocument } from './followed-document.ts';
import { stillAnswerSchema, type StillOrder, type StillRequest } from './still-messages.ts';

/** How long the worker waits for more to paint before it ends, in milliseconds: what it holds is let go then. */
const rest = 20_000;

/** The worker that paints for all clients. Starting one takes longer than most of what is painted. */
let running: Worker | null = null;
/** The document it was told of last. */
let told = new ToldDocument();
const waiting = new Map<number, (picture: ImageBitmap | null) => void>();
const clients = new Set<StillClient>();
let ending: ReturnType<typeof setTimeout> | undefined;
let next = 1;

function worker(): Worker {
  if (running) return running;
  const started = new Worker(new URL('./still.worker.ts', import.meta.url), { type: 'module', name: 'still' });
  started.onmessage = ({ data }: MessageEvent<unknown>) => {
    const { request, picture } = stillAnswerSchema.parse(data);
    const resolve = waiting.get(request);
    waiting.delete(request);
    if (resolve) resolve(picture);
    else picture?.close();
  };
  // What comes next is painted by another one.
  started.onerror = end;
  told = new ToldDocument();
  return (running = started);
}

function end(): void {
  clearTimeout(ending);
  running?.terminate();
  running = null;
  const left = [...waiting.values()];
  waiting.clear();
  for (const resolve of left) resolve(null);
}

/** Ends the worker if nobody has anything to be painted: a room that is left leaves nothing behind. */
export function endIdleStills(): void {
  if (clients.size === 0) end();
}

export type StillWanted = Omit<StillOrder, 'kind' | 'request' | 'news'> & { document: Document };

/** Paints single small frames, one after the other. */
export class StillClient {
  private readonly own = new Set<number>();

  constructor() {
    clients.add(this);
    clearTimeout(ending);
  }

  /** Null when it could not be painted. */
  async paint(order: StillWanted): Promise<ImageBitmap | null> {
    const request = next++;
    this.own.add(request);
    const painted = new Promise<ImageBitmap | null>((resolve) => waiting.set(request, resolve));
    const { document, ...view } = order;
    const painter = worker();
    painter.postMessage({ kind: 'paint', news: told.newsOf(document), ...view, request } satisfies StillRequest);
    try {
      return await painted;
    } finally {
      this.own.delete(request);
    }
  }

  /** What was not painted yet never will be. */
  close(): void {
    const requests = [...this.own];
    if (requests.length > 0) running?.postMessage({ kind: 'forget', requests } satisfies StillRequest);
    for (const request of requests) {
      waiting.get(request)?.(null);
      waiting.delete(request);
    }
    clients.delete(this);
    if (clients.size > 0) return;
    clearTimeout(ending);
    ending = setTimeout(endIdleStills, rest);
  }
}
