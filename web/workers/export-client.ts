import { exportAnswerSchema, type ExportOrder, type ExportRequest } from './export-messages.ts';

export interface RunningExport {
  /** Null when it was cancelled. */
  result: Promise<{ data: Blob; frames: number } | null>;
  cancel(): void;
}

/** Starts an export in a worker of its own. */
export function startExport(
  order: Omit<ExportOrder, 'kind'>,
  progress: (done: number, total: number) => void,
): RunningExport {
  const worker = new Worker(new URL('./export.worker.ts', import.meta.url), { type: 'module', name: 'export' });
  const result = new Promise<{ data: Blob; frames: number } | null>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      const answer = exportAnswerSchema.parse(data);
      if (answer.kind === 'progress') progress(answer.done, answer.total);
      else if (answer.kind === 'finished') resolve(answer);
      else if (answer.kind === 'cancelled') resolve(null);
      else reject(new Error(answer.message));
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The export stopped.'));
  }).finally(() => worker.terminate());
  worker.postMessage({ kind: 'export', ...order } satisfies ExportRequest);
  return { result, cancel: () => worker.postMessage({ kind: 'cancel' } satisfies ExportRequest) };
}
