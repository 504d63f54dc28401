import type { Plane, Rgba } from '../../core/pixels/raster.ts';
import { matteAnswerSchema, type MatteRequest } from './matte-messages.ts';

/** Frames that may wait for their alpha; more would only take memory. */
const mostWaiting = 3;

/** Makes the alphas of frames beside the work that carries their masks, on a core of its own. */
export class MatteMaker {
  private readonly worker = new Worker(new URL('./matte.worker.ts', import.meta.url), {
    type: 'module',
    name: 'matte',
  });
  private readonly waiting = new Map<number, (matte: Blob) => void>();
  private free: (() => void) | null = null;
  private failure: Error | null = null;
  private next = 0;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      const { request, matte } = matteAnswerSchema.parse(data);
      this.waiting.get(request)?.(matte);
      this.waiting.delete(request);
      this.free?.();
    };
    this.worker.onerror = (event) => {
      this.failure = new Error(event.message || 'The edge of a frame could not be found.');
      this.free?.();
    };
  }

  /** Takes a frame; resolves once there is room for the next one. The picture is given away. @throws Error */
  async make({ width, height, data }: Rgba, soft: Plane, take: (matte: Blob) => void): Promise<void> {
    const request = this.next++;
    this.waiting.set(request, take);
    const picture = data as Uint8ClampedArray<ArrayBuffer>;
    this.worker.postMessage({ request, width, height, picture, soft } as MatteRequest, [picture.buffer]);
    await this.until(mostWaiting);
  }

  /** Resolves when all frames have their alpha. @throws Error */
  done(): Promise<void> {
    return this.until(0);
  }

  close(): void {
    this.worker.terminate();
  }

  private async until(most: number): Promise<void> {
    while (this.waiting.size > most && !this.failure)
      await new Promise<void>((resolve) => {
        this.free = resolve;
      });
    if (this.failure) throw this.failure;
  }
}
