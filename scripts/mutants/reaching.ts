import { readdir, readFile } from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';

/** What a file imports of this project, by what is written in it. */
async function importsOf(root: string, file: string): Promise<string[]> {
  const text = await readFile(join(root, file), 'utf8').catch(() => '');
  return [...text.matchAll(/(?:from|import\()\s*'(\.[^']+)'/g)].map(([, path]) =>
    relative(root, join(root, dirname(file), path!)),
  );
}

const graphs = new Map<string, Promise<Map<string, Set<string>>>>();

/** Of every unit test of the project, all files it reaches. */
async function reachOf(root: string): Promise<Map<string, Set<string>>> {
  const known = new Map<string, string[]>();
  const importsKnown = async (file: string): Promise<string[]> => {
    const found = known.get(file) ?? (await importsOf(root, file));
    known.set(file, found);
    return found;
  };
  const reach = new Map<string, Set<string>>();
  const parts = await Promise.all(['core', 'server'].map((part) => readdir(join(root, part), { recursive: true })));
  const tests = parts.flatMap((paths, k) => paths.map((path) => join(['core', 'server'][k]!, path)));
  for (const test of tests.filter((path) => path.endsWith('.test.ts'))) {
    const [seen, waiting] = [new Set<string>(), [test]];
    for (let file = waiting.pop(); file; file = waiting.pop()) {
      if (seen.has(file)) continue;
      seen.add(file);
      waiting.push(...(await importsKnown(file)));
    }
    reach.set(test, seen);
  }
  return reach;
}

/** A test further away notices what is said by no test that is near; that is not what is asked. */
const mostTests = 24;

/** The tests of core and server that are nearest to a file, those of its own folder first. */
export async function testsReaching(root: string, file: string): Promise<string[]> {
  graphs.set(root, graphs.get(root) ?? reachOf(root));
  const reach = await graphs.get(root)!;
  const tests = [...reach].filter(([, files]) => files.has(file)).map(([test]) => test);
  const own = (test: string): number => (dirname(test) === dirname(file) ? 0 : 1);
  // Those that reach least are the quickest, and the nearest.
  return tests.sort((a, b) => own(a) - own(b) || reach.get(a)!.size - reach.get(b)!.size).slice(0, mostTests);
}
