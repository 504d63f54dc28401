import { createWriteStream } from 'node:fs';
import { access, rm, stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { parseArgs } from 'node:util';
import { readBundle } from '../server/bundle/read-bundle.ts';
import { planBundle, writeBundle } from '../server/bundle/write-bundle.ts';
import { dataFolder } from '../server/data-folder.ts';
import { StartProblem, UserError } from '../server/errors.ts';
import { openDatabase, type Db } from '../server/store/database.ts';
import { FileStore } from '../server/store/files.ts';
import { lockFolder } from '../server/store/lock.ts';
import { OutputStore } from '../server/store/outputs.ts';
import { ProjectStore, type StoredProject } from '../server/store/projects.ts';
import { UsageError } from './pictures.ts';

const usage =
  'project takes "out --project name --out bundle.zip [--exports all|none]" or "in --in bundle.zip", and --data folder for another data folder.';

/** `clyvo project out|in`: projects with their files, to back them up and to put them back. */
export async function project(args: string[]): Promise<Record<string, unknown>> {
  const [way, ...rest] = args;
  const { values } = parseArgs({
    args: rest,
    options: {
      data: { type: 'string', default: dataFolder },
      project: { type: 'string' },
      out: { type: 'string' },
      in: { type: 'string' },
      exports: { type: 'string', default: 'all' },
    },
  });
  if (way === 'out' && values.project && values.out && ['all', 'none'].includes(values.exports)) {
    const { project: wanted, out, exports } = values;
    return onData(values.data, (db, files) => writeOut(db, files, wanted, out, exports === 'all'));
  }
  if (way === 'in' && values.in) {
    const { in: path, data } = values;
    await access(path).catch(() => {
      throw new UsageError(`There is no file "${path}".`);
    });
    // While Clyvo runs on a data folder, nothing else writes into it.
    return onData(data, (db, files) => locked(data, () => takeIn(db, files, path)));
  }
  throw new UsageError(usage);
}

async function onData<T>(folder: string, work: (db: Db, files: FileStore) => Promise<T>): Promise<T> {
  try {
    const db = openDatabase(folder);
    return await work(db, new FileStore(db, folder)).finally(() => db.close());
  } catch (error) {
    if (error instanceof UserError || error instanceof StartProblem) throw new UsageError(error.message);
    throw error;
  }
}

async function locked<T>(folder: string, work: () => Promise<T>): Promise<T> {
  const unlock = lockFolder(folder);
  return work().finally(unlock);
}

async function writeOut(db: Db, files: FileStore, wanted: string, out: string, exports: boolean) {
  const { id, document } = projectCalled(new ProjectStore(db), wanted);
  const plan = planBundle(files, document, exports ? new OutputStore(db).list(id) : []);
  try {
    await pipeline(writeBundle(plan), createWriteStream(out));
  } catch {
    await rm(out, { force: true });
    throw new UsageError(`"${out}" could not be written; does its folder exist, and is there room?`);
  }
  return { project: document.name, id, bytes: (await stat(out)).size };
}

async function takeIn(db: Db, files: FileStore, path: string) {
  const { id, document } = await readBundle(path, files, new ProjectStore(db), new OutputStore(db));
  return { project: document.name, id };
}

/** By id, or by a name only one has. */
function projectCalled(projects: ProjectStore, wanted: string): StoredProject {
  const readable = projects.list().filter((one) => 'document' in one);
  const found = readable.filter(({ id, document }) => id === wanted || document.name === wanted);
  if (found.length === 1) return found[0]!;
  if (found.length > 1)
    throw new UsageError(
      `${found.length} projects are called "${wanted}"; name one by its id: ${found.map(({ id }) => id).join(', ')}.`,
    );
  throw new UsageError(
    `There is no project "${wanted}". There are: ${readable.map(({ document }) => `"${document.name}"`).join(', ') || 'none'}.`,
  );
}
