/** npm run kernels: builds the WebAssembly kernels of core from their AssemblyScript source into modules that hold their code. */
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);
const root = join(import.meta.dirname, '..');
const source = join(root, 'core/kernels/assembly');
const target = join(root, 'core/kernels/built');
const compiler = join(root, 'node_modules/assemblyscript/bin/asc.js');
const flags = ['-O3', '--runtime', 'stub', '--enable', 'simd', '--enable', 'bulk-memory', '--noAssert'];

/** A module rather than a file of its own: core can then be imported anywhere without fetching anything. */
async function build(name: string, workplace: string): Promise<void> {
  const wasm = join(workplace, `${name}.wasm`);
  const entry = join(source, name, 'index.ts');
  await run(process.execPath, [compiler, entry, ...flags, '--outFile', wasm], { cwd: root });
  const code = `export const ${name}Code = new KernelCode(\n  '${readFileSync(wasm).toString('base64')}',\n);`;
  const text = `/** Made by scripts/kernels.ts. */\nimport { KernelCode } from '../instance.ts';\n\n${code}\n`;
  writeFileSync(join(target, `${name}.ts`), text);
}

mkdirSync(target, { recursive: true });
const workplace = mkdtempSync(join(tmpdir(), 'kernels-'));
try {
  const folders = readdirSync(source, { withFileTypes: true }).filter((entry) => entry.isDirectory());
  // Each in a process of its own, side by side.
  await Promise.all(folders.map(({ name }) => build(name, workplace)));
} finally {
  rmSync(workplace, { recursive: true });
}
