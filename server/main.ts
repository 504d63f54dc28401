import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { dataFolder } from './data-folder.ts';
import { openDatabase } from './store/database.ts';
import { FileStore } from './store/files.ts';
import { sweep } from './store/sweep.ts';

const root = join(import.meta.dirname, '..');
const port = Number(process.env.PORT ?? 4820);
const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { version: string };
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' });

const db = openDatabase(dataFolder);
const files = new FileStore(db, dataFolder);
await sweep(db, files);

const app = createApp({ db, dataFolder, webFolder: join(root, 'dist/web'), version, log });
const server = app.listen(port, '127.0.0.1', (error) => {
  if (error) {
    console.error(`Port ${port} cannot be used (${error.message}). Set PORT to another one.`);
    process.exit(1);
  }
  const address = server.address();
  console.log(`Clyvo is ready at http://127.0.0.1:${typeof address === 'object' && address ? address.port : port}`);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    server.close(() => {
      db.close();
      process.exit(0);
    });
    server.closeAllConnections();
  });
}
