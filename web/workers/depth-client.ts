import { byKind } from './by-kind.ts';
import { depthAnswerSchema, type DepthAnswer, type DepthRequest } from './depth-messages.ts';

type Finished<Kind> = Extract<DepthAnswer, { kind: Kind }>;

export type SlicedPictures = Finished<'sliced'>;

/** Thrown where what is near covers so much that nothing is left to continue behind it. */
export class NothingFarther extends Error {
  constructor() {
    super('What is near covers nearly everything: nothing is left to go on behind it. The layer can move as it is.');
    this.name = 'NothingFarther';
  }
}

export interface DepthJob<Result> {
  /** Resolves to null when the work was cancelled. */
  answer: Promise<Result | null>;
  cancel(): void;
}

function ask<Kind extends 'map' | 'sliced' | 'behind'>(
  request: DepthRequest,
  wanted: Kind,
  progress?: (doing: string, share: number) => void,
): DepthJob<Finished<Kind>> {
  const worker = new Worker(new URL('./depth.worker.ts', import.meta.url), { type: 'module', name: 'depth' });
  let stop: () => void = () => undefined;
  const answer = new Promise<Finished<Kind> | null>((resolve, reject) => {
    stop = () => resolve(null);
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      const end = (result: DepthAnswer): void => {
        if (result.kind === wanted) resolve(result as Finished<Kind>);
      };
      byKind(depthAnswerSchema.parse(data), {
        progress: ({ doing, share }) => progress?.(doing, share),
        map: end,
        sliced: end,
        behind: end,
        failed: ({ message, nothingBehind }) => reject(nothingBehind ? new NothingFarther() : new Error(message)),
      });
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The depth map could not be computed.'));
  }).finally(() => worker.terminate());
  worker.postMessage(request);
  return { answer, cancel: () => stop() };
}

export const drawDepth = (file: string, strokes: Extract<DepthRequest, { kind: 'draw' }>['strokes']) =>
  ask({ kind: 'draw', file, strokes }, 'map');
export const guessDepth = (file: string) => ask({ kind: 'guess', file }, 'map');
export const readDepth = (bytes: ArrayBuffer) => ask({ kind: 'read', bytes }, 'map');
export const sliceDepth = (
  file: string,
  map: string,
  count: number,
  quick: boolean,
  progress: (doing: string, share: number) => void,
) => ask({ kind: 'slice', file, map, count, quick }, 'sliced', progress);
export const rebuildBehind = (file: string, map: string, progress: (doing: string, share: number) => void) =>
  ask({ kind: 'behind', file, map }, 'behind', progress);
