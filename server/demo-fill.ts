import { spawn } from 'node:child_process';
import { existsSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Logger } from 'pino';
import type { News } from './news.ts';

const root = join(import.meta.dirname, '..');

/**
 * Makes the demo projects beside the running server, in a process of its own, and tells pages how far it is. What was
 * interrupted is gone on with at the next start.
 * @returns stops it
 */
export function fillWithDemo(dataFolder: string, isEmpty: boolean, news: News, log: Logger): () => void {
  const unfinished = join(dataFolder, 'demo-unfinished');
  if (!isEmpty && !existsSync(unfinished)) return () => undefined;
  writeFileSync(unfinished, '');
  news.tell({ kind: 'demo', doing: 'Making the demo projects' });
  const child = spawn(process.execPath, ['--import', 'tsx', 'demo/main.ts'], {
    cwd: root,
    env: { ...process.env, CLYVO_DATA: dataFolder },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  createInterface({ input: child.stdout }).on('line', (doing) => {
    news.tell({ kind: 'shelf' });
    news.tell({ kind: 'demo', doing });
  });
  let stopped = false;
  child.once('exit', (code) => {
    if (stopped) return;
    if (code === 0) rmSync(unfinished, { force: true });
    else log.error({ code }, 'the demo projects could not all be made');
    news.tell({ kind: 'demo', doing: null });
    news.tell({ kind: 'shelf' });
  });
  return () => {
    stopped = true;
    child.kill();
  };
}
