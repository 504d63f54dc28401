/**
 * npm run mutants -- core/motion [--count 40] [--seed 1]: puts single faults into the files of a folder, one at a time, and tells
 * which of them the tests that reach the file do not notice. Not part of the test run. Writes the folder's line of docs/tests.md.
 */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { equalMutants } from './mutants/equal-mutants.ts';
import { faultsOf, type Fault } from './mutants/faults.ts';
import { Sandbox, type Verdict } from './mutants/sandbox.ts';
import { testsReaching } from './mutants/reaching.ts';
import { withResult } from './mutants/report.ts';
import { sampled } from './mutants/sample.ts';

const root = join(import.meta.dirname, '..');
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { count: { type: 'string', default: '40' }, seed: { type: 'string', default: '1' } },
});
const folder = positionals[0];
if (!folder) throw new Error('Say which folder: npm run mutants -- core/motion');

const isEqual = ({ file, original, replacement }: Fault): boolean =>
  equalMutants.some((e) => e.file === file && e.original === original && e.replacement === replacement);

const all = await faultsOf(root, folder);
const sample = sampled(all, Number(values.count), Number(values.seed));
const equal = sample.filter(isEqual);
const wanted = sample.filter((fault) => !isEqual(fault));
console.log(
  `${all.length} faults can be made in ${folder}; ${wanted.length} are, and ${equal.length} change no answer.`,
);

const verdicts = new Map<Fault, Verdict>();
const waiting = [...wanted];
const work = async (): Promise<void> => {
  const sandbox = await Sandbox.of(root);
  try {
    for (let fault = waiting.shift(); fault; fault = waiting.shift()) {
      const tests = await testsReaching(root, fault.file);
      const verdict = tests.length === 0 ? 'lived' : await sandbox.judge(fault, tests);
      verdicts.set(fault, verdict);
      console.log(
        `${verdict.padEnd(6)} ${fault.file}:${fault.line}  ${short(fault.original)}  ->  ${short(fault.replacement)}`,
      );
    }
  } finally {
    await sandbox.remove();
  }
};
await Promise.all([work(), work()]);

const killed = [...verdicts.values()].filter((verdict) => verdict === 'killed').length;
const result = {
  folder,
  made: wanted.length,
  killed,
  equal: equal.length,
  date: new Date().toISOString().slice(0, 10),
};
console.log(`${killed} of ${wanted.length} were noticed: ${Math.round((100 * killed) / wanted.length)} %`);
const page = join(root, 'docs/tests.md');
await writeFile(page, withResult(await readFile(page, 'utf8'), result));

function short(code: string): string {
  const line = code.replace(/\s+/g, ' ');
  return line.length > 70 ? `${line.slice(0, 67)}...` : line;
}
