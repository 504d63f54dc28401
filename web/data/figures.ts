import { create } from 'zustand';
import type { Document } from '../../core/document/document.ts';
import type { CutFrame } from '../../core/document/figure.ts';
import { stepsOf } from '../../core/document/recipe-steps.ts';
import { layMattes } from '../../core/edits/figure-edits.ts';
import { figureAnswerSchema, type FigureRequest } from '../workers/figure-messages.ts';
import { uploadPixels } from './api.ts';
import { notify, notifyError } from './notices.ts';
import { editProject } from './project.ts';

interface Running {
  project: string;
  share: number;
  doing: string;
  cancel(): void;
}

/**
 * Figures on their way through their clips, by piece. They belong to no room. What was cut is laid into the project now and
 * then, so that nothing of it is lost, whatever happens; where something else was said meanwhile it is laid nowhere.
 */
export const useFigures = create<{ running: Record<string, Running> }>(() => ({ running: {} }));

/** After so many frames what was cut is kept. */
const keepEvery = 48;

/** Cuts all frames of a figure that are due. */
export function startCarrying(project: string, document: Document, pieceId: string, stepId: string): void {
  const piece = document.pieces.find((one) => one.id === pieceId);
  const picture = document.pictures.find((one) => one.id === piece?.picture);
  if (!piece || !picture?.clip || piece.recipe.kind === 'shadow' || useFigures.getState().running[pieceId]) return;
  const recipe = stepsOf(piece.recipe).find((step) => step.id === stepId)?.recipe;
  if (recipe?.kind !== 'figure' || !recipe.due) return;
  const [from, to] = recipe.due;
  const cut: CutFrame[] = [];
  const keep = (): Promise<void> =>
    cut.length > 0
      ? editProject(project, layMattes(pieceId, stepId, recipe.keys, [...cut], [from, to]), `cut ${pieceId}`)
      : Promise.resolve();
  const job = carry(
    { kind: 'carry', file: picture.original, recipe, from, to },
    {
      progress: (share, doing) => change(pieceId, job.cancel, { share, doing }),
      cut: async (frame, matte, changed) => {
        cut.push({ frame, matte: await uploadPixels(matte), changed });
        if (cut.length % keepEvery === 0) await keep();
      },
    },
  );
  const running: Running = { project, share: 0, doing: 'Opening the clip', cancel: job.cancel };
  useFigures.setState((state) => ({ running: { ...state.running, [pieceId]: running } }));
  job.answer
    .then(async (finished) => {
      await keep();
      if (!finished) notify('done', `Stopped. ${cut.length} frames are cut; the rest can follow later.`);
    })
    .catch(async (error: unknown) => {
      await keep().catch(() => undefined);
      notifyError(error);
    })
    .finally(() =>
      useFigures.setState((state) => {
        const { [pieceId]: _, ...others } = state.running;
        return { running: others };
      }),
    );
}

function change(piece: string, cancel: () => void, part: Partial<Running>): void {
  useFigures.setState((state) => {
    const now = state.running[piece];
    return now?.cancel === cancel ? { running: { ...state.running, [piece]: { ...now, ...part } } } : {};
  });
}

interface Listener {
  progress(share: number, doing: string): void;
  cut(frame: number, matte: Blob, changed: number): Promise<void>;
}

/** @returns whether all was cut; the promise waits until every frame was taken */
function carry(request: FigureRequest, listener: Listener): { answer: Promise<boolean>; cancel(): void } {
  const worker = new Worker(new URL('../workers/figure.worker.ts', import.meta.url), {
    type: 'module',
    name: 'figure',
  });
  const answer = new Promise<boolean>((resolve, reject) => {
    let taken: Promise<void> = Promise.resolve();
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      const message = figureAnswerSchema.parse(data);
      if (message.kind === 'progress') listener.progress(message.share, message.doing);
      else if (message.kind === 'failed') reject(new Error(message.message));
      else if (message.kind === 'finished') taken.then(() => resolve(!message.cancelled), reject);
      else taken = taken.then(() => listener.cut(message.frame, message.matte, message.changed));
      taken.catch(reject);
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The figure could not be cut.'));
  }).finally(() => worker.terminate());
  worker.postMessage(request);
  return { answer, cancel: () => worker.postMessage({ kind: 'cancel' } satisfies FigureRequest) };
}
