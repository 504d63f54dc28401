import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';
import { UserError } from './errors.ts';
import { guardHost, strictHeaders } from './guard.ts';
import { fileRoutes } from './routes/files.ts';
import { outputRoutes } from './routes/outputs.ts';
import { projectRoutes } from './routes/projects.ts';
import type { Db } from './store/database.ts';
import { FileStore } from './store/files.ts';
import { OutputStore } from './store/outputs.ts';
import { ProjectStore } from './store/projects.ts';

export interface AppOptions {
  db: Db;
  dataFolder: string;
  /** The built web application; without it only the API answers. */
  webFolder: string | null;
  version: string;
  log: Logger;
}

export function createApp({ db, dataFolder, webFolder, version, log }: AppOptions): Express {
  const projects = new ProjectStore(db);
  const outputs = new OutputStore(db);
  const files = new FileStore(db, dataFolder);
  const app = express();
  app.disable('x-powered-by');
  app.use(strictHeaders(), guardHost());
  app.get('/api/health', (_request, response) => {
    const state = db.pragma('quick_check', { simple: true });
    response.status(state === 'ok' ? 200 : 503).json({ version, database: state });
  });
  // Uploads read their own bodies; only documents are JSON.
  app.use('/api', fileRoutes(files), outputRoutes(projects, outputs, files));
  app.use('/api/projects', express.json({ limit: '32mb' }), projectRoutes(projects));
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

/** Every error leaves as a sentence; what is not meant for the user is logged and called a fault of ours. */
function answerErrors(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    if (error instanceof UserError)
      return response.status(error.status).json({ message: error.message, ...error.extra });
    if (error instanceof z.ZodError) {
      return response.status(400).json({ message: 'This request is not complete.', detail: z.prettifyError(error) });
    }
    const type = typeof error === 'object' && error !== null && 'type' in error ? error.type : undefined;
    if (type === 'entity.too.large') {
      const name = decodeURIComponent(String(request.headers['x-file-name'] ?? 'This file'));
      return response.status(413).json({ message: `"${name}" is larger than 80 MB. Make it smaller and try again.` });
    }
    log.error({ error, path: request.path }, 'request failed');
    return response.status(500).json({ message: 'Something went wrong inside Clyvo. Nothing was lost; try again.' });
  };
}
