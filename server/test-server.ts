import { randomUUID } from 'node:crypto';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { News } from './news.ts';
import { openDatabase, type Db } from './store/database.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- answers are read as a client would, without types */

export interface Answer {
  status: number;
  body: any;
  headers: Headers;
}

const bytesType = 'application/octet-stream';

/** The application on a data folder of its own, as a client of it sees it. */
export class TestServer {
  folder!: string;
  db!: Db;
  server!: Server;
  base!: string;
  readonly news = new News();

  async start(folder?: string): Promise<void> {
    this.folder = folder ?? (await mkdtemp(join(tmpdir(), 'clyvo-')));
    this.db = openDatabase(this.folder);
    const log = pino({ level: 'silent' });
    const options = { db: this.db, dataFolder: this.folder, webFolder: null, version: '0.0.0', log, news: this.news };
    this.server = createApp(options).listen(0, '127.0.0.1');
    // A test that works for seconds in between must not meet a connection that is just being closed.
    this.server.keepAliveTimeout = 120_000;
    await new Promise((resolve) => this.server.once('listening', resolve));
    this.base = `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  async stop(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise((resolve) => this.server.close(resolve));
    this.db.close();
  }

  async call(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer> {
    const raw = body instanceof Uint8Array || typeof body === 'string';
    const response = await fetch(this.base + path, {
      method,
      headers: { ...(body !== undefined && !raw ? { 'Content-Type': 'application/json' } : {}), ...headers },
      body: body === undefined ? undefined : raw ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
    });
    const text = await response.text();
    const json = response.headers.get('content-type')?.includes('json');
    return { status: response.status, body: text && json ? JSON.parse(text) : text, headers: response.headers };
  }

  async newProject(name = 'Lantern Week'): Promise<any> {
    const frame = { width: 1920, height: 1080, rate: 30 };
    return (await this.call('POST', '/api/projects', { name, frame, seconds: 6 })).body;
  }

  change(id: string, revision: number, name: string, patch: unknown, change: string = randomUUID()): Promise<Answer> {
    return this.call('PATCH', `/api/projects/${id}`, { change, revision, name, patch });
  }

  upload(bytes: Uint8Array, name: string): Promise<Answer> {
    const headers = { 'Content-Type': bytesType, 'X-File-Name': encodeURIComponent(name) };
    return this.call('POST', '/api/pictures', bytes, headers);
  }

  uploadClip(bytes: Uint8Array, name: string): Promise<Answer> {
    const headers = { 'Content-Type': bytesType, 'X-File-Name': encodeURIComponent(name) };
    return this.call('POST', '/api/clips', bytes, headers);
  }

  async storedFiles(): Promise<number> {
    const all = await readdir(join(this.folder, 'files'), { recursive: true, withFileTypes: true });
    return all.filter((entry) => entry.isFile()).length;
  }
}

export const rename = (name: string) => [{ op: 'replace', path: '/name', value: name }];

/** A server for the tests of a suite. */
export function useServer(): TestServer {
  const server = new TestServer();
  before(() => server.start());
  after(async () => {
    await server.stop();
    await rm(server.folder, { recursive: true });
  });
  return server;
}
