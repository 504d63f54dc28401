import { bareAnswerSchema, type BareAnswer, type BareMessage, type BareRequest } from './bare-messages.ts';
import { ToldDocument } from './followed-document.ts';
import { restWorker, takeWorker } from './prepared.ts';

/** Looks for bare frames in a worker. While one state is looked at only the newest further one is remembered. */
export class BareClient {
  private worker: Worker | null = null;
  private told = new ToldDocument();
  private busy = false;
  private wanted: BareRequest | null = null;

  constructor(private readonly found: (answer: BareAnswer) => void) {}

  check(request: BareRequest): void {
    this.wanted = request;
    this.pump();
  }

  close(): void {
    const { worker } = this;
    this.worker = null;
    if (!worker) return;
    worker.onerror = null;
    // One that is at work has nothing to be kept.
    if (this.busy) worker.terminate();
    else restWorker('bare', worker, { end: () => worker.terminate() });
  }

  private pump(): void {
    if (this.busy || !this.wanted) return;
    this.worker ??= this.start();
    this.busy = true;
    const { document, shot } = this.wanted;
    this.wanted = null;
    this.worker.postMessage({ news: this.told.newsOf(document), shot } satisfies BareMessage);
  }

  private start(): Worker {
    this.told = new ToldDocument();
    const worker = takeWorker('bare');
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      this.busy = false;
      // What a newer state was asked for meanwhile makes this one old.
      if (!this.wanted) this.found(bareAnswerSchema.parse(data));
      this.pump();
    };
    // A state it died of is not asked for again; the next one gets a worker of its own.
    worker.onerror = () => {
      worker.terminate();
      this.worker = null;
      this.busy = false;
      this.pump();
    };
    return worker;
  }
}
