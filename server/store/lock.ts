import { join } from 'node:path';
import Database from 'better-sqlite3';
import { StartProblem } from '../errors.ts';

/**
 * Takes a data folder for one server. The lock is the operating system's own, held through an empty database: it goes
 * with the process however that ends, so none is ever left behind by a crash.
 * @throws StartProblem when another server has it
 */
export function lockFolder(folder: string): () => void {
  const lock = new Database(join(folder, 'server.lock'), { timeout: 0 });
  try {
    lock.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    lock.close();
    if (!(error instanceof Database.SqliteError) || !error.code.startsWith('SQLITE_BUSY')) throw error;
    throw new StartProblem(
      `Clyvo is already running on the data folder "${folder}". Use that one, or set CLYVO_DATA to another folder.`,
    );
  }
  return () => void lock.close();
}
