import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { emptyDocument } from '../core/document/document.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import { openDatabase } from '../server/store/database.ts';
import { ProjectStore } from '../server/store/projects.ts';
import { frames } from './frames.ts';
import { project } from './project.ts';

describe('clyvo frames', () => {
  let folder = '';
  const at = (name: string): string => join(folder, name);
  before(async () => {
    folder = await mkdtemp(join(tmpdir(), 'clyvo-frames-'));
    const db = openDatabase(at('data'));
    const empty = emptyDocument('Lamps', { width: 64, height: 36, rate: 10 }, 1, 'shot');
    const ground = addLayer(
      'shot',
      { id: 'night', name: 'Night', depth: 5 },
      {
        source: { kind: 'colour' },
        colour: [20, 40, 90, 1],
        pivot: [32, 18],
      },
    );
    new ProjectStore(db).create(ground.apply(empty));
    db.close();
    await project(['out', '--data', at('data'), '--project', 'Lamps', '--out', at('lamps.zip')]);
  });
  after(() => rm(folder, { recursive: true }));
  const refusal = (...args: string[]): Promise<string> =>
    frames(['--project', at('lamps.zip'), '--out', at('no'), ...args]).then(
      () => 'done',
      (error: Error) => error.message,
    );

  it('are numbered as the application numbers them, of the size asked for, in the colours of the project', async () => {
    const facts = await frames(['--project', at('lamps.zip'), '--out', at('out'), '--first', '8', '--size', '32x18']);
    expect(facts).to.include({ frames: 2, width: 32, height: 18 });
    expect(await readdir(at('out'))).to.deep.equal(['frame-0009.png', 'frame-0010.png']);
    const { data, info } = await sharp(at('out/frame-0010.png')).raw().toBuffer({ resolveWithObject: true });
    expect([info.width, info.height, ...data.subarray(0, 3)]).to.deep.equal([32, 18, 20, 40, 90]);
  });

  it('say what is wrong, and make nothing then', async () => {
    expect(await refusal('--size', 'large')).to.equal(
      '--size takes width and height like 640x360, at most 8192 each, not "large".',
    );
    const none = (what: string): string => `There is no frame ${what}; the clip has 10, from 0.`;
    expect(await refusal('--first', '10')).to.equal(none('from 10 to before 10'));
    expect(await refusal('--first', '5', '--end', '5')).to.equal(none('from 5 to before 5'));
    expect(await refusal('--project', at('data/clyvo.sqlite'))).to.contain('no whole ZIP');
    expect(await readdir(folder)).to.not.include('no');
  });
});
