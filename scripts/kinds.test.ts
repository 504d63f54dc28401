import { execFile } from 'node:child_process';
import { cp, mkdtemp, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';

const root = join(import.meta.dirname, '..');

/** What is written into a copy of the project: a new kind of each sort, which nobody knows anything of. */
const newKinds: { file: string; before: string; after: string }[] = [
  {
    file: 'core/document/layer.ts',
    before: "z.object({ kind: z.literal('carrier') }),",
    after: "z.object({ kind: z.literal('carrier') }),\n  z.object({ kind: z.literal('kite') }),",
  },
  {
    file: 'core/scene/draw.ts',
    before: "| { kind: 'grade' }",
    after: "| { kind: 'grade' }\n  | { kind: 'kite' }",
  },
  {
    file: 'core/formats/exports.ts',
    before: '  png: {',
    after: "  kite: { name: 'Kite', purpose: 'x', hint: 'x', mediaType: 'x/x', ending: 'x', ...video },\n  png: {",
  },
  {
    file: 'web/workers/depth-messages.ts',
    before: '  /** Null where nothing stands before anything. */\n',
    after: "  z.object({ kind: z.literal('kite') }),\n  /** Null where nothing stands before anything. */\n",
  },
];

const copied = ['core', 'web', 'package.json', 'tsconfig.base.json', 'tsconfig.web.json'];

/** Who must know of them. Compiled is what these need. */
const knowing = {
  source: 'core/scene/content-of.ts',
  content: 'core/paint/content.ts',
  export: 'web/workers/export.worker.ts',
  message: 'web/workers/depth-client.ts',
};

/** The files in which the compiler finds faults, once for each, and what it says. */
function faultyFiles(folder: string): Promise<{ files: Set<string>; said: string }> {
  const compiler = join(root, 'node_modules/typescript/bin/tsc');
  return new Promise((resolve) => {
    execFile(
      process.execPath,
      [compiler, '-p', 'tsconfig.kinds.json', '--pretty', 'false'],
      { cwd: folder },
      (_, said) =>
        resolve({ files: new Set([...said.matchAll(/^(\S+)\(\d+,\d+\): error/gm)].map(([, file]) => file!)), said }),
    );
  });
}

describe('a new kind that lacks something does not compile', () => {
  let folder = '';
  let found: Awaited<ReturnType<typeof faultyFiles>>;
  before(async () => {
    folder = await mkdtemp(join(tmpdir(), 'clyvo-kinds-'));
    await Promise.all(copied.map((name) => cp(join(root, name), join(folder, name), { recursive: true })));
    await symlink(join(root, 'node_modules'), join(folder, 'node_modules'));
    for (const { file, before, after } of newKinds) {
      const text = await readFile(join(folder, file), 'utf8');
      expect(text.split(before), `${file} has the place once`).to.have.length(2);
      await writeFile(join(folder, file), text.replace(before, after));
    }
    const looked = { extends: './tsconfig.web.json', include: ['web/**/*.d.ts'], files: Object.values(knowing) };
    await writeFile(join(folder, 'tsconfig.kinds.json'), JSON.stringify(looked));
    found = await faultyFiles(folder);
  });
  after(() => rm(folder, { recursive: true, force: true }));

  const lacks = (file: string): Chai.Assertion => expect([...found.files], found.said).to.include(file);

  it('and nothing but what lacks it', () => {
    expect([...found.files].sort(), found.said).to.deep.equal(Object.values(knowing).sort());
  });

  it('a source of layers needs what it shows', () => lacks(knowing.source));

  it('a content needs how it is drawn', () => lacks(knowing.content));

  it('an export needs who writes it', () => lacks(knowing.export));

  it('a message of a worker needs who receives it', () => lacks(knowing.message));
});
