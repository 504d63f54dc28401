import { create } from 'zustand';
import type { Document } from '../../core/document/document.ts';
import { layTrack } from '../../core/edits/track-edits.ts';
import { byKind } from '../workers/by-kind.ts';
import { followAnswerSchema, type FollowRequest } from '../workers/follow-messages.ts';
import { notifyError } from './notices.ts';
import { editProject } from './project.ts';

interface Running {
  project: string;
  share: number;
  cancel(): void;
}

/**
 * Points on their way through their clips, by id. They belong to no room: what is found is laid into the project the point
 * belongs to, or nowhere when it is gone or was marked otherwise meanwhile.
 */
export const useFollowing = create<{ running: Record<string, Running> }>(() => ({ running: {} }));

/** Follows a point from frame `from` up to `to`, by the marks it has in the document; what ran for it before is left. */
export function startFollowing(
  project: string,
  document: Document,
  trackId: string,
  [from, to]: [number, number],
): void {
  const track = document.tracks.find((one) => one.id === trackId);
  const picture = document.pictures.find((one) => one.id === track?.picture);
  if (!track || !picture?.clip) return;
  useFollowing.getState().running[trackId]?.cancel();
  const { marks, radius } = track;
  const { frames } = picture.clip;
  const job = follow({ file: picture.original, marks, radius, from, to }, (share) => set(trackId, { share }));
  const running: Running = { project, share: 0, cancel: job.cancel };
  useFollowing.setState((state) => ({ running: { ...state.running, [trackId]: running } }));
  const set = (id: string, change: Partial<Running>): void =>
    useFollowing.setState((state) => {
      const now = state.running[id];
      return now?.cancel === job.cancel ? { running: { ...state.running, [id]: { ...now, ...change } } } : {};
    });
  job.answer
    .then((points) => points && editProject(project, layTrack(trackId, marks, frames, from, points)))
    .catch(notifyError)
    .finally(() =>
      useFollowing.setState((state) => {
        if (state.running[trackId]?.cancel !== job.cancel) return {};
        const others = { ...state.running };
        delete others[trackId];
        return { running: others };
      }),
    );
}

/** @returns the points, or null when it was cancelled */
function follow(
  request: FollowRequest,
  progress: (share: number) => void,
): { answer: Promise<number[] | null>; cancel(): void } {
  const worker = new Worker(new URL('../workers/follow.worker.ts', import.meta.url), {
    type: 'module',
    name: 'follow',
  });
  let stop: () => void = () => undefined;
  const answer = new Promise<number[] | null>((resolve, reject) => {
    stop = () => resolve(null);
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      byKind(followAnswerSchema.parse(data), {
        progress: ({ share }) => progress(share),
        followed: ({ points }) => resolve(points),
        failed: ({ message }) => reject(new Error(message)),
      });
    };
    worker.onerror = (event) => reject(new Error(event.message || 'The point could not be followed.'));
  }).finally(() => worker.terminate());
  worker.postMessage(request);
  return { answer, cancel: () => stop() };
}
