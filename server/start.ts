import { accessSync, constants, mkdirSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { createApp } from './app.ts';
import { StartProblem } from './errors.ts';
import { News } from './news.ts';
import { openDatabase } from './store/database.ts';
import { FileStore } from './store/files.ts';
import { lockFolder } from './store/lock.ts';
import { ProjectStore } from './store/projects.ts';
import { sweep } from './store/sweep.ts';

export interface StartOptions {
  dataFolder: string;
  /** As it was given; it may be no port at all. */
  port: string;
  webFolder: string | null;
  version: string;
  log: Logger;
}

export interface RunningClyvo {
  port: number;
  news: News;
  /** Whether there is no project yet. */
  isEmpty(): boolean;
  stop(): Promise<void>;
}

/**
 * Takes the data folder, opens what is in it and answers on a port of this machine.
 * @throws StartProblem with a sentence for whoever started it
 */
export async function start({ dataFolder, port, webFolder, version, log }: StartOptions): Promise<RunningClyvo> {
  const wanted = portOf(port);
  prepareFolder(dataFolder);
  const unlock = lockFolder(dataFolder);
  try {
    const db = openDatabase(dataFolder);
    const files = new FileStore(db, dataFolder);
    const news = new News();
    // No upload is under way yet: whatever is half there is left over.
    await files.sweepParts(Infinity);
    const server = await listen(createApp({ db, dataFolder, webFolder, version, log, news }), wanted);
    sweep(db, files).catch((error: unknown) => log.error({ err: error }, 'sweep failed'));
    const stop = async (): Promise<void> => {
      const closed = new Promise((resolve) => server.close(resolve));
      server.closeAllConnections();
      await closed;
      db.close();
      unlock();
    };
    const { port: taken } = server.address() as AddressInfo;
    return { port: taken, news, isEmpty: () => new ProjectStore(db).isEmpty(), stop };
  } catch (error) {
    unlock();
    throw error;
  }
}

function portOf(given: string): number {
  const port = Number(given);
  if (/^\d+$/.test(given) && port <= 65_535) return port;
  throw new StartProblem(`"${given}" is no port. Set PORT to a number from 0 to 65535 (0 takes any free one).`);
}

function prepareFolder(folder: string): void {
  const other = 'Set CLYVO_DATA to a folder you may write in.';
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
  } catch (error) {
    const why = error instanceof Error && 'code' in error ? String(error.code) : 'unknown';
    throw new StartProblem(`The data folder "${folder}" cannot be used (${why}). ${other}`);
  }
}

function listen(app: ReturnType<typeof createApp>, port: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = app.listen(port, '127.0.0.1', (error?: Error) => {
      if (!error) return resolve(server);
      const why = 'code' in error && error.code === 'EADDRINUSE' ? 'another program uses it' : error.message;
      reject(new StartProblem(`Port ${port} cannot be used: ${why}. Set PORT to another one.`));
    });
  });
}
