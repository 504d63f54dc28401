import type { Document } from '../../core/document/document.ts';
import { ToldDocument } from './followed-document.ts';
import { paintAnswerSchema, type PaintAnswer, type PaintRequest } from './paint-messages.ts';
import { restWorker, takeWorker } from './prepared.ts';

export interface PaintView {
  frame: number;
  width: number;
  height: number;
  scale: number;
  x: number;
  y: number;
  atRest: boolean;
  playing: boolean;
  light: boolean;
  onion: string[];
  loop: { first: number; end: number } | null;
}

/** Of the last request; counted through, as a worker may be asked by one client after the other. */
let requests = 0;

/** Milliseconds after which a frame that is still being painted is not waited for by the next room. */
const patience = 2000;

/** Paints on one canvas from a worker. While a frame is being painted only the newest further one is remembered. */
export class PaintClient {
  private readonly worker = takeWorker('paint');
  private readonly told = new ToldDocument();
  private busy = false;
  private wanted: PaintView | null = null;
  private gone = false;
  /** What was asked for last; 0 before anything was. */
  private asked = 0;
  private askedAt = 0;

  constructor(
    canvas: HTMLCanvasElement,
    /** `idle` says whether nothing further is wanted. */
    private readonly painted: (answer: PaintAnswer, idle: boolean) => void,
    /** The worker is gone, and the canvas with it: both have to be made anew. */
    died: () => void,
  ) {
    this.worker.onerror = () => {
      this.gone = true;
      this.worker.terminate();
      died();
    };
    const surface = canvas.transferControlToOffscreen();
    this.worker.postMessage({ kind: 'canvas', canvas: surface } satisfies PaintRequest, [surface]);
    this.worker.onmessage = ({ data }: MessageEvent<unknown>) => this.receive(paintAnswerSchema.parse(data));
  }

  setDocument(document: Document, shot: string): void {
    this.worker.postMessage({ kind: 'document', news: this.told.newsOf(document), shot } satisfies PaintRequest);
  }

  paint(view: PaintView): void {
    this.wanted = view;
    this.pump();
  }

  /** Whether a frame is being painted; playback skips frames rather than queue them. */
  get painting(): boolean {
    return this.busy;
  }

  /** The worker waits a while for who comes back; one that died, hangs, or was asked for nothing has nothing to be kept. */
  close(): void {
    const { worker } = this;
    worker.onerror = null;
    const hangs = this.busy && performance.now() - this.askedAt > patience;
    if (this.gone || hangs || this.asked === 0) return worker.terminate();
    worker.postMessage({ kind: 'rest' } satisfies PaintRequest);
    restWorker('paint', worker, { end: () => worker.terminate() });
  }

  private pump(): void {
    if (this.busy || !this.wanted) return;
    const view = this.wanted;
    this.wanted = null;
    this.busy = true;
    this.askedAt = performance.now();
    this.worker.postMessage({ kind: 'paint', request: (this.asked = ++requests), ...view } satisfies PaintRequest);
  }

  private receive(answer: PaintAnswer): void {
    // What the room before was painting when it was left.
    if (answer.request !== this.asked) return;
    this.busy = false;
    this.painted(answer, this.wanted === null);
    this.pump();
  }
}
