import type { Document, Piece } from '../../core/document/document.ts';
import type { PlateOrder } from '../../core/document/plate.ts';
import { sharedShadowSearch, type ShadowJob } from './shadow-search.ts';
import { byKind } from './by-kind.ts';
import { restWorker, takeWorker } from './prepared.ts';
import { plateAnswerSchema, type PlateAnswer, type PlateRequest } from './plate-messages.ts';

export interface PlateListener {
  progress?(doing: string, share: number): void;
  preview?(picture: ImageBitmap): void;
}

type Asked = Exclude<PlateRequest, { kind: 'cancel' }>;
type Wanted = Asked extends infer One ? (One extends Asked ? Omit<One, 'request'> : never) : never;
type Finished = Extract<PlateAnswer, { kind: 'made' | 'shadow' | 'picture' | 'split' }>;

export interface PlateJob<Answer = Finished> {
  /** Resolves to null when the work was cancelled. */
  answer: Promise<Answer | null>;
  cancel(): void;
}

/** Of the last order; counted through, as one that is cancelled too late must not be taken for the next one. */
let requests = 0;

/** Gives one order to a worker of its own, which waits for the next one where it did what it was asked. */
function ask(wanted: Wanted, listener: PlateListener): PlateJob {
  const worker = takeWorker('plate');
  const request = ++requests;
  let done = false;
  const answer = new Promise<Finished | null>((resolve, reject) => {
    const finish = (found: Finished): void => {
      done = true;
      resolve(found);
    };
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      byKind(plateAnswerSchema.parse(data), {
        progress: ({ doing, share }) => listener.progress?.(doing, share),
        preview: ({ picture }) => listener.preview?.(picture),
        made: finish,
        shadow: finish,
        split: finish,
        picture: finish,
        cancelled: () => resolve(null),
        failed: ({ message }) => reject(new Error(message)),
      });
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The background could not be computed.'));
  }).finally(() => (done ? restWorker('plate', worker, { end: () => worker.terminate() }) : worker.terminate()));
  worker.postMessage({ ...wanted, request });
  return { answer, cancel: () => worker.postMessage({ kind: 'cancel', request } satisfies PlateRequest) };
}

export interface About {
  document: Document;
  picture: string;
}

/** One step on the plate after `index` steps. */
export function makePlateStep(
  about: About,
  order: PlateOrder,
  index: number,
  whole: boolean,
  listener: PlateListener,
): PlateJob<Extract<PlateAnswer, { kind: 'made' }>> {
  return ask({ kind: 'make', ...about, order, index, whole }, listener) as PlateJob<
    Extract<PlateAnswer, { kind: 'made' }>
  >;
}

/** The steps from `from` on, made again. */
export function makeStepsAgain(about: About, from: number, listener: PlateListener) {
  return ask({ kind: 'again', ...about, from }, listener) as PlateJob<Extract<PlateAnswer, { kind: 'made' }>>;
}

export const lookForShadow = sharedShadowSearch(
  (about, piece) => ask({ kind: 'shadow', ...about, piece }, {}) as ShadowJob,
);

export function levelPicture(about: About, degrees: number, listener: PlateListener) {
  return ask({ kind: 'level', ...about, degrees }, listener) as PlateJob<Extract<PlateAnswer, { kind: 'picture' }>>;
}

export function touchPiece(about: About, piece: string, touch: Piece['touches'][number], listener: PlateListener) {
  return ask({ kind: 'touch', ...about, piece, touch }, listener) as PlateJob<
    Extract<PlateAnswer, { kind: 'picture' }>
  >;
}

export function splitByObject(about: About, piece: string) {
  return ask({ kind: 'split', ...about, piece }, {}) as PlateJob<Extract<PlateAnswer, { kind: 'split' }>>;
}
