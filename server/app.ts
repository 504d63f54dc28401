import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express, type RequestHandler } from 'express';
import type { Logger } from 'pino';
import { answerErrors } from './answer-errors.ts';
import { UserError } from './errors.ts';
import { guardHost, strictHeaders } from './guard.ts';
import { News } from './news.ts';
import { bundleRoutes } from './routes/bundles.ts';
import { fileRoutes } from './routes/files.ts';
import { finishSetRoutes } from './routes/finish-sets.ts';
import { outputRoutes } from './routes/outputs.ts';
import { projectRoutes } from './routes/projects.ts';
import type { Db } from './store/database.ts';
import { FileStore } from './store/files.ts';
import { OutputStore } from './store/outputs.ts';
import { largestDocument, nestedTooDeep } from './store/patch.ts';
import { ProjectStore } from './store/projects.ts';
import { Room } from './store/room.ts';
import { clearableBytes, clearNow } from './store/sweep.ts';
import { usageOf } from './store/usage.ts';

export interface AppOptions {
  db: Db;
  dataFolder: string;
  /** The built web application; without it only the API answers. */
  webFolder: string | null;
  version: string;
  log: Logger;
  news?: News;
}

export function createApp({ db, dataFolder, webFolder, version, log, news = new News() }: AppOptions): Express {
  const room = new Room(dataFolder, () => clearableBytes(db));
  const projects = new ProjectStore(db, room, news);
  const outputs = new OutputStore(db);
  const files = new FileStore(db, dataFolder, room);
  const app = express();
  app.disable('x-powered-by');
  app.use(strictHeaders(), guardHost());
  app.get('/api/health', (_request, response) => {
    const state = db.pragma('quick_check', { simple: true });
    response.status(state === 'ok' ? 200 : 503).json({ version, database: state });
  });
  app.get('/api/news', news.stream);
  // Uploads read their own bodies; only documents are JSON.
  app.use('/api', fileRoutes(files), outputRoutes(projects, outputs, files), bundleRoutes(projects, outputs, files));
  app.get('/api/disk', (_request, response) => {
    const taken = db.prepare('SELECT TOTAL(bytes) FROM files').pluck().get();
    response.json({ taken, free: room.free });
  });
  app.get('/api/disk/usage', (_request, response) => {
    response.json(usageOf(db));
  });
  app.post('/api/clear', async (_request, response) => {
    const freed = await clearNow(db, files);
    room.refill();
    response.json({ freed });
  });
  app.use('/api/finish-sets', express.json({ limit: '1mb' }), refuseDeep, finishSetRoutes(db, room));
  app.use('/api/projects', express.json({ limit: largestDocument }), refuseDeep, projectRoutes(projects));
  app.use('/api', (_request, _response, next) => next(new UserError(404, 'There is nothing at this address.')));
  if (webFolder && existsSync(webFolder)) {
    app.use(express.static(webFolder, { index: false, maxAge: '1y', immutable: true }));
    app.get('/{*path}', (_request, response) => {
      response.set('Cache-Control', 'no-cache').sendFile(join(webFolder, 'index.html'), { dotfiles: 'allow' });
    });
  }
  app.use(answerErrors(log));
  return app;
}

const refuseDeep: RequestHandler = (request, _response, next) =>
  next(nestedTooDeep(request.body) ? new UserError(400, 'This request is nested too deep.') : undefined);
