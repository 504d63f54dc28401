import { randomUUID } from 'node:crypto';
import type { Operation } from 'fast-json-patch';
import { mostStoredSteps, storedStepSchema, type Origin, type StoredStep } from '../../core/document/change-schema.ts';
import { differenceBetween } from '../../core/document/difference.ts';
import { readDocument, UnreadableDocument, type Document } from '../../core/document/document.ts';
import { cutTo } from '../../core/document/limits.ts';
import { longestName } from '../../core/document/schema-parts.ts';
import { notFound, UserError } from '../errors.ts';
import type { News } from '../news.ts';
import type { Db } from './database.ts';
import { patched } from './patch.ts';
import type { Room } from './room.ts';

export interface StoredProject {
  id: string;
  revision: number;
  updated: string;
  document: Document;
}

/** A project whose last state cannot be read; its name as far as it is known. */
export interface UnreadableProject {
  id: string;
  updated: string;
  name: string;
  unreadable: string;
}

/** What a client wants done, with an id of its own by which it is known when it is sent again. */
export interface ProjectChange {
  change: string;
  revision: number;
  name: string;
  patch: Operation[];
  origin: Origin;
}

interface Row {
  id: string;
  revision: number;
  document: string;
  updated: string;
  deleted: string | null;
}

/** A whole state is kept every so many steps, and so many of them. */
const stepsBetweenSnapshots = 50;
const keptSnapshots = 4;
/** Steps are told back to where they take more than this. */
const mostStepBytes = 4e6;

const fromRow = (row: Row): StoredProject => ({
  id: row.id,
  revision: row.revision,
  updated: row.updated,
  document: readText(row.document),
});

function readText(text: string): Document {
  try {
    return readDocument(JSON.parse(text));
  } catch (error) {
    if (error instanceof SyntaxError) throw new UnreadableDocument(error.message);
    throw error;
  }
}

/** Projects and their history of patches. */
export class ProjectStore {
  constructor(
    private readonly db: Db,
    private readonly room: Pick<Room, 'keep'> = { keep: (work) => work() },
    private readonly news: Pick<News, 'tell'> = { tell: () => undefined },
  ) {}

  /** All projects, last changed first; one that cannot be read does not hide the others. */
  list(): (StoredProject | UnreadableProject)[] {
    const rows = this.db.prepare('SELECT * FROM projects WHERE deleted IS NULL ORDER BY updated DESC').all() as Row[];
    return rows.map((row) => {
      try {
        return fromRow(row);
      } catch (error) {
        if (!(error instanceof UnreadableDocument)) throw error;
        return { id: row.id, updated: row.updated, name: this.nameOf(row), unreadable: error.message };
      }
    });
  }

  /** Whether there is any project, readable or not. */
  isEmpty(): boolean {
    return this.db.prepare('SELECT 1 FROM projects WHERE deleted IS NULL LIMIT 1').get() === undefined;
  }

