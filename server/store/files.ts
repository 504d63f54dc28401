import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync } from 'node:fs';
import { open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { notFound, UserError } from '../errors.ts';
import type { Db } from './database.ts';
import { Room } from './room.ts';

export interface StoredFile {
  hash: string;
  type: string;
  bytes: number;
}

/** A file that has arrived whole under a temporary name: it is kept or it goes. */
export interface ReceivedFile {
  path: string;
  hash: string;
  bytes: number;
  /** Its first bytes, by which its kind is known. */
  head: Buffer;
  keep(type: string): Promise<StoredFile>;
  discard(): Promise<void>;
}

/** Files named by the SHA-256 of their bytes; the same bytes are kept once. */
export class FileStore {
  private readonly folder: string;

  constructor(
    private readonly db: Db,
    dataFolder: string,
    private readonly room = new Room(dataFolder),
  ) {
    this.folder = join(dataFolder, 'files');
    mkdirSync(this.folder, { recursive: true });
  }

  path(hash: string): string {
    return join(this.folder, hash.slice(0, 2), hash);
  }

  /** Writes under a temporary name, flushes and renames: a file is either whole or not there. */
  async add(bytes: Uint8Array, type: string): Promise<StoredFile> {
    this.room.need(bytes.length);
    const received = await this.write([bytes], bytes.length, () => undefined);
    return received.keep(type);
  }

  /**
   * Takes a stream in piece by piece, hashing it on its way to the disk; never more than a piece of it is in memory.
   * @param expected bytes announced by the sender, 0 where it did not say
   * @throws what `tooLarge` makes, once more than `most` bytes came; UserError 507 when the disk is full
   */
  async receive(stream: Readable, expected: number, most: number, tooLarge: () => UserError): Promise<ReceivedFile> {
    if (expected > most) throw tooLarge();
    this.room.need(expected);
    return this.write(stream, expected, (bytes) => {
      if (bytes > most) throw tooLarge();
    });
  }

  private async write(
    source: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
    expected: number,
    check: (bytes: number) => void,
  ): Promise<ReceivedFile> {
    const path = join(this.folder, `${randomUUID()}.part`);
    const discard = (): Promise<void> => rm(path, { force: true });
    const digest = createHash('sha256');
    const heads: Uint8Array[] = [];
    let bytes = 0;
    try {
      const handle = await open(path, 'w');
      try {
        for await (const piece of source) {
          if (bytes < 64) heads.push(piece.subarray(0, 64));
          bytes += piece.length;
          check(bytes);
          digest.update(piece);
          await handle.writeFile(piece);
        }
        await handle.sync();
      } finally {
        await handle.close();
      }
    } catch (error) {
      await discard();
      throw this.room.meant(error, Math.max(expected, bytes));
    }
    const hash = digest.digest('hex');
    const keep = (type: string): Promise<StoredFile> => this.settle(path, { hash, type, bytes });
    return { path, hash, bytes, head: Buffer.concat(heads), keep, discard };
  }

  private async settle(temporary: string, file: StoredFile): Promise<StoredFile> {
    const path = this.path(file.hash);
    try {
      // What is there under this name but shorter was damaged outside.
      const there = await stat(path).catch(() => null);
      if (there?.size === file.bytes) await rm(temporary, { force: true });
      else {
        mkdirSync(join(this.folder, file.hash.slice(0, 2)), { recursive: true });
        await rename(temporary, path);
      }
      this.room.keep(() =>
        this.db
          .prepare('INSERT INTO files (hash, type, bytes, created) VALUES (?, ?, ?, ?) ON CONFLICT (hash) DO NOTHING')
          .run(file.hash, file.type, file.bytes, new Date().toISOString()),
      );
    } catch (error) {
      await rm(temporary, { force: true });
      throw this.room.meant(error, file.bytes);
    }
    return file;
  }

  get(hash: string): StoredFile {
    const row = this.db.prepare('SELECT hash, type, bytes FROM files WHERE hash = ?').get(hash) as
      | StoredFile
      | undefined;
    if (!row) throw notFound('file');
    if (!existsSync(this.path(hash)))
      throw new UserError(404, 'A file of this project is missing in the data folder. Bring the picture in again.');
    return row;
  }

  read(hash: string): Promise<Buffer> {
    this.get(hash);
    return readFile(this.path(hash));
  }

  async forget(hash: string): Promise<void> {
    this.db.prepare('DELETE FROM files WHERE hash = ?').run(hash);
    await rm(this.path(hash), { force: true });
  }

  /** Removes what interrupted writes left behind before a time. @returns how many */
  async sweepParts(before: number): Promise<number> {
    let gone = 0;
    for (const name of await readdir(this.folder)) {
      if (!name.endsWith('.part')) continue;
      const path = join(this.folder, name);
      const facts = await stat(path).catch(() => null);
      if (!facts || facts.mtimeMs > before) continue;
      await rm(path, { force: true });
      gone++;
    }
    return gone;
  }
}
