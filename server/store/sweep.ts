import type { Db } from './database.ts';
import type { FileStore } from './files.ts';

const day = 86_400_000;
/** Deleted projects can be restored this long. */
const keepDeleted = 7 * day;
/** A file may be uploaded some time before the document that names it is. */
const keepUnnamed = day;
/** An upload takes at most this long. */
const keepParts = day / 24;

export interface Swept {
  projects: number;
  files: number;
}

/**
 * Removes projects deleted long ago, files that no document, no history and no output names, and what interrupted uploads
 * left behind.
 * @returns how many of each were removed
 */
export async function sweep(db: Db, files: FileStore, now = Date.now()): Promise<Swept> {
  const before = (age: number): string => new Date(now - age).toISOString();
  const projects = db.prepare('DELETE FROM projects WHERE deleted < ?').run(before(keepDeleted)).changes;
  const unnamed = unnamedFiles(db, before(keepUnnamed));
  for (const { hash } of unnamed) await files.forget(hash);
  await files.sweepParts(now - keepParts);
  return { projects, files: unnamed.length };
}

/**
 * The same at once, when room is needed: what was deleted goes, however lately. What was uploaded within the last hour
 * stays, as a document may be about to name it.
 * @returns bytes freed
 */
export async function clearNow(db: Db, files: FileStore, now = Date.now()): Promise<number> {
  db.prepare('DELETE FROM projects WHERE deleted IS NOT NULL').run();
  const unnamed = unnamedFiles(db, new Date(now - keepParts).toISOString());
  for (const { hash } of unnamed) await files.forget(hash);
  await files.sweepParts(now - keepParts);
  // What rows took is given back to the disk as well.
  db.pragma('wal_checkpoint(TRUNCATE)');
  return unnamed.reduce((sum, file) => sum + file.bytes, 0);
}

/** What clearing would free. */
export function clearableBytes(db: Db, now = Date.now()): number {
  const before = new Date(now - keepParts).toISOString();
  return unnamedFiles(db, before, 'WHERE deleted IS NULL').reduce((sum, file) => sum + file.bytes, 0);
}

/** Files older than a time that nothing names; `which` limits the projects that count. */
function unnamedFiles(
  db: Db,
  before: string,
  which: '' | 'WHERE deleted IS NULL' = '',
): { hash: string; bytes: number }[] {
  const named = new Set<string>();
  const inProject = which && 'WHERE project IN (SELECT id FROM projects WHERE deleted IS NULL)';
  const texts = db
    .prepare(
      `SELECT document AS text FROM projects ${which}
       UNION ALL SELECT patch FROM history ${inProject}
       UNION ALL SELECT coalesce(back, '') FROM history ${inProject}
       UNION ALL SELECT document FROM snapshots ${inProject}
       UNION ALL SELECT file FROM outputs ${inProject}`,
    )
    .pluck()
    .iterate() as IterableIterator<string>;
  for (const text of texts) for (const hash of hashesIn(text)) named.add(hash);
  const candidates = db.prepare('SELECT hash, bytes FROM files WHERE created < ?').all(before) as {
    hash: string;
    bytes: number;
  }[];
  return candidates.filter(({ hash }) => !named.has(hash));
}

/** The files a stored text names. */
export const hashesIn = (text: string): Set<string> =>
  new Set([...text.matchAll(/[0-9a-f]{64}/g)].map(([hash]) => hash));
