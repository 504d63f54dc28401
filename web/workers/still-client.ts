import { stillAnswerSchema, type StillRequest } from './still-messages.ts';

/** Paints single small frames, one after the other. */
export class StillClient {
  private readonly worker = new Worker(new URL('./still.worker.ts', import.meta.url), {
    type: 'module',
    name: 'still',
  });
  private readonly waiting = new Map<number, (picture: ImageBitmap | null) => void>();
  private next = 1;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      const { request, picture } = stillAnswerSchema.parse(data);
      this.waiting.get(request)?.(picture);
      this.waiting.delete(request);
    };
    this.worker.onerror = () => this.close();
  }

  /** Null when it could not be painted. */
  paint(order: Omit<StillRequest, 'request'>): Promise<ImageBitmap | null> {
    const request = this.next++;
    this.worker.postMessage({ ...order, request } satisfies StillRequest);
    return new Promise((resolve) => this.waiting.set(request, resolve));
  }

  close(): void {
    this.worker.terminate();
    for (const resolve of this.waiting.values()) resolve(null);
    this.waiting.clear();
  }
}
