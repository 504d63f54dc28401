import { create } from 'zustand';

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
  return error instanceof Error && error.message ? error.message : 'Something went wrong. Nothing was lost; try again.';
}
