import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync } from 'node:fs';
import { open, readFile, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { notFound } from '../errors.ts';
import type { Db } from './database.ts';

export interface StoredFile {
  hash: string;
  type: string;
  bytes: number;
}

/** Files named by the SHA-256 of their bytes; the same bytes are kept once. */
export class FileStore {
  private readonly folder: string;

  constructor(
    private readonly db: Db,
    dataFolder: string,
  ) {
    this.folder = join(dataFolder, 'files');
    mkdirSync(this.folder, { recursive: true });
  }

  path(hash: string): string {
    return join(this.folder, hash.slice(0, 2), hash);
  }

  /** Writes under a temporary name, flushes and renames: a file is either whole or not there. */
  async add(bytes: Uint8Array, type: string): Promise<StoredFile> {
    const hash = createHash('sha256').update(bytes).digest('hex');
    const path = this.path(hash);
    if (!existsSync(path)) {
      mkdirSync(join(this.folder, hash.slice(0, 2)), { recursive: true });
      const temporary = join(this.folder, `${randomUUID()}.part`);
      const handle = await open(temporary, 'w');
      try {
        await handle.writeFile(bytes);
        await handle.sync();
      } finally {
        await handle.close();
      }
      await rename(temporary, path);
    }
    this.db
      .prepare('INSERT INTO files (hash, type, bytes, created) VALUES (?, ?, ?, ?) ON CONFLICT (hash) DO NOTHING')
      .run(hash, type, bytes.length, new Date().toISOString());
    return { hash, type, bytes: bytes.length };
  }

  get(hash: string): StoredFile {
    const row = this.db.prepare('SELECT hash, type, bytes FROM files WHERE hash = ?').get(hash) as
      StoredFile | undefined;
    if (!row) throw notFound('file');
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
}
