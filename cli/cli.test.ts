import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect } from 'chai';
import sharp from 'sharp';
import { answer } from './answer.ts';

const run = promisify(execFile);
const root = join(import.meta.dirname, '..');

describe('command line', () => {
  let folder: string;
  const at = (name: string): string => join(folder, name);
  before(async () => {
    folder = await mkdtemp(join(tmpdir(), 'clyvo-cli-'));
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect width="300" height="200" fill="#5f7f8c"/>
      <circle cx="150" cy="100" r="45" fill="#c8502a"/></svg>`;
    const two = svg.replace('</svg>', '<rect x="230" y="70" width="44" height="60" fill="#e0b030"/></svg>');
    await sharp(Buffer.from(two)).png().toFile(at('two.png'));
    await sharp(Buffer.from(svg)).png().toFile(at('float.png'));
    const mask = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect width="300" height="200"/>
      <circle cx="150" cy="100" r="52" fill="#fff"/></svg>`;
    await sharp(Buffer.from(mask)).png().toFile(at('mask.png'));
  });
  after(() => rm(folder, { recursive: true }));

  const clyvo = async (...args: string[]): Promise<Record<string, unknown>> => {
    const { status, said } = await answer(args);
    expect(status, said).to.equal(0);
    expect(said.split('\n')).to.have.length(1);
    return JSON.parse(said) as Record<string, unknown>;
  };
  const fails = async (...args: string[]): Promise<string> => {
    const { status, said } = await answer(args);
    expect(status, said).to.equal(2);
    expect(said.split('\n')).to.have.length(1);
    return said;
  };
  const pixel = async (file: string, x: number, y: number): Promise<number[]> => {
    const { data, info } = await sharp(at(file)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    return [...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4)];
  };

  it('cuts a piece the size of the photo and writes its alpha', async () => {
    const facts = await clyvo(
      'cut',
      '--in',
      at('float.png'),
      '--out',
      at('piece.png'),
      '--answer',
      'subject',
      '--alpha',
      at('alpha.png'),
    );
    expect(facts).to.include({ command: 'cut', width: 300, height: 200 });
    expect(facts.covered).to.be.closeTo((Math.PI * 45 * 45) / 60000, 0.004);
    expect(await pixel('piece.png', 150, 100)).to.deep.equal([200, 80, 42, 255]);
    expect((await pixel('piece.png', 20, 20))[3]).to.equal(0);
    expect((await pixel('alpha.png', 150, 100))[0]).to.equal(255);
  });

  it('cuts along the outlines of an SVG file, trimmed', async () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 150 100"><path d="M50 30h50v40h-50z M60 40v10h10v-10z"/></svg>`;
    await writeFile(at('outline.svg'), svg);
    const wanted = ['--in', at('float.png'), '--out', at('along.png'), '--path', at('outline.svg'), '--trim'];
    const facts = await clyvo('cut', ...wanted);
    expect(facts.bounds).to.deep.equal({ x: 100, y: 60, width: 100, height: 80 });
    expect(facts.covered).to.be.closeTo((100 * 80 - 20 * 20) / 60000, 1e-3);
    expect((await pixel('along.png', 30, 30))[3]).to.equal(0);
    expect((await pixel('along.png', 60, 60))[3]).to.equal(255);
    await writeFile(at('empty.svg'), '<svg xmlns="http://www.w3.org/2000/svg"/>');
    const none = ['--in', at('float.png'), '--out', at('along.png'), '--path', at('empty.svg')];
    expect(await fails('cut', ...none)).to.contain('No outline could be read');
  });

  it('keeps what a picture leaves empty empty, whatever it is cut by', async () => {
    const own = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect width="160" height="200"/></svg>`;
    await sharp(at('float.png'))
      .composite([{ input: Buffer.from(own), blend: 'dest-in' }])
      .toFile(at('half.png'));
    await writeFile(
      at('all.svg'),
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 3 2"><path d="M0 0h3v2h-3z"/></svg>',
    );
    const ways = [
      ['cut', '--answer', 'subject'],
      ['cut', '--path', at('all.svg')],
      ['key', '--kind', 'chroma', '--color', '#5f7f8c'],
      ['key', '--kind', 'luma'],
      ['key', '--kind', 'unveil'],
    ];
    for (const [command, ...rest] of ways) {
      await clyvo(command!, '--in', at('half.png'), '--out', at('kept.png'), ...rest);
      for (const [x, y] of [
        [165, 100],
        [190, 100],
        [290, 10],
      ])
        expect((await pixel('kept.png', x!, y!))[3], `${rest.join(' ')} at ${x}, ${y}`).to.equal(0);
      // Up to where the file ends all of the float is there, in its own colour.
      expect((await pixel('kept.png', 158, 100))[3], rest.join(' ')).to.be.greaterThan(100);
    }
  });

  it('follows strokes and a box', async () => {
    await writeFile(
      at('strokes.json'),
      JSON.stringify({
        keep: [],
        drop: [
          {
            radius: 9,
            points: [
              [250, 85],
              [252, 115],
            ],
          },
        ],
      }),
    );
    await clyvo(
      'cut',
      '--in',
      at('two.png'),
      '--out',
      at('less.png'),
      '--answer',
      'subject',
      '--strokes',
      at('strokes.json'),
    );
    expect((await pixel('less.png', 251, 100))[3]).to.equal(0);
    expect((await pixel('less.png', 150, 100))[3]).to.equal(255);
    const one = ['--answer', 'subject', '--at', '150,100'];
    await clyvo('cut', '--in', at('two.png'), '--out', at('one.png'), ...one);
    expect((await pixel('one.png', 251, 100))[3]).to.equal(0);
    expect((await pixel('one.png', 150, 100))[3]).to.equal(255);
    expect(await fails('cut', '--in', at('two.png'), '--out', at('x.png'), '--at', '1,2,3')).to.contain('--at takes');
    await clyvo('cut', '--in', at('float.png'), '--out', at('box.png'), '--box', '95,45,110,110');
    expect((await pixel('box.png', 150, 100))[3]).to.equal(255);
  });

  it('rebuilds what is white and returns the rest unchanged', async () => {
    const facts = await clyvo(
      'rebuild',
      '--in',
      at('float.png'),
      '--mask',
      at('mask.png'),
      '--out',
      at('plate.png'),
      '--seed',
      '2',
    );
    expect(facts).to.include({ command: 'rebuild', seed: 2 });
    expect(await pixel('plate.png', 150, 100)).to.deep.equal([95, 127, 140, 255]);
    expect(await pixel('plate.png', 10, 10)).to.deep.equal([95, 127, 140, 255]);
  });

  it('makes several takes under the guides, numbered', async () => {
    const lines = [{ from: [20, 100], to: [280, 100] }];
    await writeFile(at('guides.json'), JSON.stringify({ lines }));
    const files = ['--in', at('float.png'), '--mask', at('mask.png'), '--out', at('take.png')];
    const facts = await clyvo('rebuild', ...files, '--takes', '2', '--guides', at('guides.json'));
    expect((facts.takes as { seed: number }[]).map((t) => t.seed)).to.deep.equal([1, 2]);
    for (const k of [1, 2]) expect(await pixel(`take-${k}.png`, 150, 100)).to.deep.equal([95, 127, 140, 255]);
    await writeFile(at('bad.json'), '{"lines":[{"from":[1]}]}');
    expect(await fails('rebuild', ...files, '--guides', at('bad.json'))).to.contain('does not hold guides');
    expect(await fails('rebuild', ...files, '--takes', 'some')).to.contain('--takes is a whole number');
  });

  it('widens to a ratio or by borders', async () => {
    const facts = await clyvo('widen', '--in', at('float.png'), '--out', at('wide.png'), '--to', '2:1');
    expect(facts).to.deep.include({ width: 400, height: 200, pad: { left: 50, top: 0, right: 50, bottom: 0 } });
    expect(await pixel('wide.png', 5, 100)).to.deep.equal([95, 127, 140, 255]);
    expect(await pixel('wide.png', 200, 100)).to.deep.equal([200, 80, 42, 255]);
    const below = await clyvo('widen', '--in', at('float.png'), '--out', at('below.png'), '--pad', '0,0,0,40');
    expect(below).to.include({ width: 300, height: 240 });
    expect(await fails('widen', '--in', at('float.png'), '--out', at('x.png'), '--to', 'wide')).to.contain('16:9');
    expect(await fails('widen', '--in', at('float.png'), '--out', at('x.png'), '--pad', '1,2')).to.contain(
      '--pad takes',
    );
  });

  it('parts a shadow from its ground; laid over the plate it gives the picture again', async () => {
    const shaded = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><defs><radialGradient id="g"><stop offset="0.3" stop-opacity="0.6"/>
      <stop offset="1" stop-opacity="0"/></radialGradient></defs><rect width="300" height="200" fill="#b0a890"/>
      <ellipse cx="150" cy="100" rx="70" ry="34" fill="url(#g)"/></svg>`;
    await sharp(Buffer.from(shaded)).png().toFile(at('shaded.png'));
    const region = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect width="300" height="200"/>
      <ellipse cx="150" cy="100" rx="90" ry="52" fill="#fff"/></svg>`;
    await sharp(Buffer.from(region)).png().toFile(at('region.png'));
    const outs = ['--plate-out', at('ground.png'), '--shadow-out', at('shade.png')];
    const facts = await clyvo('shadow', '--in', at('shaded.png'), '--mask', at('region.png'), ...outs);
    expect(facts.darkest).to.be.closeTo(0.6, 0.06);
    const ground = await pixel('ground.png', 150, 100);
    expect(ground[0]).to.be.closeTo(176, 10);
    const shade = await pixel('shade.png', 150, 100);
    expect(shade.slice(0, 3)).to.deep.equal([0, 0, 0]);
    expect(ground[0]! * (1 - shade[3]! / 255)).to.be.closeTo((await pixel('shaded.png', 150, 100))[0]!, 2);
  });

  it('keys by colour, finding the screen itself, and trims', async () => {
    const shot = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect width="300" height="200" fill="#2fa84f"/>
      <circle cx="150" cy="100" r="45" fill="#c8b09a"/></svg>`;
    await sharp(Buffer.from(shot)).png().toFile(at('green.png'));
    const facts = await clyvo('key', '--in', at('green.png'), '--out', at('keyed.png'), '--trim');
    expect(facts).to.include({ command: 'key', kind: 'chroma', screen: '#2fa84f' });
    expect(facts.covered).to.be.closeTo((Math.PI * 45 * 45) / 60000, 0.004);
    const { width, height } = await sharp(at('keyed.png')).metadata();
    expect([width, height]).to.deep.equal([90, 90]);
    expect(await pixel('keyed.png', 45, 45)).to.deep.equal([200, 176, 154, 255]);
    await clyvo('key', '--in', at('float.png'), '--out', at('lit.png'), '--kind', 'unveil');
    expect((await pixel('lit.png', 150, 100))[0]).to.equal(255);
    expect(await fails('key', '--in', at('green.png'), '--out', at('x.png'), '--color', 'green')).to.contain('#2fa84f');
  });

  it('answers as a program does: facts as one line and 0, or a sentence on what is wrong and 2', async () => {
    await run('bash', ['scripts/build.sh', 'node'], { cwd: root });
    const program = (...args: string[]): Promise<{ stdout: string; stderr: string; code?: number }> =>
      run(process.execPath, [join(root, 'dist/clyvo.js'), ...args]).catch((error) => error);
    const done = await program('widen', '--in', at('float.png'), '--out', at('same.png'), '--pad', '0,0,0,2');
    expect(done.stdout).to.match(/^\{"command":"widen".*\}\n$/);
    expect(done.code).to.equal(undefined);
    const refused = await program('widen', '--in', at('nobody.png'), '--out', at('x.png'), '--to', '2:1');
    expect(refused.stderr).to.match(/^There is no file ".*nobody.png".*\n$/);
    expect([refused.stdout, refused.code]).to.deep.equal(['', 2]);
  });

  it('says in one sentence what is wrong', async () => {
    expect(await fails('cut', '--in', at('nobody.png'), '--out', at('x.png'))).to.contain('There is no file');
    expect(await fails('cut', '--in', at('strokes.json'), '--out', at('x.png'))).to.contain('not a whole picture');
    expect(await fails('cut', '--in', at('float.png'), '--out', at('x.png'), '--box', '1,2,3')).to.contain(
      '--box takes',
    );
    expect(await fails('cut', '--in', at('float.png'), '--out', at('x.png'), '--answer', 'sky')).to.contain(
      'foreground or subject',
    );
    expect(
      await fails(
        'rebuild',
        '--in',
        at('float.png'),
        '--mask',
        at('piece.png').replace('piece', 'nope'),
        '--out',
        at('x.png'),
      ),
    ).to.contain('There is no file');
    expect(await fails('cut', '--colour', 'red')).to.contain("Unknown option '--colour'");
    expect(await fails('polish')).to.contain('cut, key, rebuild, widen, shadow');
  });
});
