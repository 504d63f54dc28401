import { byKind } from '../by-kind.ts';
import { frameAnswerSchema, type FrameKind, type FrameRequest, type FramesOrder } from '../frame-messages.ts';

/** Thrown when a helper is gone, as one is that got no memory; what it was to paint can be painted elsewhere. */
export class HelperGone extends Error {}

/** A further worker that paints frames of an export, one at a time. */
export class FrameHelper {
  private readonly worker = new Worker(new URL('../frame.worker.ts', import.meta.url), {
    type: 'module',
    name: 'frames',
  });
  private waiting: { resolve(data: Uint8ClampedArray<ArrayBuffer>): void; reject(error: Error): void } | null = null;
  private gone = false;

  constructor(order: FramesOrder) {
    this.worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      byKind(frameAnswerSchema.parse(data), {
        frame: ({ data: painted }) => this.waiting?.resolve(painted),
        failed: ({ message }) => this.waiting?.reject(new Error(message)),
      });
    };
    this.worker.onerror = (event) => {
      event.preventDefault();
      this.gone = true;
      this.waiting?.reject(new HelperGone());
    };
    this.worker.postMessage({ kind: 'begin', order } satisfies FrameRequest);
  }

  /** @throws HelperGone, or what hindered the painting */
  paint(index: number, as: FrameKind): Promise<Uint8ClampedArray<ArrayBuffer>> {
    if (this.gone) return Promise.reject(new HelperGone());
    return new Promise((resolve, reject) => {
      this.waiting = { resolve, reject };
      this.worker.postMessage({ kind: 'frame', index, as } satisfies FrameRequest);
    });
  }

  close(): void {
    this.worker.terminate();
  }
}
