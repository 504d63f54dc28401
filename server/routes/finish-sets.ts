import { Router } from 'express';
import { z } from 'zod';
import { finishSchema, mostFinishes } from '../../core/document/finish-list.ts';
import type { Db } from '../store/database.ts';
import type { Room } from '../store/room.ts';

const name = z.string().trim().min(1).max(80);
const finishes = z.array(finishSchema).min(1).max(mostFinishes);

/** Named sets of finishes, kept for all projects. */
export function finishSetRoutes(db: Db, room: Pick<Room, 'keep'>): Router {
  const routes = Router();
  routes.get('/', (_request, response) => {
    const rows = db.prepare('SELECT name, finishes FROM finish_sets ORDER BY name COLLATE NOCASE').all() as {
      name: string;
      finishes: string;
    }[];
    // A set with a finish of a newer version is left out here and stays stored.
    const sets = rows.flatMap((row) => {
      const read = finishes.safeParse(JSON.parse(row.finishes));
      return read.success ? [{ name: row.name, finishes: read.data }] : [];
    });
    response.json(sets);
  });
  routes.put('/:name', (request, response) => {
    const stored = JSON.stringify(finishes.parse(request.body));
    const own = name.parse(request.params.name);
    room.keep(() =>
      db
        .prepare('INSERT OR REPLACE INTO finish_sets (name, finishes, saved) VALUES (?, ?, ?)')
        .run(own, stored, new Date().toISOString()),
    );
    response.status(204).end();
  });
  routes.delete('/:name', (request, response) => {
    room.keep(() => db.prepare('DELETE FROM finish_sets WHERE name = ?').run(name.parse(request.params.name)));
    response.status(204).end();
  });
  return routes;
}
