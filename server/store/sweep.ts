import type { Db } from './database.ts';
import type { FileStore } from './files.ts';

const day = 86_400_000;

/** Deleted projects can be restored this long. */
const keepDeleted = 7 * day;
/** A file may be uploaded some time before the document that names it is. */
const keepUnnamed = day;

/**
 * Removes projects deleted long ago, and files that no document, no history and no output names.
 * @returns how many of each were removed
 */
export async function sweep(db: Db, files: FileStore, now = Date.now()): Promise<{ projects: number; files: number }> {
  const before = (age: number): string => new Date(now - age).toISOString();
  const projects = db.prepare('DELETE FROM projects WHERE deleted < ?').run(before(keepDeleted)).changes;
  const named = new Set<string>();
  const collect = (text: string): void => {
    for (const [hash] of text.matchAll(/[0-9a-f]{64}/g)) named.add(hash);
  };
  for (const row of db
    .prepare(
      'SELECT document AS text FROM projects UNION ALL SELECT patch FROM history UNION ALL SELECT file FROM outputs',
    )
    .iterate()) {
    collect((row as { text: string }).text);
  }
  const candidates = db.prepare('SELECT hash FROM files WHERE created < ?').all(before(keepUnnamed)) as {
    hash: string;
  }[];
  const unnamed = candidates.filter(({ hash }) => !named.has(hash));
  for (const { hash } of unnamed) await files.forget(hash);
  return { projects, files: unnamed.length };
}
