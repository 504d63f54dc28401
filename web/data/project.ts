import { create } from 'zustand';
import type { Document } from '../../core/document/document.ts';
import type { Edit } from '../../core/edits/edit.ts';
import { changeProject, getProject, getSteps } from './api.ts';
import { notify } from './notices.ts';
import { onNews } from './session/news.ts';
import { StoredOutbox } from './session/outbox.ts';
import { ProjectSession } from './session/project-session.ts';
import type { SessionState } from './session/session-world.ts';

interface ProjectState extends SessionState {
  id: string | null;
  open(id: string): Promise<void>;
  /**
   * Applies an edit; edits with the same gesture as the last one join its undo step. The function belongs to the project
   * that was open when it was taken: work that ends late hands its result to its own project.
   */
  dispatch(edit: Edit, gesture?: string): void;
  undo(): void;
  redo(): void;
  /** The newest state of that same project, for work that goes on for a while. */
  latest(): Document;
}

const nothing = (): void => undefined;
const noDocument = (): never => {
  throw new Error('no project is open');
};
const none = { document: null, past: [], future: [], saved: 'saved', trouble: null } satisfies SessionState;

/** Sessions that are open, or still have something to send. */
const sessions = new Map<string, ProjectSession>();
let shown: { session: ProjectSession; stop(): void } | null = null;
const outbox = new StoredOutbox();

function sessionOf(id: string): ProjectSession {
  const world = {
    get: getProject,
    change: changeProject,
    steps: getSteps,
    outbox,
    tell: notify,
    wait: (milliseconds: number) => new Promise<void>((resolve) => setTimeout(resolve, milliseconds)),
  };
  const session = sessions.get(id) ?? new ProjectSession(id, world);
  sessions.set(id, session);
  return session;
}

/** Takes a session off the screen; it ends once all of it is saved. */
function leave(session: ProjectSession): void {
  session.close();
  void session.drained().then(() => {
    if (shown?.session !== session && sessions.get(session.id) === session) sessions.delete(session.id);
  });
}

/** The open project: its document, its undo steps, and whether the server has all of it. */
export const useProject = create<ProjectState>((set) => ({
  ...none,
  id: null,
  dispatch: nothing,
  undo: nothing,
  redo: nothing,
  latest: noDocument,
  async open(id) {
    if (shown?.session.id === id) return shown.session.open();
    if (shown) {
      shown.stop();
      leave(shown.session);
    }
    const session = sessionOf(id);
    const { dispatch, undo, redo } = session;
    const latest = (): Document => session.now.document ?? noDocument();
    const show = (): void => set({ ...session.now, id, dispatch, undo, redo, latest });
    const mine = { session, stop: session.subscribe(show) };
    shown = mine;
    set({ ...none, id: null, dispatch: nothing, undo: nothing, redo: nothing, latest: noDocument });
    try {
      await session.open();
      if (shown === mine) show();
    } catch (error) {
      mine.stop();
      sessions.delete(id);
      // When another project was opened meanwhile, what became of this one is of no interest any more.
      if (shown !== mine) return;
      shown = null;
      throw error;
    }
  },
}));

/** Does one edit to a project that need not be open, and waits until it is saved. @param gesture edits of one are one step */
export async function editProject(id: string, edit: Edit, gesture?: string): Promise<void> {
  const known = sessions.get(id);
  const session = known ?? sessionOf(id);
  if (!session.now.document) await session.open();
  session.dispatch(edit, gesture);
  await session.drained();
  if (!known) leave(session);
}

onNews((news) => {
  for (const session of sessions.values()) {
    if (news.kind === 'resumed') session.lookForNewer();
    else if (news.kind === 'project' && news.project === session.id) session.hear(news.revision);
  }
});

window.addEventListener('pagehide', () => {
  for (const session of sessions.values()) session.sendAtEnd();
});
// Only where nothing would outlive the tab is leaving worth a question.
window.addEventListener('beforeunload', (event) => {
  if ([...sessions.values()].some((session) => session.atRisk)) event.preventDefault();
});

/** The open document; rooms are only shown while there is one. */
export function useDocument(): Document {
  return useProject((state) => state.document) ?? noDocument();
}

export function newId(kind: string): string {
  return `${kind}-${crypto.randomUUID().slice(0, 8)}`;
}
