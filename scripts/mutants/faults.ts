import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Instrumenter } from '@stryker-mutator/instrumenter';

/** One place of a file, and what stands there instead. */
export interface Fault {
  file: string;
  line: number;
  /** Where in the text it begins and ends. */
  from: number;
  to: number;
  original: string;
  replacement: string;
}

const silent = (): void => undefined;
const logger = {
  ...{ trace: silent, debug: silent, info: silent, warn: silent, error: silent, fatal: silent },
  ...{ isTraceEnabled: () => false, isDebugEnabled: () => false, isInfoEnabled: () => false },
  ...{ isWarnEnabled: () => false, isErrorEnabled: () => false, isFatalEnabled: () => false },
};

/** What only words or messages would change of: nobody's answer hangs on it. */
const excludedMutations = ['StringLiteral', 'Regex'];

/** Every fault that can be put into the files of a folder, tests and what is generated aside, in a fixed order. */
export async function faultsOf(root: string, folder: string): Promise<Fault[]> {
  const files: string[] = [];
  for (const path of await readdir(join(root, folder), { recursive: true }))
    if (path.endsWith('.ts') && !/\.(test|d)\.ts$|(^|\/)(test-|built\/|assembly\/)/.test(path))
      files.push(join(folder, path));
  const faults: Fault[] = [];
  for (const file of files.sort()) faults.push(...(await faultsIn(file, await readFile(join(root, file), 'utf8'))));
  return faults;
}

/** Every fault that can be put into a text, in the order in which they stand there. */
export async function faultsIn(file: string, content: string): Promise<Fault[]> {
  const instrumenter = new Instrumenter(logger);
  const options = { plugins: null, excludedMutations, ignorers: [] };
  const { mutants } = await instrumenter.instrument([{ name: file, content, mutate: true }], options);
  const starts = [0];
  for (let at = content.indexOf('\n'); at >= 0; at = content.indexOf('\n', at + 1)) starts.push(at + 1);
  return mutants
    .filter(({ status }) => status !== 'Ignored')
    .map(({ location: { start, end }, replacement }): Fault => {
      const [from, to] = [starts[start.line]! + start.column, starts[end.line]! + end.column];
      return { file, line: start.line + 1, from, to, original: content.slice(from, to), replacement: replacement! };
    })
    .sort((a, b) => a.from - b.from || a.to - b.to || a.replacement.localeCompare(b.replacement));
}
