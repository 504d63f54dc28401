/**
 * npm run kernels: builds the WebAssembly kernels of core from their AssemblyScript source into modules that hold their code.
 * With names of kernels only those, one after another.
 */
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);
const root = join(import.meta.dirname, '..');
const source = join(root, 'core/kernels/assembly');
const target = join(root, 'core/kernels/built');
const flags = ['-O3', '--runtime', 'stub', '--enable', 'simd', '--enable', 'bulk-memory', '--noAssert'];

/** A module rather than a file of its own: core can then be imported anywhere without fetching anything. */
async function build(names: readonly string[]): Promise<void> {
  const { default: asc } = await import('assemblyscript/asc');
  const workplace = mkdtempSync(join(tmpdir(), 'kernels-'));
  try {
    for (const name of names) {
      const wasm = join(workplace, `${name}.wasm`);
      const paths = [join(source, name, 'index.ts'), wasm].map((path) => relative(root, path));
      const { error, stderr } = await asc.main([paths[0]!, ...flags, '--baseDir', root, '--outFile', paths[1]!]);
      if (error) throw new Error(`${name}: ${error.message}\n${stderr.toString()}`);
      const code = `export const ${name}Code = new KernelCode(\n  '${readFileSync(wasm).toString('base64')}',\n);`;
      const text = `/** Made by scripts/kernels.ts. */\nimport { KernelCode } from '../instance.ts';\n\n${code}\n`;
      writeFileSync(join(target, `${name}.ts`), text);
    }
  } finally {
    rmSync(workplace, { recursive: true });
  }
}

/** Shares the kernels out among processes: each loads the compiler once, which takes longer than most kernels do. */
async function buildAll(): Promise<void> {
  const size = (name: string): number =>
    readdirSync(join(source, name)).reduce((sum, file) => sum + readFileSync(join(source, name, file)).length, 0);
  const kernels = readdirSync(source, { withFileTypes: true })
    .filter((entry) => entry.isDirectory())
    .map(({ name }) => ({ name, size: size(name) }))
    .sort((a, b) => b.size - a.size);
  const shares = Array.from({ length: Math.min(4, availableParallelism()) }, () => ({
    size: 0,
    names: [] as string[],
  }));
  for (const { name, size } of kernels) {
    const least = shares.reduce((a, b) => (b.size < a.size ? b : a));
    least.names.push(name);
    least.size += size;
  }
  const self = join(import.meta.dirname, 'kernels.ts');
  await Promise.all(
    shares
      .filter(({ names }) => names.length > 0)
      .map(({ names }) => run(process.execPath, ['--import', 'tsx', self, ...names], { cwd: root })),
  );
}

mkdirSync(target, { recursive: true });
const named = process.argv.slice(2);
await (named.length > 0 ? build(named) : buildAll());
