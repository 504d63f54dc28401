import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { exportFormatIds } from '../../core/formats/exports.ts';
import { notFound } from '../errors.ts';
import type { Db } from './database.ts';

export const outputFactsSchema = z.object({
  name: z.string().trim().min(1).max(160),
  format: z.enum(exportFormatIds),
  width: z.coerce.number().int().min(1),
  height: z.coerce.number().int().min(1),
  frames: z.coerce.number().int().min(1),
  rate: z.coerce.number().positive(),
});

export type OutputFacts = z.infer<typeof outputFactsSchema>;

export interface Output extends OutputFacts {
  id: string;
  project: string;
  file: string;
  bytes: number;
  created: string;
}

/** What was exported from each project. */
export class OutputStore {
  constructor(private readonly db: Db) {}

  list(project: string): Output[] {
    return this.db
      .prepare(
        `SELECT o.*, f.bytes FROM outputs o JOIN files f ON f.hash = o.file WHERE o.project = ? ORDER BY o.created DESC, o.rowid DESC`,
      )
      .all(project) as Output[];
  }

  get(id: string): Output {
    const row = this.db
      .prepare('SELECT o.*, f.bytes FROM outputs o JOIN files f ON f.hash = o.file WHERE o.id = ?')
      .get(id);
    if (!row) throw notFound('export');
    return row as Output;
  }

  add(project: string, facts: OutputFacts, file: string, created = new Date().toISOString()): Output {
    const id = randomUUID();
    this.db
      .prepare(
        `INSERT INTO outputs (id, project, name, format, width, height, frames, rate, file, created)
         VALUES (@id, @project, @name, @format, @width, @height, @frames, @rate, @file, @created)`,
      )
      .run({ ...facts, id, project, file, created });
    return this.get(id);
  }

  remove(id: string): void {
    this.get(id);
    this.db.prepare('DELETE FROM outputs WHERE id = ?').run(id);
  }
}
