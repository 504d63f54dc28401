import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pino } from 'pino';
import { dataFolder } from './data-folder.ts';
import { fillWithDemo } from './demo-fill.ts';
import { StartProblem } from './errors.ts';
import { start } from './start.ts';

const root = join(import.meta.dirname, '..');
const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { version: string };
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' });

try {
  const webFolder = join(root, 'dist/web');
  const clyvo = await start({ dataFolder, port: process.env.PORT ?? '4820', webFolder, version, log });
  console.log(`Clyvo is ready at http://127.0.0.1:${clyvo.port}`);
  const withDemo = process.argv.includes('--demo');
  const stopFilling = withDemo ? fillWithDemo(dataFolder, clyvo.isEmpty(), clyvo.news, log) : () => undefined;
  const end = (): void => {
    stopFilling();
    void clyvo.stop().then(() => process.exit(0));
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, end);
} catch (error) {
  if (!(error instanceof StartProblem)) throw error;
  console.error(error.message);
  process.exitCode = 1;
}
