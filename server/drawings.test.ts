import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { useServer, type Answer } from './test-server.ts';

const svg = (body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="60" height="40"><rect width="60" height="40" fill="#44648a"/>${body}</svg>`;

describe('drawings brought in', () => {
  const server = useServer();
  const bring = (text: string, name = 'float.svg'): Promise<Answer> =>
    server.call('POST', '/api/drawings', new TextEncoder().encode(text), {
      'Content-Type': 'application/octet-stream',
      'X-File-Name': encodeURIComponent(name),
    });

  it('are kept as what was understood of them, under their name, with what is left out', async () => {
    const { status, body } = await bring(svg('<text>Quay</text><circle cx="30" cy="20" r="8" fill="#d99a00"/>'));
    expect(status).to.equal(201);
    expect(body.name).to.equal('float');
    [body.box.x, body.box.y, body.box.width - 60, body.box.height - 40].forEach((v) =>
      expect(v).to.be.closeTo(0, 1e-6),
    );
    expect(body.left).to.deep.equal(['words (turn them into paths first)']);
    const stored = await server.call('GET', `/api/files/${body.file}`);
    const { data } = await sharp(Buffer.from(stored.body)).raw().toBuffer({ resolveWithObject: true });
    expect([...data.subarray(0, 3)]).to.deep.equal([68, 100, 138]);
    const middle = (20 * 60 + 30) * 4;
    expect([...data.subarray(middle, middle + 3)]).to.deep.equal([217, 154, 0]);
  });

  it('nothing of them runs or opens as a page', async () => {
    const { body } = await bring(svg('<script>alert(1)</script><rect width="9" height="9" onclick="alert(1)"/>'));
    const stored = await server.call('GET', `/api/files/${body.file}`);
    expect(stored.body).to.not.match(/alert|script|onclick/);
    expect(stored.headers.get('content-type')).to.contain('text/plain');
    expect(stored.headers.get('x-content-type-options')).to.equal('nosniff');
  });

  it('what cannot be taken in is refused by name, and leaves nothing behind', async () => {
    const before = await readdir(join(server.folder, 'files'));
    for (const [text, status, says] of [
      ['', 400, 'empty'],
      ['hello', 415, '"knot.svg"'],
      [`<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>${svg('&x;')}`, 415, 'entities'],
      [svg(' '.repeat(9_000_000)), 413, 'knot.svg'],
    ] as const) {
      const answer = await bring(text, 'knot.svg');
      expect(answer.status, says).to.equal(status);
      expect(answer.body.message).to.contain(says);
    }
    expect(await readdir(join(server.folder, 'files'))).to.deep.equal(before);
  });
});
