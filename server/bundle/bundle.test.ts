import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import sharp, { type FormatEnum } from 'sharp';
import { emptyDocument, type Document } from '../../core/document/document.ts';
import { addDrawing } from '../../core/edits/drawing-edits.ts';
import { addFont, addPicture } from '../../core/edits/project-edits.ts';
import { addSound } from '../../core/edits/sound-edits.ts';
import { exportFormats } from '../../core/formats/exports.ts';
import { ProjectStore } from '../store/projects.ts';
import { useServer, type TestServer } from '../test-server.ts';

const stranger = { 'Content-Type': 'application/octet-stream' };
const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const frame = { width: 640, height: 360, rate: 30 };

/** A project with a picture, a clip of one, a drawing, a font and one export. */
async function project(server: TestServer): Promise<string> {
  const jpeg = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#3a5f7a' } })
    .jpeg()
    .toBuffer();
  const rotated = await sharp(jpeg).withMetadata({ orientation: 6 }).jpeg().toBuffer();
  const picture = (await server.upload(rotated, 'quay.jpg')).body;
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="60" height="40"><circle cx="30" cy="20" r="9"/></svg>';
  const drawing = (await server.call('POST', '/api/drawings', strToU8(svg), stranger)).body;
  const face = 'node_modules/@fontsource/caveat/files/caveat-latin-400-normal.woff2';
  const font = (await server.call('POST', '/api/fonts', await readFile(face), stranger)).body;
  const { original, file, width, height } = picture;
  const edits = [
    addPicture({ id: 'quay', name: 'Quay', original, file, width, height, clip: null, background: null }),
    addFont({ file: font.file, name: font.name }),
    addDrawing('shot', { id: 'float', name: 'Float', depth: 0.5 }, drawing.file, drawing.box),
  ];
  const document = edits.reduce((at, edit) => edit.apply(at), emptyDocument('Lantern Week / Ü', frame, 2, 'shot'));
  const { id } = new ProjectStore(server.db).create(document);
  const query = 'name=Lantern&format=gif&width=320&height=180&frames=30&rate=15';
  await server.call('POST', `/api/projects/${id}/outputs?${query}`, await sharp(jpeg).gif().toBuffer(), stranger);
  return id;
}

const bundleOf = async (server: TestServer, id: string, query = ''): Promise<Uint8Array> => {
  const response = await fetch(`${server.base}/api/projects/${id}/bundle${query}`);
  expect(response.status).to.equal(200);
  return new Uint8Array(await response.arrayBuffer());
};

