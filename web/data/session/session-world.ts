import type { Document } from '../../../core/document/document.ts';
import type { StoredStep } from '../../../core/document/change-schema.ts';
import type { ChangeAnswer, ChangeRequest, NewerProject } from '../api.ts';
import type { Outbox } from './outbox.ts';

/** One step of undo. Edits of one drag carry one gesture and make one step. */
export interface Step {
  name: string;
  before: Document;
  after: Document;
  gesture: string | null;
  /** The change that brought it to the server. */
  change: string;
}

export type SavedState = 'saved' | 'saving' | 'waiting';

export interface SessionState {
  document: Document | null;
  past: Step[];
  future: Step[];
  saved: SavedState;
  /** Why it waits, in a sentence. */
  trouble: string | null;
}

/** What a session needs of the world. */
export interface SessionWorld {
  get(id: string, since?: number): Promise<NewerProject>;
  /** Changes that led to a revision, newest first. */
  steps(id: string, until: number): Promise<StoredStep[]>;
  change(id: string, request: ChangeRequest, keepalive?: boolean): Promise<ChangeAnswer>;
  outbox: Outbox;
  /** Says something to the user. */
  tell(kind: 'done' | 'problem', text: string): void;
  wait(milliseconds: number): Promise<void>;
}
