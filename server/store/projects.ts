import { randomUUID } from 'node:crypto';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { readDocument, UnreadableDocument, type Document } from '../../core/scene/document.ts';
import { notFound, UserError } from '../errors.ts';
import type { Db } from './database.ts';

export interface StoredProject {
  id: string;
  revision: number;
  updated: string;
  document: Document;
}

interface Row {
  id: string;
  revision: number;
  document: string;
  updated: string;
  deleted: string | null;
}

const fromRow = (row: Row): StoredProject => ({
  id: row.id,
  revision: row.revision,
  updated: row.updated,
  document: readDocument(JSON.parse(row.document)),
});

/** Projects and their history of patches. */
export class ProjectStore {
  constructor(private readonly db: Db) {}

  list(): StoredProject[] {
    const rows = this.db.prepare('SELECT * FROM projects WHERE deleted IS NULL ORDER BY updated DESC').all() as Row[];
    return rows.map(fromRow);
  }

  get(id: string): StoredProject {
    return fromRow(this.row(id));
  }

  private row(id: string): Row {
    const row = this.db.prepare('SELECT * FROM projects WHERE id = ? AND deleted IS NULL').get(id) as Row | undefined;
    if (!row) throw notFound('project');
    return row;
  }

  create(document: Document): StoredProject {
    const now = new Date().toISOString();
    const id = randomUUID();
    this.db
      .prepare('INSERT INTO projects (id, revision, document, created, updated) VALUES (?, 1, ?, ?, ?)')
      .run(id, JSON.stringify(document), now, now);
    return { id, revision: 1, updated: now, document };
  }

  /**
   * Applies an RFC 6902 patch to the revision it was made for and stores the result, in one transaction.
   * @throws UserError 409 with the current project when the revision is stale, 422 when the result is no valid document
   */
  patch(id: string, revision: number, name: string, patch: Operation[]): StoredProject {
    return this.db.transaction(() => {
      const current = fromRow(this.row(id));
      if (current.revision !== revision) {
        throw new UserError(409, 'This project was changed in another window. The newest state was loaded.', {
          project: current,
        });
      }
      const document = applied(current.document, patch);
      const now = new Date().toISOString();
      const next = revision + 1;
      this.db
        .prepare('UPDATE projects SET revision = ?, document = ?, updated = ? WHERE id = ?')
        .run(next, JSON.stringify(document), now, id);
      this.db
        .prepare('INSERT INTO history (project, revision, name, patch, made) VALUES (?, ?, ?, ?, ?)')
        .run(id, next, name, JSON.stringify(patch), now);
      return { id, revision: next, updated: now, document };
    })();
  }

  /** The names of the last steps, newest first. */
  history(id: string, count: number): { revision: number; name: string; made: string }[] {
    this.row(id);
    return this.db
      .prepare('SELECT revision, name, made FROM history WHERE project = ? ORDER BY revision DESC LIMIT ?')
      .all(id, count) as { revision: number; name: string; made: string }[];
  }

  duplicate(id: string): StoredProject {
    const { document } = this.get(id);
    return this.create({ ...document, name: `${document.name} copy`.slice(0, 120) });
  }

  /** Marks as deleted; restore takes the mark away until the sweep has been. */
  remove(id: string): void {
    this.row(id);
    this.db.prepare('UPDATE projects SET deleted = ? WHERE id = ?').run(new Date().toISOString(), id);
  }

  restore(id: string): StoredProject {
    this.db.prepare('UPDATE projects SET deleted = NULL WHERE id = ?').run(id);
    return this.get(id);
  }
}

function applied(document: Document, patch: Operation[]): Document {
  const refuse = (detail: string): UserError =>
    new UserError(
      422,
      'This change could not be stored because the project would become unreadable. It was taken back.',
      { detail },
    );
  try {
    return readDocument(jsonPatch.applyPatch(structuredClone(document), patch, true).newDocument);
  } catch (error) {
    if (error instanceof UnreadableDocument) throw refuse(error.detail);
    if (error instanceof jsonPatch.JsonPatchError) throw refuse(error.name);
    throw error;
  }
}