  private nameOf(row: Row): string {
    const texts = [row.document, ...this.snapshotsOf(row.id).map((s) => s.document)];
    for (const text of texts) {
      const found = /"name":"((?:[^"\\]|\\.){1,400})"/.exec(text.slice(0, 2000));
      if (found) return JSON.parse(`"${found[1]}"`) as string;
    }
    return 'Project without a name';
  }

  get(id: string): StoredProject {
    return fromRow(this.row(id));
  }

  /** The stored text of a project as it is, readable or not, and its name as far as it is known. */
  text(id: string): { name: string; text: string } {
    const row = this.row(id);
    return { name: this.nameOf(row), text: row.document };
  }

  private row(id: string): Row {
    const row = this.db.prepare('SELECT * FROM projects WHERE id = ? AND deleted IS NULL').get(id) as Row | undefined;
    if (!row) throw notFound('project');
    return row;
  }

  /** @throws UserError 422 when what is asked for is no document */
  create(wanted: Document): StoredProject {
    let document: Document;
    try {
      document = readDocument(wanted);
    } catch (error) {
      if (!(error instanceof UnreadableDocument)) throw error;
      throw new UserError(422, 'A project cannot be made like this; a shot has at most 3,600 frames.', {
        detail: error.detail,
      });
    }
    const now = new Date().toISOString();
    const id = randomUUID();
    this.room.keep(() =>
      this.db
        .prepare('INSERT INTO projects (id, revision, document, created, updated) VALUES (?, 1, ?, ?, ?)')
        .run(id, JSON.stringify(document), now, now),
    );
    this.news.tell({ kind: 'shelf' });
    return { id, revision: 1, updated: now, document };
  }

  /**
   * Applies an RFC 6902 patch to the revision it was made for and stores the result, in one transaction. A change that is
   * known already was stored before its answer got lost: it is answered as done.
   * @returns the revision the change made, and the newest one
   * @throws UserError 409 with the current project when the revision is stale, 422 when the result is no valid document
   */
  patch(id: string, change: ProjectChange): { revision: number; newest: number; updated: string } {
    const stored = this.room.keep(() => this.db.transaction(() => this.store(id, change))());
    if (stored.revision === stored.newest)
      this.news.tell({ kind: 'project', project: id, revision: stored.revision, change: change.change });
    return stored;
  }

  private store(id: string, { change, revision, name, patch, origin }: ProjectChange) {
    const row = this.row(id);
    const known = this.db.prepare('SELECT revision FROM history WHERE project = ? AND change = ?').get(id, change) as
      | { revision: number }
      | undefined;
    if (known) return { revision: known.revision, newest: row.revision, updated: row.updated };
    const current = fromRow(row);
    if (current.revision !== revision) {
      throw new UserError(409, 'This project was changed in another window.', {
        project: current,
        changes: this.changesSince(id, revision),
      });
    }
    const { document, text } = patched(current.document, patch);
    const back = JSON.stringify(differenceBetween(document, current.document));
    const now = new Date().toISOString();
    const next = revision + 1;
    this.snapshot(row);
    this.db
      .prepare('UPDATE projects SET revision = ?, document = ?, updated = ? WHERE id = ?')
      .run(next, text, now, id);
    this.db
      .prepare(
        `INSERT INTO history (project, revision, name, patch, made, change, back, gesture, travel)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(...[id, next, name, JSON.stringify(patch), now, change], ...[back, origin.gesture, origin.travel]);
    return { revision: next, newest: next, updated: now };
  }

  /** Ids of the changes that led from a revision to the present one. */
  changesSince(id: string, revision: number): string[] {
    return this.db
      .prepare('SELECT change FROM history WHERE project = ? AND revision > ? AND change IS NOT NULL ORDER BY revision')
      .pluck()
      .all(id, revision) as string[];
  }

  private snapshotsOf(id: string): { revision: number; document: string }[] {
    return this.db
      .prepare('SELECT revision, document FROM snapshots WHERE project = ? ORDER BY revision DESC')
      .all(id) as { revision: number; document: string }[];
  }

  private snapshot(row: Row): void {
    const last = this.db.prepare('SELECT MAX(revision) FROM snapshots WHERE project = ?').pluck().get(row.id) as
      | number
      | null;
    if (last !== null && row.revision - last < stepsBetweenSnapshots) return;
    this.db
      .prepare('INSERT INTO snapshots (project, revision, document) VALUES (?, ?, ?)')
      .run(row.id, row.revision, row.document);
    this.db
      .prepare(
        `DELETE FROM snapshots WHERE project = @id AND revision NOT IN
         (SELECT revision FROM snapshots WHERE project = @id ORDER BY revision DESC LIMIT @kept)`,
      )
      .run({ id: row.id, kept: keptSnapshots });
  }

  /**
   * A new project of the last state that can be read: the newest readable snapshot with as many of the steps after it as
   * lead to a readable document. The unreadable one stays as it is.
   * @throws UserError 422 when no state can be read
   */
  recover(id: string): StoredProject {
    this.row(id);
    for (const { revision, document } of this.snapshotsOf(id)) {
      try {
        const state = this.replayed(id, revision, readText(document));
        return this.create({ ...state, name: named(state.name, ' recovered') });
      } catch (error) {
        if (!(error instanceof UnreadableDocument)) throw error;
      }
    }
    throw new UserError(
      422,
      'No earlier state of this project can be read either. Save its data before you delete it.',
    );
  }

  private replayed(id: string, from: number, start: Document): Document {
    let document = start;
    const steps = this.db
      .prepare('SELECT patch FROM history WHERE project = ? AND revision > ? ORDER BY revision')
      .pluck()
      .all(id, from) as string[];
    for (const text of steps) {
      try {
        document = patched(document, JSON.parse(text) as Operation[]).document;
      } catch (error) {
        if (error instanceof UserError || error instanceof SyntaxError) break;
        throw error;
      }
    }
    return document;
  }

  /** The names of the last steps, newest first. */
  history(id: string, count: number): { revision: number; name: string; made: string }[] {
    this.row(id);
    return this.db
      .prepare('SELECT revision, name, made FROM history WHERE project = ? ORDER BY revision DESC LIMIT ?')
      .all(id, count) as { revision: number; name: string; made: string }[];
  }

  /** The changes up to a revision from which the way back is known, newest first, without a gap. */
  steps(id: string, until: number): StoredStep[] {
    this.row(id);
    const rows = this.db
      .prepare(
        `SELECT revision, name, back, gesture, travel FROM history
         WHERE project = ? AND revision <= ? ORDER BY revision DESC LIMIT ?`,
      )
      .all(id, until, mostStoredSteps) as { revision: number; name: string; back: string | null }[];
    let bytes = 0;
    const end = rows.findIndex(({ back, revision }, k) => {
      bytes += back?.length ?? 0;
      return back === null || revision !== until - k || bytes > mostStepBytes;
    });
    return rows
      .slice(0, end < 0 ? rows.length : end)
      .map((row) => storedStepSchema.parse({ ...row, back: JSON.parse(row.back!) as unknown }));
  }

  duplicate(id: string): StoredProject {
    const { document } = this.get(id);
    return this.create({ ...document, name: named(document.name, ' copy') });
  }

  /** Marks as deleted; restore takes the mark away until the sweep has been. */
  remove(id: string): void {
    this.row(id);
    const now = new Date().toISOString();
    this.room.keep(() => this.db.prepare('UPDATE projects SET deleted = ? WHERE id = ?').run(now, id));
    this.news.tell({ kind: 'shelf' });
  }

  restore(id: string): StoredProject {
    this.room.keep(() => this.db.prepare('UPDATE projects SET deleted = NULL WHERE id = ?').run(id));
    const project = this.get(id);
    this.news.tell({ kind: 'shelf' });
    return project;
  }
}

const named = (name: string, ending: string): string => `${cutTo(name, longestName - ending.length)}${ending}`;
