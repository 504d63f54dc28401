import type { ThinLine } from '../../core/cut/thin-line.ts';
import type { Document, Piece } from '../../core/document/document.ts';
import type { CutRecipe } from '../../core/document/recipe.ts';
import { byKind } from './by-kind.ts';
import { cutAnswerSchema, type CutAnswer, type CutOrder, type CutRequest } from './cut-messages.ts';
import { restWorker, takeWorker } from './prepared.ts';

export type CutPart = Extract<CutAnswer, { kind: 'part' }>;
export type CutLifted = Extract<CutAnswer, { kind: 'lifted' }>;
export type CutSolved = Extract<CutAnswer, { kind: 'solved' }>;

/** Thrown by a lift when the piece covers so much that nothing is left to rebuild its background from. */
export class NothingBehind extends Error {
  constructor() {
    super('The piece covers nearly everything. Lift it without a background?');
    this.name = 'NothingBehind';
  }
}

export type CutFinding = Extract<CutAnswer, { kind: 'checked' }>['findings'][number];

export type ClipPlace = NonNullable<Extract<CutRequest, { kind: 'open' }>['frame']>;

export interface CutListener {
  part?(part: CutPart): void;
  progress?(doing: string, share: number): void;
}

/** Resolves to null when the request was cancelled or overtaken by a newer one. */
interface Pending {
  listener: CutListener;
  resolve(answer: CutAnswer | null): void;
  reject(error: Error): void;
}

/** Of the last request; counted through, as a worker may be asked by one client after the other. */
let requests = 0;

/** A worker with more pixels than that open takes too much memory to wait for who may come back. */
const mostRested = 3e6;

/** Talks to one cut worker. */
export class CutClient {
  private worker: Worker | null = null;
  private readonly pending = new Map<number, Pending>();
  /** What is open, for a worker that has to begin anew. */
  private opened: Extract<CutRequest, { kind: 'open' }> | null = null;
  /** Pixels of what is open. */
  private size = 0;

  /** The worker; after one that died a new one, with the same picture open. */
  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = takeWorker('cut');
    worker.onmessage = ({ data }: MessageEvent<unknown>) => this.receive(cutAnswerSchema.parse(data));
    worker.onerror = (event) => {
      worker.terminate();
      if (this.worker === worker) this.worker = null;
      const why = event.message ? ` (${event.message})` : '';
      for (const { reject } of this.pending.values())
        reject(new Error(`The cut stopped${why}. Nothing was changed; try again.`));
      this.pending.clear();
    };
    this.worker = worker;
    if (this.opened) worker.postMessage(this.opened);
    return worker;
  }

  /** Opens a stored picture, or one frame of a stored clip, and gives its pixels. */
  async open(file: string, frame: ClipPlace | null): Promise<ImageBitmap | null> {
    const asked = { kind: 'open', request: ++requests, file, frame } as const;
    const { answer: opening } = this.ask(asked, {});
    this.opened = asked;
    const answer = await opening;
    if (answer?.kind !== 'opened') return null;
    this.size = answer.picture.width * answer.picture.height;
    return answer.picture;
  }

  /** The ground of a clip without what moves before it; `only` names a frame that shows it. */
  async ground(file: string, frames: number, only: number | null, listener: CutListener): Promise<Blob | null> {
    const answer = await this.ask({ kind: 'ground', request: ++requests, file, frames, only }, listener).answer;
    return answer?.kind === 'ground' ? answer.ground : null;
  }

  solve(
    piece: Pick<Piece, 'care' | 'marks'> & { recipe: CutRecipe; open: string | null },
    listener: CutListener,
  ): Promise<CutSolved | null> {
    const asked = this.ask({ kind: 'solve', request: ++requests, ...piece }, listener);
    return asked.answer as Promise<CutSolved | null>;
  }

  lift(
    document: Document,
    piece: string,
    listener: CutListener,
    alone = false,
  ): { answer: Promise<CutLifted | null>; cancel(): void } {
    const asked = this.ask({ kind: 'lift', request: ++requests, document, piece, alone }, listener);
    return { answer: asked.answer as Promise<CutLifted | null>, cancel: asked.cancel };
  }

  /** The way along edges from one place of the picture to another. */
  async wire(from: [number, number], to: [number, number], strength: number): Promise<[number, number][] | null> {
    const answer = await this.ask({ kind: 'wire', request: ++requests, from, to, strength }, {}).answer;
    return answer?.kind === 'wire' ? answer.way : null;
  }

  /** The thin line past some places, no more than twice as wide as `widest`; null where they are one place. */
  async line(way: [number, number][], widest: number): Promise<ThinLine | null> {
    const answer = await this.ask({ kind: 'line', request: ++requests, way, widest }, {}).answer;
    return answer?.kind === 'line' ? answer.line : null;
  }

  async check(): Promise<CutFinding[]> {
    const answer = await this.ask({ kind: 'check', request: ++requests }, {}).answer;
    return answer?.kind === 'checked' ? answer.findings : [];
  }

  close(): void {
    if (this.worker) this.end(this.worker);
    this.worker = null;
    for (const { resolve } of this.pending.values()) resolve(null);
    this.pending.clear();
  }

  /**
   * A worker that is done keeps what is shown, and waits a while for who comes back, or ends by itself. One that is at work has
   * nothing to be kept.
   */
  private end(worker: Worker): void {
    worker.onmessage = worker.onerror = null;
    const say = (kind: 'rest' | 'forget' | 'leave'): void => worker.postMessage({ kind } satisfies CutRequest);
    if (this.pending.size > 0) worker.terminate();
    else if (this.size > mostRested) say('leave');
    else {
      say('rest');
      restWorker('cut', worker, { end: () => say('leave'), forget: () => say('forget') });
    }
  }

  private ask(message: CutOrder, listener: CutListener) {
    const { request } = message;
    const answer = new Promise<CutAnswer | null>((resolve, reject) =>
      this.pending.set(request, { listener, resolve, reject }),
    );
    const worker = this.running();
    worker.postMessage(message);
    return { answer, cancel: () => worker.postMessage({ kind: 'cancel', request } satisfies CutRequest) };
  }

  private receive(message: CutAnswer): void {
    const pending = this.pending.get(message.request);
    if (!pending) return;
    const { listener } = pending;
    const end = (result: CutAnswer | null): void => {
      this.pending.delete(message.request);
      pending.resolve(result);
    };
    byKind(message, {
      progress: ({ doing, share }) => listener.progress?.(doing, share),
      part: (part) => listener.part?.(part),
      opened: end,
      ground: end,
      solved: end,
      lifted: end,
      checked: end,
      wire: end,
      line: end,
      cancelled: () => end(null),
      failed: ({ nothingBehind, message: why }) => {
        this.pending.delete(message.request);
        pending.reject(nothingBehind ? new NothingBehind() : new Error(why));
      },
    });
  }
}
