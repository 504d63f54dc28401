import { create } from 'zustand';
import type { Document, Picture } from '../../core/document/document.ts';
import { deleteProject } from './api.ts';
import { makeItMove } from './make-it-move.ts';
import { notify, notifyError } from './notices.ts';
import { editProject } from './project.ts';
import { queryClient } from './query-client.ts';

/** A photo on its way to a moving clip. It belongs to no room: what comes of it goes to its project. */
export interface RunningMaking {
  project: string;
  name: string;
  doing: string;
  share: number;
  cancel(): void;
}

export const useMaking = create<{ running: RunningMaking | null }>(() => ({ running: null }));

interface Wanted {
  project: string;
  /** The project as it is now, also what of it is not saved yet. */
  document: Document;
  picture: Picture;
  /** Whether the project was made for this alone; it goes when that is cancelled. */
  ownProject: boolean;
  /** Shows the result, unless the user has gone elsewhere meanwhile. */
  show(): void;
}

const askBeforeLeaving = (event: BeforeUnloadEvent): void => event.preventDefault();

/** Makes a picture of a project move. One at a time: two would share what the machine has, and both come later. */
export async function startMaking({ project, document, picture, ownProject, show }: Wanted): Promise<void> {
  if (useMaking.getState().running) return;
  const stopper = new AbortController();
  const report = (doing: string, share: number): void =>
    useMaking.setState(({ running }) =>
      running && !stopper.signal.aborted ? { running: { ...running, doing, share } } : {},
    );
  const cancel = (): void => stopper.abort();
  useMaking.setState({ running: { project, name: picture.name, doing: 'Opening the picture', share: 0, cancel } });
  window.addEventListener('beforeunload', askBeforeLeaving);
  try {
    const edit = await makeItMove(document, picture, { progress: report, signal: stopper.signal });
    if (!edit || stopper.signal.aborted) {
      if (ownProject) await deleteProject(project);
      notify('done', 'Making it move was cancelled; nothing changed.');
      return;
    }
    await editProject(project, edit);
    show();
  } catch (error) {
    notifyError(error);
  } finally {
    window.removeEventListener('beforeunload', askBeforeLeaving);
    useMaking.setState({ running: null });
    await queryClient.invalidateQueries({ queryKey: ['projects'] });
  }
}
