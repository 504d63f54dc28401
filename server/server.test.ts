import { mkdtemp, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { documentVersion } from '../core/document/document.ts';
import sharp from 'sharp';
import { finishKind } from '../core/finish/finishes.ts';
import { storedFrom } from '../core/settings/setting.ts';
import { openDatabase } from './store/database.ts';
import { FileStore } from './store/files.ts';
import { sweep } from './store/sweep.ts';
import { rename, useServer } from './test-server.ts';

describe('server', () => {
  const server = useServer();

  it('says that it is well, with its version', async () => {
    expect(await server.call('GET', '/api/health')).to.deep.include({
      status: 200,
      body: { version: '0.0.0', database: 'ok' },
    });
  });

  it('applies a patch to the revision it was made for and keeps its name in the history', async () => {
    const project = await server.newProject();
    const answer = await server.change(project.id, 1, 'Rename project', rename('Harbour Trust'));
    expect(answer.body.revision).to.equal(2);
    const stored = (await server.call('GET', `/api/projects/${project.id}`)).body;
    expect([stored.revision, stored.document.name]).to.deep.equal([2, 'Harbour Trust']);
    expect((await server.call('GET', `/api/projects/${project.id}/history`)).body[0]).to.include({
      revision: 2,
      name: 'Rename project',
    });
  });

  it('answers a stale revision with 409 and the current project, changing nothing', async () => {
    const project = await server.newProject();
    await server.change(project.id, 1, 'a', rename('First'));
    const late = await server.change(project.id, 1, 'b', rename('Second'));
    expect(late.status).to.equal(409);
    expect(late.body.project.document.name).to.equal('First');
  });

  it('answers a revision there is not yet, or never was, like a stale one, changing nothing', async () => {
    const project = await server.newProject();
    for (const revision of [2, 7, 0]) {
      const answer = await server.change(project.id, revision, 'a', rename('Ahead'));
      expect(answer.status, String(revision)).to.be.within(400, 409);
    }
    const stored = (await server.call('GET', `/api/projects/${project.id}`)).body;
    expect([stored.revision, stored.document.name]).to.deep.equal([1, project.document.name]);
    expect((await server.call('GET', `/api/projects/${project.id}/history`)).body.length).to.be.at.most(1);
  });

  it('refuses a patch whose result is no document, or that does not apply, and keeps the last good state', async () => {
    const project = await server.newProject();
    for (const patch of [
      [{ op: 'remove', path: '/shots' }],
      [{ op: 'replace', path: '/nothing/here', value: 1 }],
      [{ op: 'add', path: '/pieces/-', value: { id: 'x' } }],
    ]) {
      const answer = await server.change(project.id, 1, 'x', patch);
      expect(answer.status).to.equal(422);
      expect(answer.body.message).to.contain('taken back');
    }
    expect((await server.call('GET', `/api/projects/${project.id}`)).body.revision).to.equal(1);
  });

  it('opens a project written by version 1 of the format, and stores changes of it in the present one', async () => {
    const project = await server.newProject();
    const old = JSON.parse(
      (server.db.prepare('SELECT document FROM projects WHERE id = ?').get(project.id) as { document: string })
        .document,
    );
    old.version = 1;
    old.pictures = [
      {
        id: 'pic',
        name: 'Quay',
        original: 'a'.repeat(64),
        file: 'b'.repeat(64),
        width: 40,
        height: 30,
        background: { file: 'c'.repeat(64), seed: 4 },
      },
    ];
    old.pieces = [
      {
        id: 'piece',
        picture: 'pic',
        name: 'Float',
        recipe: { answer: 'subject', keep: [], drop: [], box: null },
        cutout: null,
      },
    ];
    server.db.prepare('UPDATE projects SET document = ? WHERE id = ?').run(JSON.stringify(old), project.id);
    const opened = (await server.call('GET', `/api/projects/${project.id}`)).body;
    expect(opened.document.version).to.equal(documentVersion);
    expect(opened.document.pictures[0].background.steps[0]).to.include({ kind: 'behind', seed: 4 });
    const answer = await server.change(project.id, 1, 'Rename', rename('New'));
    expect(answer.status).to.equal(200);
    const kept = server.db.prepare('SELECT document FROM projects WHERE id = ?').get(project.id) as {
      document: string;
    };
    expect(JSON.parse(kept.document)).to.include({ version: documentVersion, name: 'New' });
  });

  it('duplicates, deletes and restores', async () => {
    const project = await server.newProject();
    const copy = (await server.call('POST', `/api/projects/${project.id}/duplicate`)).body;
    expect(copy.document.name).to.equal('Lantern Week copy');
    await server.call('DELETE', `/api/projects/${project.id}`);
    expect((await server.call('GET', `/api/projects/${project.id}`)).status).to.equal(404);
    expect((await server.call('POST', `/api/projects/${project.id}/restore`)).body.document.name).to.equal(
      'Lantern Week',
    );
  });

  it('takes pictures of all kinds in upright and in sRGB, and keeps the original byte for byte', async () => {
    const pixels = sharp({ create: { width: 60, height: 40, channels: 3, background: '#c86432' } });
    const kinds = ['jpeg', 'png', 'webp', 'avif', 'gif', 'tiff'] as const;
    for (const kind of kinds) {
      const bytes = await pixels.clone().toFormat(kind).toBuffer();
      const { status, body } = await server.upload(bytes, `quay_${kind}.${kind}`);
      expect([status, body.width, body.height, body.name]).to.deep.equal([201, 60, 40, `quay ${kind}`]);
      const original = Buffer.from(await (await fetch(`${server.base}/api/files/${body.original}`)).arrayBuffer());
      expect(original.equals(bytes)).to.equal(true);
    }
    const turned = await pixels.clone().jpeg().withMetadata({ orientation: 6 }).toBuffer();
    expect((await server.upload(turned, 'turned.jpg')).body).to.include({ width: 40, height: 60 });
  });

  it('keeps alpha, and turns a wide-gamut picture into sRGB', async () => {
    const clear = await sharp({
      create: { width: 20, height: 20, channels: 4, background: { r: 10, g: 200, b: 30, alpha: 0.5 } },
    })
      .png()
      .toBuffer();
    const kept = (await server.upload(clear, 'a.png')).body;
    const file = Buffer.from(await (await fetch(`${server.base}/api/files/${kept.file}`)).arrayBuffer());
    expect((await sharp(file).raw().toBuffer())[3]).to.be.closeTo(128, 1);
    const wide = await sharp({ create: { width: 20, height: 20, channels: 3, background: '#20c040' } })
      .withIccProfile('p3')
      .png()
      .toBuffer();
    const plain = (await server.upload(wide, 'wide.png')).body;
    expect(plain.file).to.not.equal(plain.original);
  });

  it('tells in a sentence what is wrong with a file, and stores nothing of it', async () => {
    const good = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#888' } })
      .jpeg()
      .toBuffer();
    const huge = await sharp({
      create: { width: 9000, height: 7000, channels: 3, background: '#888' },
      limitInputPixels: false,
    })
      .png({ compressionLevel: 1 })
      .toBuffer();
    const before = await server.storedFiles();
    const cases: [Uint8Array, string, number, string][] = [
      [Buffer.from('this is not a picture at all'), 'notes.txt', 415, '"notes.txt" is not a picture'],
      [good.subarray(0, good.length >> 1), 'half.jpg', 422, '"half.jpg" is damaged or was cut short'],
      [huge, 'huge.png', 413, '"huge.png" has 63 megapixels'],
      [new Uint8Array(81 * 1024 * 1024), 'heavy.tif', 413, '"heavy.tif" is larger than 80 MB'],
      [new Uint8Array(0), 'empty.png', 400, '"empty.png" is empty'],
    ];
    for (const [bytes, name, status, sentence] of cases) {
      const answer = await server.upload(bytes, name);
      expect(answer.status).to.equal(status);
      expect(answer.body.message).to.contain(sentence);
    }
    expect(await server.storedFiles()).to.equal(before);
  });

  it('keeps clips byte for byte, gives out parts of them, and refuses what is none', async () => {
    const clip = Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from('ftypisom'), Buffer.alloc(400, 7)]);
    const type = { 'Content-Type': 'application/octet-stream' };
    const { status, body } = await server.call('POST', '/api/clips', clip, type);
    expect(status).to.equal(201);
    const whole = await fetch(`${server.base}/api/files/${body.hash}`);
    expect(whole.headers.get('content-type')).to.equal('video/mp4');
    expect(Buffer.from(await whole.arrayBuffer())).to.deep.equal(clip);
    const part = await fetch(`${server.base}/api/files/${body.hash}`, { headers: { Range: 'bytes=4-7' } });
    expect([part.status, await part.text()]).to.deep.equal([206, 'ftyp']);
    const refused = await server.call('POST', '/api/clips', Buffer.from('high water at 7:40'), type);
    expect(refused.status).to.equal(415);
    expect(refused.body.message).to.contain('not a clip');
  });

  it('answers only to this machine and to its own pages', async () => {
    const { request } = await import('node:http');
    const status = (headers: Record<string, string>): Promise<number> =>
      new Promise((resolve, reject) => {
        const { port } = server.server.address() as AddressInfo;
        request({ host: '127.0.0.1', port, path: '/api/projects', headers }, (r) => resolve(r.resume().statusCode!))
          .on('error', reject)
          .end();
      });
    const own = server.base.slice('http://'.length);
    expect(await status({ host: own })).to.equal(200);
    expect(await status({ host: 'wendle-quay.example' })).to.equal(403);
    expect(await status({ host: own, origin: 'http://wendle-quay.example' })).to.equal(403);
    expect(await status({ host: own, origin: server.base })).to.equal(200);
    const policy = (await fetch(`${server.base}/api/health`)).headers.get('content-security-policy')!;
    expect(policy).to.contain("script-src 'self' 'wasm-unsafe-eval';").and.not.contain("'unsafe-eval'");
  });

  it('keeps exports with their facts and gives them out as downloads', async () => {
    const project = await server.newProject();
    const query = 'name=Lantern%20Week&format=gif&width=10&height=10&frames=3&rate=12';
    const made = await server.call('POST', `/api/projects/${project.id}/outputs?${query}`, Buffer.from('GIF89a'), {
      'Content-Type': 'application/octet-stream',
    });
    expect(made.body).to.include({ format: 'gif', bytes: 6, frames: 3 });
    const got = await fetch(`${server.base}/api/outputs/${made.body.id}/download`);
    expect(got.headers.get('content-disposition')).to.contain('Lantern Week.gif');
    expect(await got.text()).to.equal('GIF89a');
    await server.call('DELETE', `/api/outputs/${made.body.id}`);
    expect((await server.call('GET', `/api/projects/${project.id}/outputs`)).body).to.deep.equal([]);
  });

  it('sweeps files nothing names, and leaves those a document names', async () => {
    const project = await server.newProject();
    const bytes = await sharp({ create: { width: 31, height: 17, channels: 3, background: '#123456' } })
      .png()
      .toBuffer();
    const named = (await server.upload(bytes, 'kept.png')).body;
    const picture = { ...named, id: 'p', clip: null, background: null };
    await server.change(project.id, 1, 'x', [{ op: 'add', path: '/pictures/-', value: picture }]);
    const loose = (await server.upload(await sharp(bytes).negate().png().toBuffer(), 'loose.png')).body;
    const files = new FileStore(server.db, server.folder);
    const twoDays = Date.now() + 2 * 86_400_000;
    await sweep(server.db, files, twoDays);
    expect((await fetch(`${server.base}/api/files/${named.file}`)).status).to.equal(200);
    expect((await fetch(`${server.base}/api/files/${loose.file}`)).status).to.equal(404);
  });

  it('keeps named sets of finishes for all projects, and refuses what is none', async () => {
    const settings = storedFrom(finishKind('invert')!.settings, { amount: 0.4 });
    const finish = { id: 'f', kind: 'invert', muted: false, settings };
    const path = '/api/finish-sets/Evening%20light';
    expect((await server.call('PUT', path, [finish])).status).to.equal(204);
    expect((await server.call('PUT', path, [finish, { ...finish, id: 'g' }])).status).to.equal(204);
    const kept = (await server.call('GET', '/api/finish-sets')).body;
    expect(kept).to.deep.equal([{ name: 'Evening light', finishes: [finish, { ...finish, id: 'g' }] }]);
    expect((await server.call('PUT', path, [{ ...finish, kind: 'nothing' }])).status).to.equal(400);
    await server.call('DELETE', path);
    expect((await server.call('GET', '/api/finish-sets')).body).to.deep.equal([]);
  });

  it('refuses a database of a newer version instead of damaging it', async () => {
    const other = await mkdtemp(join(tmpdir(), 'clyvo-'));
    const newer = openDatabase(other);
    newer.pragma('user_version = 99');
    newer.close();
    expect(() => openDatabase(other)).to.throw('newer Clyvo');
    await rm(other, { recursive: true });
  });
});
