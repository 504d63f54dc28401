import { byKind } from './by-kind.ts';
import { exportAnswerSchema, type ExportAnswer, type ExportOrder, type ExportRequest } from './export-messages.ts';
import { restWorker, takeWorker } from './prepared.ts';

/** A finished file, and how it was made in the end. */
export type ExportResult = Omit<Extract<ExportAnswer, { kind: 'finished' }>, 'kind'>;

export interface RunningExport {
  /** Null when it was cancelled. */
  result: Promise<ExportResult | null>;
  cancel(): void;
}

/** Lets a worker wait that did what it was asked. */
function rest(worker: Worker): void {
  const forget = (): void => worker.postMessage({ kind: 'forget' } satisfies ExportRequest);
  restWorker('export', worker, { end: () => worker.terminate(), forget });
}

/**
 * Starts an export in a worker of its own: the one that told how large it will be, where that waits. It waits for what is wanted
 * next, unless it was cancelled or failed.
 */
export function startExport(
  order: Omit<ExportOrder, 'kind'>,
  progress: (pass: number, done: number, total: number) => void,
): RunningExport {
  const worker = takeWorker('export');
  let made = false;
  const result = new Promise<ExportResult | null>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      byKind(exportAnswerSchema.parse(data), {
        progress: ({ pass, done, total }) => progress(pass, done, total),
        finished: (file) => {
          made = true;
          resolve(file);
        },
        estimated: () => reject(new Error('The export was answered with an estimate.')),
        cancelled: () => resolve(null),
        failed: ({ message }) => reject(new Error(message)),
      });
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The export stopped.'));
  }).finally(() => (made ? rest(worker) : worker.terminate()));
  worker.postMessage({ kind: 'export', ...order } satisfies ExportRequest);
  const cancel = (): void => {
    if (!made) worker.postMessage({ kind: 'cancel' } satisfies ExportRequest);
  };
  return { result, cancel };
}

/**
 * Tells how many bytes a file will have about, by writing a few stretches of it. Its worker waits for the next one, or for the
 * export itself.
 * @returns null when it was given up  @throws what the writer says it cannot do
 */
export function estimateExport(order: Omit<ExportOrder, 'kind'>, signal: AbortSignal): Promise<number | null> {
  const worker = takeWorker('export');
  const answer = new Promise<number | null>((resolve, reject) => {
    signal.addEventListener('abort', () => resolve(null));
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      byKind(exportAnswerSchema.parse(data), {
        progress: () => undefined,
        finished: () => reject(new Error('The estimate was answered with a file.')),
        estimated: ({ bytes }) => resolve(bytes),
        cancelled: () => resolve(null),
        failed: ({ message }) => reject(new Error(message)),
      });
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The estimate stopped.'));
    worker.postMessage({ ...order, kind: 'estimate' } satisfies ExportRequest);
  });
  return answer.then(
    (bytes) => {
      if (bytes === null) worker.terminate();
      else rest(worker);
      return bytes;
    },
    (error: unknown) => {
      worker.terminate();
      throw error;
    },
  );
}
