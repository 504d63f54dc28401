import { spawn } from 'node:child_process';
import { cp, mkdtemp, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import type { Fault } from './faults.ts';

export type Verdict = 'killed' | 'lived';

/** What a copy leaves out: made or fetched things, and what no unit test reads. */
const leftOut = new Set(['node_modules', '.git', 'dist', 'screenshots', '.scratch']);
/** A test that runs longer than this hangs: that is noticed. */
const longest = 240_000;

/** A copy of the project in which one fault stands at a time. */
export class Sandbox {
  private constructor(private readonly folder: string) {}

  static async of(root: string): Promise<Sandbox> {
    const folder = await mkdtemp(join(tmpdir(), 'clyvo-mutants-'));
    await cp(root, folder, { recursive: true, filter: (path) => !leftOut.has(basename(path)) });
    await symlink(join(root, 'node_modules'), join(folder, 'node_modules'));
    return new Sandbox(folder);
  }

  /** Runs tests on the project with a fault in it, until the first of them fails. */
  async judge({ file, from, to, replacement }: Fault, tests: readonly string[]): Promise<Verdict> {
    const path = join(this.folder, file);
    const text = await readFile(path, 'utf8');
    await writeFile(path, text.slice(0, from) + replacement + text.slice(to));
    try {
      return (await this.passes(tests)) ? 'lived' : 'killed';
    } finally {
      await writeFile(path, text);
    }
  }

  private passes(tests: readonly string[]): Promise<boolean> {
    const mocha = ['--import', 'tsx', 'node_modules/mocha/bin/mocha.js', '--no-config', '--bail', '--exit'];
    return new Promise((resolve, reject) => {
      const run = spawn('node', [...mocha, '--timeout', '60000', ...tests], {
        cwd: this.folder,
        stdio: 'ignore',
        timeout: longest,
      });
      run.on('error', reject);
      run.on('exit', (code) => resolve(code === 0));
    });
  }

  remove(): Promise<void> {
    return rm(this.folder, { recursive: true, force: true });
  }
}