describe('a bundle', () => {
  const [here, there] = [useServer(), useServer()];
  const bring = (bytes: Uint8Array) => there.call('POST', '/api/bundles', bytes, stranger);
  let id = '';
  let whole: Uint8Array;
  before(async () => {
    id = await project(here);
    whole = await bundleOf(here, id);
  });

  it('holds the document and every file under the hash of its bytes, with endings people know', () => {
    const entries = unzipSync(whole);
    const names = Object.keys(entries);
    expect(names.slice(0, 2)).to.deep.equal(['bundle.json', 'project.json']);
    expect(names.slice(2).map((name) => name.split('.')[1])).to.have.members(['jpg', 'png', 'svg', 'ttf', 'gif']);
    for (const name of names.slice(2)) expect(name.slice(6, 70)).to.equal(sha(entries[name]!));
  });

  it('opened on an empty data folder and written again is the same to the byte', async () => {
    const answer = await bring(whole);
    expect(answer.status).to.equal(201);
    expect(answer.body.document).to.deep.equal((await here.call('GET', `/api/projects/${id}`)).body.document);
    expect(Buffer.compare(await bundleOf(there, answer.body.id), whole)).to.equal(0);
  });

  it('is the same to the byte with sounds and exports of every kind, under the endings people know them by', async () => {
    const heads: Record<string, string> = {
      mp4: '\0\0\0\x20ftypisom',
      webm: '\x1a\x45\xdf\xa3',
      zip: 'PK\x03\x04',
      ora: 'PK\x03\x04',
    };
    const bytesOf = (head: string, what: string): Buffer => Buffer.from(head.padEnd(40, '\0') + what, 'latin1');
    const sounds: Record<string, string> = {
      wav: 'RIFF....WAVE',
      ogg: 'OggS',
      mp3: 'ID3',
      flac: 'fLaC',
      m4a: heads.mp4!,
    };
    sounds.weba = heads.webm!;
    let document = emptyDocument('Tide clock', frame, 2, 'shot');
    for (const [name, head] of Object.entries(sounds)) {
      const file = (await here.call('POST', '/api/sounds', bytesOf(head, name), stranger)).body.hash as string;
      expect(file, name).to.equal(sha(bytesOf(head, name)));
      const times = { seconds: 2, at: 0, from: 0, length: 2, level: 1, fadeIn: 0, fadeOut: 0, muted: false };
      document = addSound({ id: name, name, file, ...times }).apply(document);
    }
    const { id } = new ProjectStore(here.db).create(document);
    const pictureIn = (mediaType: string, level: number): Promise<Buffer> =>
      sharp({ create: { width: 32, height: 18, channels: 4, background: { r: level, g: 90, b: 60, alpha: 1 } } })
        .toFormat(mediaType.slice('image/'.length).replace('apng', 'png') as keyof FormatEnum)
        .toBuffer();
    for (const [k, [format, { ending, mediaType }]] of Object.entries(exportFormats).entries()) {
      const query = `name=${format}&format=${format}&width=320&height=180&frames=30&rate=15`;
      const head = heads[ending];
      const bytes = head ? bytesOf(head, format) : await pictureIn(mediaType, 20 * k);
      expect((await here.call('POST', `/api/projects/${id}/outputs?${query}`, bytes, stranger)).status).to.equal(201);
    }
    const bundle = await bundleOf(here, id);
    const names = Object.keys(unzipSync(bundle)).slice(2);
    expect(names).to.have.length(Object.keys(sounds).length + Object.keys(exportFormats).length);
    expect(new Set(names.map((name) => name.split('.')[1]))).to.include.keys(
      'mp4',
      'webm',
      'gif',
      'png',
      'zip',
      'wav',
      'mp3',
    );
    const brought = await bring(bundle);
    expect(brought.status, JSON.stringify(brought.body)).to.equal(201);
    expect(Buffer.compare(await bundleOf(there, brought.body.id), bundle)).to.equal(0);
  });

  it('opens no file for who only asks what it would be', async () => {
    const open = async (): Promise<number> => (await readdir('/proc/self/fd')).length;
    const before = await open();
    for (let k = 0; k < 20; k++) {
      const response = await fetch(`${here.base}/api/projects/${id}/bundle`, { method: 'HEAD' });
      expect(response.status).to.equal(200);
      expect(response.headers.get('content-disposition')).to.include('.clyvo.zip');
    }
    expect(await open()).to.be.at.most(before + 3);
  });

  it('comes in beside what is there, with files that are there already kept once', async () => {
    const [files, projects] = [await there.storedFiles(), (await there.call('GET', '/api/projects')).body.length];
    expect((await bring(whole)).status).to.equal(201);
    expect(await there.storedFiles()).to.equal(files);
    expect((await there.call('GET', '/api/projects')).body.length).to.equal(projects + 1);
  });

  it('leaves earlier exports out where they are not wanted', async () => {
    const names = Object.keys(unzipSync(await bundleOf(here, id, '?exports=none')));
    expect(names.some((name) => name.endsWith('.gif'))).to.equal(false);
    expect(names).to.have.length(6);
  });

  it('packed again by hand, in a folder and squeezed, is still one', async () => {
    const entries = Object.entries(unzipSync(whole)).map(([name, bytes]) => [`Lantern Week/${name}`, bytes] as const);
    const again = zipSync({ ...Object.fromEntries(entries), '__MACOSX/x': strToU8('left by a system') }, { level: 6 });
    expect((await bring(again)).status).to.equal(201);
  });

  it('is not written while a file of its project is missing', async () => {
    const project = new ProjectStore(here.db);
    const { document } = project.get(id);
    const lost = project.create({ ...document, fonts: [{ file: 'a'.repeat(64), name: 'Lost' }] });
    const answer = await here.call('GET', `/api/projects/${lost.id}/bundle`);
    expect([answer.status, answer.body.message]).to.deep.equal([404, 'There is no such file any more.']);
  });

  describe('of a stranger is refused with a sentence, and nothing of it stays:', () => {
    type Entries = Record<string, Uint8Array>;
    const edited = (change: (entries: Entries, document: Document) => void): Uint8Array => {
      const entries: Entries = unzipSync(whole);
      const document = JSON.parse(new TextDecoder().decode(entries['project.json'])) as Document;
      change(entries, document);
      if (entries['project.json']) entries['project.json'] = strToU8(JSON.stringify(document));
      return zipSync(entries as Zippable);
    };
    const ending = (entries: Entries, end: string): string => Object.keys(entries).find((name) => name.endsWith(end))!;
    /** Another file in the place of one, under its own right hash. */
    const swapped = (end: string, bytes: Uint8Array): Uint8Array => {
      const [entries, hash] = [unzipSync(whole) as Entries, sha(bytes)];
      const name = ending(entries, end);
      const old = name.slice(6, 70);
      delete entries[name];
      entries[`files/${hash}${end}`] = bytes;
      for (const part of ['project.json', 'bundle.json']) {
        const text = new TextDecoder().decode(entries[part]);
        entries[part] = strToU8(text.replaceAll(old, hash));
      }
      return zipSync(entries as Zippable);
    };
    const script = '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>';
    const cases: Record<string, [() => Uint8Array | Promise<Uint8Array>, number, string]> = {
      'no ZIP at all': [() => strToU8('a letter to the harbour master'), 415, 'no whole ZIP'],
      'one cut short': [() => whole.subarray(0, whole.length - 400), 415, 'no whole ZIP'],
      'another ZIP': [() => zipSync({ 'frame-0001.png': strToU8('x') }), 415, 'no bundle.json'],
      'a name that leads out': [() => edited((e) => (e['../../etc/quay'] = strToU8('x'))), 422, 'leads elsewhere'],
      'a file that is not what its hash says': [
        () => edited((e) => (e[ending(e, '.png')] = strToU8('other bytes'))),
        422,
        'damaged',
      ],
      'a file missing': [() => edited((e) => delete e[ending(e, '.jpg')]), 422, 'missing'],
      'the same file twice': [
        () => edited((e) => (e[ending(e, '.jpg').replace('.jpg', '.jpeg')] = e[ending(e, '.jpg')]!)),
        422,
        'twice',
      ],
      'a page in the place of a picture': [
        () => swapped('.png', strToU8('<html>hello</html>')),
        422,
        'nothing a project',
      ],
      'a drawing with a script': [() => swapped('.svg', strToU8(script)), 422, 'nothing a project holds'],
      'a font that is none': [() => swapped('.ttf', strToU8('OTTO and nothing else')), 422, 'nothing a project holds'],
      'a picture beyond all bounds': [
        async () => {
          const vast = { create: { width: 21_000, height: 20, channels: 3 as const, background: '#000' } };
          return swapped('.png', await sharp(vast).png().toBuffer());
        },
        422,
        'nothing a project holds',
      ],
      'no document': [() => edited((e) => delete e['project.json']), 422, 'missing'],
      'a document that is none': [() => edited((_, d) => (d.shots.length = 0)), 422, 'newer Clyvo or is damaged'],
      'a newer one': [
        () => edited((e) => (e['bundle.json'] = strToU8('{"clyvo":"bundle","version":9,"exports":[]}'))),
        422,
        'newer Clyvo',
      ],
      'one that does not say what it is': [
        () => edited((e) => (e['bundle.json'] = strToU8('{}'))),
        422,
        'does not say',
      ],
      'a manifest nested without end': [
        () => edited((e) => (e['bundle.json'] = strToU8('['.repeat(5000) + ']'.repeat(5000)))),
        422,
        'nested too deep',
      ],
      'a bomb': [() => edited((e) => (e['bundle.json'] = new Uint8Array(80 * 1024 * 1024).fill(32))), 413, 'too large'],
    };
    for (const [what, [make, status, sentence]] of Object.entries(cases))
      it(what, async () => {
        const bytes = await make();
        const [files, projects] = [await there.storedFiles(), (await there.call('GET', '/api/projects')).body.length];
        const answer = await bring(bytes);
        expect([answer.status, answer.body.message]).to.satisfy(
          ([got, message]: [number, string]) => got === status && message.includes(sentence),
          JSON.stringify(answer.body),
        );
        expect(await there.storedFiles()).to.equal(files);
        expect((await there.call('GET', '/api/projects')).body.length).to.equal(projects);
        expect((await readdir(join(there.folder, 'files'))).filter((name) => name.endsWith('.part'))).to.deep.equal([]);
      });
  });
});
