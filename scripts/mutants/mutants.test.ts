import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import { faultsIn, faultsOf } from './faults.ts';
import { testsReaching } from './reaching.ts';
import { withResult } from './report.ts';
import { sampled } from './sample.ts';

describe('faults put in on purpose', () => {
  const text = `export const larger = (a: number, b: number): number => (a > b ? a : b);\n`;

  it('are all that can stand at a place, each where it says and another text than before', async () => {
    const faults = await faultsIn('larger.ts', text);
    const made = faults.map(({ from, to, replacement }) => text.slice(0, from) + replacement + text.slice(to));
    for (const other of ['a >= b', 'a <= b', 'true', 'false'])
      expect(
        made.some((file) => file.includes(`(${other} ? a : b)`)),
        `${other} of ${made.join('')}`,
      ).to.equal(true);
    expect(made).not.to.include(text);
    expect(faults.every(({ line, original }) => line === 1 && text.includes(original))).to.equal(true);
  });

  it('are sampled alike by the same seed, without any twice', () => {
    const list = Array.from({ length: 100 }, (_, k) => k);
    const some = sampled(list, 40, 7);
    expect(new Set(some).size).to.equal(40);
    expect(some).to.deep.equal([...some].sort((a, b) => a - b));
    expect(sampled(list, 40, 7)).to.deep.equal(some);
    expect(sampled(list, 40, 8)).not.to.deep.equal(some);
    expect(sampled(list, 200, 7)).to.deep.equal(list);
  });

  it('are looked for by the tests that reach their file, near ones first, and never in tests themselves', async () => {
    const root = await mkdtemp(join(tmpdir(), 'clyvo-reach-'));
    const files: Record<string, string> = {
      'core/a/larger.ts': text,
      'core/a/larger.test.ts': "import { larger } from './larger.ts';",
      'core/a/other.test.ts': "import { expect } from 'chai';",
      'core/b/uses.ts': "export { larger } from '../a/larger.ts';",
      'server/uses.test.ts': "const uses = await import('../core/b/uses.ts');",
    };
    for (const [path, content] of Object.entries(files)) {
      await mkdir(dirname(join(root, path)), { recursive: true });
      await writeFile(join(root, path), content);
    }
    expect(await testsReaching(root, 'core/a/larger.ts')).to.deep.equal([
      'core/a/larger.test.ts',
      'server/uses.test.ts',
    ]);
    expect(new Set((await faultsOf(root, 'core')).map(({ file }) => file))).to.deep.equal(
      new Set(['core/a/larger.ts']),
    );
    await rm(root, { recursive: true });
  });

  it('have one line for each folder', () => {
    const result = { folder: 'core/b', made: 40, killed: 31, equal: 2, date: '2026-01-02' };
    const head = 'Before\n\n| folder | faults made | noticed | set aside | on |\n| --- | --- | --- | --- | --- |\n';
    const one = withResult(`${head}\nAfter\n`, result);
    expect(one).to.equal(`${head}| core/b | 40 | 78 % | 2 | 2026-01-02 |\n\nAfter\n`);
    const two = withResult(one, { ...result, folder: 'core/a', killed: 40 });
    const again = withResult(two, { ...result, killed: 20 });
    expect(again).to.equal(
      `${head}| core/a | 40 | 100 % | 2 | 2026-01-02 |\n| core/b | 40 | 50 % | 2 | 2026-01-02 |\n\nAfter\n`,
    );
  });
});
