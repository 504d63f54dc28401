import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { StartProblem } from '../errors.ts';

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
  `
  -- Every change has an id of its own, so that one that is sent again is known. Whole states now and then let a project
  -- be opened again when its last state cannot be read.
  ALTER TABLE history ADD COLUMN change TEXT;
  CREATE UNIQUE INDEX history_changes ON history(project, change) WHERE change IS NOT NULL;
  CREATE TABLE snapshots (
    project TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    document TEXT NOT NULL,
    PRIMARY KEY (project, revision)
  ) STRICT, WITHOUT ROWID;
  `,
  `
  -- Sets of finishes a user gave a name, for all projects.
  CREATE TABLE finish_sets (
    name TEXT PRIMARY KEY,
    finishes TEXT NOT NULL,
    saved TEXT NOT NULL
  ) STRICT, WITHOUT ROWID;
  `,
  `
  -- How a change is taken back, so that undo goes on where it was when a project is opened again.
  ALTER TABLE history ADD COLUMN back TEXT;
  ALTER TABLE history ADD COLUMN gesture TEXT;
  ALTER TABLE history ADD COLUMN travel TEXT;
  `,
];

/**
 * Opens (and where needed creates or upgrades) the database in a data folder.
 * @throws StartProblem when it is of a newer Clyvo or no database at all
 */
export function openDatabase(folder: string): Db {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, 'clyvo.sqlite');
  try {
    return opened(path, folder);
  } catch (error) {
    if (!(error instanceof Database.SqliteError)) throw error;
    throw new StartProblem(
      `The database "${path}" cannot be read (${error.message}). Move it away to begin anew, or put back a copy of it.`,
    );
  }
}

function opened(path: string, folder: string): Db {
  const db = new Database(path);
  db.pragma('journal_mode = WAL');
  // What was acknowledged must survive a killed process and a power cut alike.
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  const version = db.pragma('user_version', { simple: true }) as number;
  if (version > migrations.length) {
    db.close();
    throw new StartProblem(
      `The data folder "${folder}" was written by a newer Clyvo (database version ${version}). Start that one, or set CLYVO_DATA to another folder.`,
    );
  }
  for (let step = version; step < migrations.length; step++) {
    db.transaction(() => {
      db.exec(migrations[step]!);
      db.pragma(`user_version = ${step + 1}`);
    })();
  }
  return db;
}
