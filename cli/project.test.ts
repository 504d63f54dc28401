import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { emptyDocument } from '../core/document/document.ts';
import { openDatabase } from '../server/store/database.ts';
import { lockFolder } from '../server/store/lock.ts';
import { ProjectStore } from '../server/store/projects.ts';
import { project } from './project.ts';

describe('clyvo project', () => {
  let folder = '';
  const at = (name: string): string => join(folder, name);
  before(async () => {
    folder = await mkdtemp(join(tmpdir(), 'clyvo-project-'));
    const db = openDatabase(at('data'));
    const frame = { width: 640, height: 360, rate: 30 };
    for (const name of ['Lantern Week', 'Tide clock', 'Tide clock'])
      new ProjectStore(db).create(emptyDocument(name, frame, 2, 'shot'));
    db.close();
  });
  after(() => rm(folder, { recursive: true }));

  const refusal = (args: string[]): Promise<string> =>
    project(args).then(
      () => 'done',
      (error: Error) => `${error.constructor.name}: ${error.message}`,
    );

  it('writes a project out by its name, and in again into another data folder', async () => {
    const out = await project(['out', '--data', at('data'), '--project', 'Lantern Week', '--out', at('week.zip')]);
    expect(out).to.include({ project: 'Lantern Week', bytes: (await readFile(at('week.zip'))).length });
    expect(await project(['in', '--data', at('other'), '--in', at('week.zip')])).to.include({
      project: 'Lantern Week',
    });
    const again = ['out', '--data', at('other'), '--project', 'Lantern Week', '--out', at('again.zip')];
    await project(again);
    expect(Buffer.compare(await readFile(at('again.zip')), await readFile(at('week.zip')))).to.equal(0);
  });

  it('asks which one where a name is not enough, and says which there are where it is none', async () => {
    const args = (name: string): string[] => ['out', '--data', at('data'), '--project', name, '--out', at('x.zip')];
    expect(await refusal(args('Tide clock'))).to.match(/^UsageError: 2 projects are called "Tide clock"; name one by/);
    expect(await refusal(args('Crab'))).to.match(/There is no project "Crab". There are: .*"Lantern Week"/);
  });

  it('brings nothing in while Clyvo runs on that folder, nor what is no bundle', async () => {
    await writeFile(at('letter.zip'), 'Dear harbour master');
    expect(await refusal(['in', '--data', at('data'), '--in', at('letter.zip')])).to.contain('no whole ZIP');
    const unlock = lockFolder(at('data'));
    expect(await refusal(['in', '--data', at('data'), '--in', at('week.zip')])).to.contain('already running');
    unlock();
    expect(await refusal(['in', '--data', at('data')])).to.contain('project takes');
  });
});
