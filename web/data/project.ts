import { create } from 'zustand';
import type { Document } from '../../core/scene/document.ts';
import { readDocument } from '../../core/scene/document.ts';
import type { Edit } from '../../core/scene/edit.ts';
import { changeProject, getProject, patchBetween, projectSchema, ServerError } from './api.ts';
import { notify } from './notices.ts';

interface Step {
  name: string;
  before: Document;
  after: Document;
  /** Edits of one drag carry one gesture and make one step. */
  gesture: string | null;
}

export type SavedState = 'saved' | 'saving' | 'waiting';

interface ProjectState {
  id: string | null;
  document: Document | null;
  past: Step[];
  future: Step[];
  saved: SavedState;
  open(id: string): Promise<void>;
  close(): void;
  /** Applies an edit; edits with the same gesture as the last one join its undo step. */
  dispatch(edit: Edit, gesture?: string): void;
  undo(): void;
  redo(): void;
}

const mostSteps = 300;

/** The open project: its document, its undo steps, and whether the server has all of it. */
export const useProject = create<ProjectState>((set, get) => ({
  id: null,
  document: null,
  past: [],
  future: [],
  saved: 'saved',
  async open(id) {
    if (get().id === id) return;
    await flush();
    const project = await getProject(id);
    acknowledged = { document: project.document, revision: project.revision };
    set({ id, document: project.document, past: [], future: [], saved: 'saved' });
  },
  close() {
    void flush();
    set({ id: null, document: null, past: [], future: [] });
  },
  dispatch(edit, gesture) {
    const before = get().document;
    if (!before) return;
    const after = edit.apply(before);
    if (after === before) return;
    const past = get().past;
    const last = past.at(-1);
    const joins = gesture !== undefined && last?.gesture === gesture && get().future.length === 0;
    const step: Step = joins ? { ...last!, after } : { name: edit.name, before, after, gesture: gesture ?? null };
    set({ document: after, past: [...(joins ? past.slice(0, -1) : past), step].slice(-mostSteps), future: [] });
    scheduleSave(edit.name);
  },
  undo() {
    const { past, future } = get();
    const step = past.at(-1);
    if (!step) return;
    set({ document: step.before, past: past.slice(0, -1), future: [step, ...future] });
    scheduleSave(`Undo: ${step.name}`);
  },
  redo() {
    const { past, future } = get();
    const [step, ...rest] = future;
    if (!step) return;
    set({ document: step.after, past: [...past, { ...step, gesture: null }], future: rest });
    scheduleSave(`Redo: ${step.name}`);
  },
}));

/** The state the server has confirmed. */
let acknowledged: { document: Document; revision: number } | null = null;
let saving: Promise<void> | null = null;
let stepName = 'Change';

function scheduleSave(name: string): void {
  stepName = name;
  useProject.setState({ saved: 'saving' });
  saving ??= saveAll().finally(() => {
    saving = null;
  });
}

const pause = (milliseconds: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Sends what the server does not have yet until it has everything; one request at a time. */
async function saveAll(): Promise<void> {
  for (let failures = 0; ;) {
    // A drag makes many edits a second; a short wait lets them travel together.
    await pause(failures === 0 ? 60 : Math.min(5000, 400 * 2 ** failures));
    const { id, document } = useProject.getState();
    if (!id || !document || !acknowledged || document === acknowledged.document) break;
    if (patchBetween(acknowledged.document, document).length === 0) break;
    try {
      const { document: from, revision } = acknowledged;
      const next = await changeProject({ id, revision, name: stepName, from, to: document });
      acknowledged = { document, revision: next };
      failures = 0;
    } catch (error) {
      if (error instanceof ServerError && error.status < 500) {
        takeServerState(error);
        break;
      }
      failures++;
      useProject.setState({ saved: 'waiting' });
    }
  }
  useProject.setState({ saved: 'saved' });
}

/** The server knows better: another window was first (409), or the change was refused (422). */
function takeServerState(error: ServerError): void {
  const current = projectSchema.safeParse((error.body as { project?: unknown } | null)?.project);
  if (current.success) {
    acknowledged = { document: readDocument(current.data.document), revision: current.data.revision };
  }
  if (acknowledged) useProject.setState({ document: acknowledged.document, past: [], future: [] });
  notify('problem', error.message);
}

/** Waits until everything done so far is on the server. */
export async function flush(): Promise<void> {
  await saving;
}

/** Last chance when the tab is closed in the short wait before a save. */
window.addEventListener('pagehide', () => {
  const { id, document } = useProject.getState();
  if (!id || !document || !acknowledged || document === acknowledged.document) return;
  void changeProject(
    { id, revision: acknowledged.revision, name: stepName, from: acknowledged.document, to: document },
    true,
  );
});

/** The open document; rooms are only shown while there is one. */
export function useDocument(): Document {
  const document = useProject((state) => state.document);
  if (!document) throw new Error('no project is open');
  return document;
}

export function newId(kind: string): string {
  return `${kind}-${crypto.randomUUID().slice(0, 8)}`;
}
