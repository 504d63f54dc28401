import { z } from 'zod';
import { create } from 'zustand';
import { clearDeleted, ServerError } from './api.ts';

export interface Notice {
  id: number;
  kind: 'done' | 'problem';
  text: string;
  action?: { label: string; run: () => void };
}

interface NoticeState {
  notices: Notice[];
  dismiss(id: number): void;
}

export const useNotices = create<NoticeState>((set) => ({
  notices: [],
  dismiss: (id) => set((state) => ({ notices: state.notices.filter((n) => n.id !== id) })),
}));

let next = 1;

/** Shows a sentence at the lower edge; problems stay until dismissed, the rest goes by itself. */
export function notify(kind: Notice['kind'], text: string, action?: Notice['action']): void {
  const notice: Notice = { id: next++, kind, text, action };
  useNotices.setState((state) => ({ notices: [...state.notices.slice(-2), notice] }));
  if (kind === 'done') setTimeout(() => useNotices.getState().dismiss(notice.id), action ? 9000 : 4000);
}

/** The sentence of an error for the user. */
export function sentenceOf(error: unknown): string {
  return error instanceof Error && error.message ? error.message : 'This could not be done, and no reason was given.';
}

/** Tells an error; where the disk is full and something can be cleared, with the button that does it. */
export function notifyError(error: unknown): void {
  const full = error instanceof ServerError && error.status === 507;
  const clearable = full ? fullSchema.safeParse(error.body).data?.clearable : 0;
  const clear = (): void => {
    clearDeleted().then(
      (freed) => notify('done', `${Math.round(freed / 1e6)} MB were cleared. Try again.`),
      (failed: unknown) => notify('problem', sentenceOf(failed)),
    );
  };
  notify('problem', sentenceOf(error), clearable ? { label: 'Clear deleted things', run: clear } : undefined);
}

const fullSchema = z.object({ clearable: z.number() });
