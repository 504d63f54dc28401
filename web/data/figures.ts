import { create } from 'zustand';
import type { Document } from '../../core/document/document.ts';
import type { CutFrame } from '../../core/document/figure.ts';
import { stepsOf } from '../../core/document/recipe-steps.ts';
import { layMattes } from '../../core/edits/figure-edits.ts';
import { firstBehind } from '../../core/document/plate.ts';
import { setPlate } from '../../core/edits/plate-edits.ts';
import { byKind } from '../workers/by-kind.ts';
import { figureAnswerSchema, type FigureAnswer, type FigureRequest } from '../workers/figure-messages.ts';
import { uploadPixels } from './api.ts';
import { notify, notifyError } from './notices.ts';
import { editProject, newId } from './project.ts';

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
  const job = ask(
    { kind: 'carry', file: picture.original, recipe, from, to },
    {
      progress: (share, doing) => change(pieceId, job.cancel, { share, doing }),
      cut: async (frame, matte, changed) => {
        cut.push({ frame, matte: await uploadPixels(matte), changed });
        if (cut.length % keepEvery === 0) await keep();
      },
    },
  );
  const finish = async (finished: boolean): Promise<void> => {
    await keep();
    if (!finished) notify('done', `Stopped. ${cut.length} frames are cut; the rest can follow later.`);
  };
  follow(project, pieceId, job, finish, keep);
}

/** Makes the ground of a clip without its figure, and hangs it behind. */
export function startGround(project: string, document: Document, pieceId: string, mattes: (string | null)[]): void {
  const piece = document.pieces.find((one) => one.id === pieceId);
  const picture = document.pictures.find((one) => one.id === piece?.picture);
  if (!piece || !picture?.clip || useFigures.getState().running[pieceId]) return;
  let made: Extract<FigureAnswer, { kind: 'ground' }> | null = null;
  const job = ask(
    { kind: 'ground', file: picture.original, mattes },
    {
      progress: (share, doing) => change(pieceId, job.cancel, { share, doing }),
      cut: () => Promise.resolve(),
      ground: (ground) => (made = ground),
    },
  );
  const lay = async (): Promise<void> => {
    if (!made) return notify('done', 'Stopped; the background is as it was.');
    const { picture: pixels, bounds, filled } = made;
    const step = { ...firstBehind, id: newId('behind'), takes: [], file: await uploadPixels(pixels), bounds };
    await editProject(project, setPlate('Rebuild the background', picture.id, [step], newId('layer')));
    const share = filled > 0.005 ? ` ${Math.round(filled * 100)} % no frame showed; that was continued.` : '';
    notify('done', `The background is whole, from the frames in which it is seen.${share}`);
  };
  follow(project, pieceId, job, lay, () => Promise.resolve());
}

/** Shows a job as running, and ends it one way or the other. */
function follow(
  project: string,
  pieceId: string,
  job: Job,
  finish: (finished: boolean) => Promise<void>,
  rescue: () => Promise<void>,
): void {
  const running: Running = { project, share: 0, doing: 'Opening the clip', cancel: job.cancel };
  useFigures.setState((state) => ({ running: { ...state.running, [pieceId]: running } }));
  job.answer
    .then(finish)
    .catch(async (error: unknown) => {
      notifyError(error);
      await rescue().catch(notifyError);
    })
    .finally(() =>
      useFigures.setState((state) => {
        const others = { ...state.running };
        delete others[pieceId];
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
  ground?(ground: Extract<FigureAnswer, { kind: 'ground' }>): void;
}

interface Job {
  /** Whether it came to its end; waits until every frame was taken. */
  answer: Promise<boolean>;
  cancel(): void;
}

function ask(request: FigureRequest, listener: Listener): Job {
  const worker = new Worker(new URL('../workers/figure.worker.ts', import.meta.url), {
    type: 'module',
    name: 'figure',
  });
  const answer = new Promise<boolean>((resolve, reject) => {
    let taken: Promise<void> = Promise.resolve();
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      byKind(figureAnswerSchema.parse(data), {
        progress: ({ share, doing }) => listener.progress(share, doing),
        cut: ({ frame, matte, changed }) => {
          taken = taken.then(() => listener.cut(frame, matte, changed));
        },
        ground: (ground) => listener.ground?.(ground),
        finished: ({ cancelled }) => void taken.then(() => resolve(!cancelled), reject),
        failed: ({ message }) => reject(new Error(message)),
      });
      taken.catch(reject);
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The figure could not be cut.'));
  }).finally(() => worker.terminate());
  worker.postMessage(request);
  return { answer, cancel: () => worker.postMessage({ kind: 'cancel' } satisfies FigureRequest) };
}
