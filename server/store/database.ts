import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';

export type Db = Database.Database;

/** Each entry takes the database from version n to n + 1; entries are never changed once released. */
const migrations = [
  `
  CREATE TABLE projects (
    id TEXT PRIMARY KEY,
    revision INTEGER NOT NULL,
    document TEXT NOT NULL,
    created TEXT NOT NULL,
    updated TEXT NOT NULL,
    deleted TEXT
  ) STRICT;
  CREATE TABLE history (
    project TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    name TEXT NOT NULL,
    patch TEXT NOT NULL,
    made TEXT NOT NULL,
    PRIMARY KEY (project, revision)
  ) STRICT, WITHOUT ROWID;
  CREATE TABLE files (
    hash TEXT PRIMARY KEY,
    type TEXT NOT NULL,
    bytes INTEGER NOT NULL,
    created TEXT NOT NULL
  ) STRICT, WITHOUT ROWID;
  CREATE TABLE outputs (
    id TEXT PRIMARY KEY,
    project TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    format TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    frames INTEGER NOT NULL,
    rate REAL NOT NULL,
    file TEXT NOT NULL REFERENCES files(hash),
    created TEXT NOT NULL
  ) STRICT;
  CREATE INDEX outputs_of_project ON outputs(project, created);
  `,
];

/** Opens (and where needed creates or upgrades) the database in a data folder. */
export function openDatabase(folder: string): Db {
  mkdirSync(folder, { recursive: true });
  const db = new Database(join(folder, 'clyvo.sqlite'));
  db.pragma('journal_mode = WAL');
  // What was acknowledged must survive a killed process and a power cut alike.
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  const version = db.pragma('user_version', { simple: true }) as number;
  if (version > migrations.length) {
    db.close();
    throw new Error(`The data folder "${folder}" was written by a newer Clyvo (database version ${version}).`);
  }
  for (let step = version; step < migrations.length; step++) {
    db.transaction(() => {
      db.exec(migrations[step]!);
      db.pragma(`user_version = ${step + 1}`);
    })();
  }
  return db;
}
