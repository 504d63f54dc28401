import { closeSync, existsSync, openSync, rmSync, statfsSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { megabytes, UserError } from '../errors.ts';

/** What is kept back on the disk, so that edits still save when nothing else fits any more. */
const reserveBytes = 16 * 1024 * 1024;

const isFull = (error: unknown): boolean =>
  (error instanceof Database.SqliteError && error.code === 'SQLITE_FULL') ||
  (error instanceof Error && 'code' in error && (error.code === 'ENOSPC' || error.code === 'EDQUOT'));

/** Room on the disk of the data folder: how much there is, and a reserve that is given up when it is gone. */
export class Room {
  private readonly reserve: string;

  constructor(
    private readonly folder: string,
    /** Bytes that could be freed at once, for the sentence. */
    private readonly clearable: () => number = () => 0,
  ) {
    this.reserve = join(folder, 'reserve');
    this.refill();
  }

  get free(): number {
    const { bavail, bsize } = statfsSync(this.folder);
    return bavail * bsize;
  }

  /** Puts the reserve back once there is room for several of it. */
  refill(): void {
    if (existsSync(this.reserve) || this.free < 4 * reserveBytes) return;
    const file = openSync(this.reserve, 'w');
    try {
      const block = Buffer.alloc(1024 * 1024, 0x5a);
      for (let written = 0; written < reserveBytes; written += block.length) writeSync(file, block);
    } finally {
      closeSync(file);
    }
  }

  /** @throws UserError 507 when so many bytes do not fit */
  need(bytes: number): void {
    if (this.free < bytes + 1024 * 1024) throw this.full(bytes);
  }

  /** Does something small that must not fail for want of room: on a full disk the reserve makes way for it. */
  keep<T>(work: () => T): T {
    try {
      return work();
    } catch (error) {
      if (!isFull(error)) throw error;
      rmSync(this.reserve, { force: true });
    }
    try {
      return work();
    } catch (error) {
      throw isFull(error) ? this.full(1e6) : error;
    }
  }

  /** What a failed write was: the sentence for a full disk, or the error itself. */
  meant(error: unknown, bytes: number): unknown {
    return isFull(error) ? this.full(bytes) : error;
  }

  private full(bytes: number): UserError {
    const clearable = this.clearable();
    const help =
      clearable > 1e6
        ? `Deleted projects and exports still take ${megabytes(clearable)}; clear them, or make room elsewhere.`
        : 'Delete exports or projects you no longer need, or make room elsewhere.';
    const needed = `This needs ${megabytes(bytes)} and ${megabytes(this.free)} are free.`;
    return new UserError(507, `The disk is full. ${needed} ${help}`, { clearable });
  }
}
