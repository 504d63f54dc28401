/** Run by the rebuild section as a process of its own: prints the most memory the process took, Node and all, in megabytes. */
import { readFileSync } from 'node:fs';
import { rebuild } from '../../core/rebuild/fill.ts';
import { flatScene } from '../truth/flat-scenes.ts';
import { unevenHole } from '../truth/grounds.ts';

const { background } = flatScene('holes', 1900);
const hole = unevenHole(background.width, background.height);
await rebuild({ picture: background, hole, seed: 1 });
// What the system counts for a process begins with what the one that started it had; this does not.
console.log(Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync('/proc/self/status', 'utf8'))![1]) / 1024);
