import type { Db } from './database.ts';
import { clearableBytes, hashesIn } from './sweep.ts';

/** What fills the data folder, in bytes. */
export interface Usage {
  /** Files each project needs now, largest first; what several share is counted with each. */
  projects: { id: string; name: string; files: number; exports: number }[];
  /** Files of all projects, those shared counted once. */
  files: number;
  exports: number;
  /** Files that only earlier states of projects need. */
  earlier: number;
  /** What clearing gives back: deleted projects and exports, and what nothing needs. */
  clearable: number;
}

/** Counts what is stored, by what it is there for. */
export function usageOf(db: Db): Usage {
  const rowsOfFiles = db.prepare('SELECT hash, bytes FROM files').raw().all() as [string, number][];
  const sizes = new Map(rowsOfFiles);
  const bytesOf = (hashes: Iterable<string>): number =>
    [...hashes].reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0);
  const rows = db
    .prepare(`SELECT id, document, document ->> '$.name' AS name FROM projects WHERE deleted IS NULL`)
    .all() as { id: string; document: string; name: string | null }[];
  const needed = new Set<string>();
  const exported = new Set<string>();
  const projects = rows.map(({ id, document, name }) => {
    const own = hashesIn(document);
    const made = db.prepare('SELECT file FROM outputs WHERE project = ?').pluck().all(id) as string[];
    for (const hash of own) needed.add(hash);
    for (const hash of made) exported.add(hash);
    return { id, name: name ?? '', files: bytesOf(own), exports: bytesOf(new Set(made)) };
  });
  const earlier = new Set<string>();
  const states = db
    .prepare(
      `SELECT patch FROM history h JOIN projects p ON p.id = h.project WHERE p.deleted IS NULL
       UNION ALL SELECT s.document FROM snapshots s JOIN projects p ON p.id = s.project WHERE p.deleted IS NULL`,
    )
    .pluck()
    .iterate() as IterableIterator<string>;
  for (const text of states)
    for (const hash of hashesIn(text)) if (!needed.has(hash) && !exported.has(hash)) earlier.add(hash);
  projects.sort((a, b) => b.files + b.exports - a.files - a.exports);
  return {
    projects,
    files: bytesOf(needed),
    exports: bytesOf(exported),
    earlier: bytesOf(earlier),
    clearable: clearableBytes(db),
  };
}
