import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { z } from 'zod';
import { changeSchema } from '../../../core/document/change-schema.ts';
import type { Change } from '../../../core/document/difference.ts';

/** A change the server has not confirmed yet. */
export interface KeptChange {
  /** Its id, known to the server once it has it. */
  change: string;
  project: string;
  /** The tab that made it. */
  owner: string;
  order: number;
  name: string;
  /** The revision that was newest when it was made. */
  revision: number;
  changes: Change[];
}

const keptSchema = z.object({
  change: z.string(),
  project: z.string(),
  owner: z.string(),
  order: z.number(),
  name: z.string(),
  revision: z.number(),
  changes: z.array(changeSchema),
});

interface Stored extends DBSchema {
  outbox: { key: string; value: KeptChange; indexes: { project: string } };
}

/** Where unconfirmed changes outlive their tab. */
export interface Outbox {
  /** Resolves once it would survive the end of the browser. */
  put(kept: KeptChange): Promise<void>;
  remove(change: string): Promise<void>;
  /** What tabs that are gone left unconfirmed for a project, oldest first; it belongs to this tab from then on. */
  adopt(project: string): Promise<KeptChange[]>;
}

/** This tab, as others know it. */
export const tabName = crypto.randomUUID();
const lockOf = (tab: string): string => `clyvo-tab-${tab}`;

/** The outbox in IndexedDB. That a tab is still there is known by a lock it holds for as long as it lives. */
export class StoredOutbox implements Outbox {
  private readonly database: Promise<IDBPDatabase<Stored>>;

  constructor() {
    this.database = openDB<Stored>('clyvo', 1, {
      upgrade: (db) => void db.createObjectStore('outbox', { keyPath: 'change' }).createIndex('project', 'project'),
    });
    // Who needs it finds out; nobody else should be told of a rejection.
    this.database.catch(() => undefined);
    void navigator.locks.request(lockOf(tabName), () => new Promise(() => undefined));
  }

  async put(kept: KeptChange): Promise<void> {
    const transaction = (await this.database).transaction('outbox', 'readwrite', { durability: 'strict' });
    void transaction.store.put(kept);
    // Said at once: a tab that ends now would otherwise take an open transaction with it.
    transaction.commit();
    await transaction.done;
  }

  async remove(change: string): Promise<void> {
    await (await this.database).delete('outbox', change);
  }

  adopt(project: string): Promise<KeptChange[]> {
    return navigator.locks.request(`clyvo-adopt-${project}`, async () => {
      const living = new Set(((await navigator.locks.query()).held ?? []).map((lock) => lock.name));
      const found = await (await this.database).getAllFromIndex('outbox', 'project', project);
      const kept = found.flatMap((one) => {
        const read = keptSchema.safeParse(one);
        return read.success && !living.has(lockOf(read.data.owner)) ? [{ ...read.data, owner: tabName }] : [];
      });
      for (const one of kept) await this.put(one);
      return kept.sort((a, b) => a.revision - b.revision || a.order - b.order);
    });
  }
}
