import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { inWholeNumbers, Samples, trained } from './learning.ts';
import { sampleLength, samplesOf } from './samples.ts';
import { chanceShot } from './shots.ts';

/** Trains the edge network of the chroma key anew and writes core/key/edge-weights.ts: `npm run train`, about half an hour. */
const [shots, samplesOfEach, rounds] = [2600, 1400, 6];
const target = join(import.meta.dirname, '../core/key/edge-weights.ts');

async function writeSamples(from: number, to: number, file: string): Promise<void> {
  const lists: Buffer[] = [];
  for (let number = from; number < to; number++) {
    const { picture, alpha } = await chanceShot(number);
    lists.push(Buffer.from(samplesOf(picture, alpha, samplesOfEach, number).buffer));
  }
  writeFileSync(file, Buffer.concat(lists));
}

/** Makes the shots in several processes. The last samples, which are held back, come from shots that nothing else comes from. */
async function collect(folder: string): Promise<Float32Array[]> {
  const count = availableParallelism();
  const parts = Array.from({ length: count }, (_, k) => ({
    range: [Math.floor((k * shots) / count), Math.floor(((k + 1) * shots) / count)] as const,
    file: join(folder, `${k}`),
  }));
  await Promise.all(parts.map(({ range, file }) => inProcess([`${range[0]}`, `${range[1]}`, file])));
  return parts.map(({ file }) => {
    const bytes = readFileSync(file);
    return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 4);
  });
}

function inProcess(words: readonly string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [...process.execArgv, import.meta.filename, ...words], { stdio: 'inherit' });
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`Shots could not be made (${code})`))));
  });
}

async function train(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'training-'));
  try {
    const samples = new Samples(await collect(folder));
    console.log(`${samples.count} samples of ${sampleLength} numbers`);
    const network = trained(samples, Math.floor(samples.count / 20), rounds, console.log);
    const text = `/** Made by training/main.ts. */\nexport const edgeWeights =\n  '${inWholeNumbers(network)}';\n`;
    writeFileSync(target, text);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const [from, to, file] = process.argv.slice(2);
await (file ? writeSamples(Number(from), Number(to), file) : train());
