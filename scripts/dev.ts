/** npm run dev: the server, restarted when its code changes, and the interface with hot reload beside it. */
import { spawn } from 'node:child_process';

const children = [
  spawn('npx', ['tsx', 'watch', 'server/main.ts'], { stdio: 'inherit' }),
  spawn('npx', ['vite', '--host', '127.0.0.1'], { stdio: 'inherit' }),
];
const stop = (): void => children.forEach((child) => child.kill());
for (const child of children) child.once('exit', stop);
process.once('SIGINT', stop);
process.once('SIGTERM', stop);
