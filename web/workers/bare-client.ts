import { bareAnswerSchema, type BareAnswer, type BareRequest } from './bare-messages.ts';

/** Looks for bare frames in a worker. While one state is looked at only the newest further one is remembered. */
export class BareClient {
  private readonly worker = new Worker(new URL('./bare.worker.ts', import.meta.url), { type: 'module', name: 'bare' });
  private busy = false;
  private wanted: BareRequest | null = null;

  constructor(found: (answer: BareAnswer) => void, failed: () => void) {
    this.worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      this.busy = false;
      // What a newer state was asked for meanwhile makes this one old.
      if (!this.wanted) found(bareAnswerSchema.parse(data));
      this.pump();
    };
    this.worker.onerror = failed;
  }

  check(request: BareRequest): void {
    this.wanted = request;
    this.pump();
  }

  close(): void {
    this.worker.terminate();
  }

  private pump(): void {
    if (this.busy || !this.wanted) return;
    this.busy = true;
    this.worker.postMessage(this.wanted);
    this.wanted = null;
  }
}
