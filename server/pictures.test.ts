import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { pngIn, inSrgb, spaces } from './test-profiles.ts';
import { oddFiles } from './test-corpus.ts';
import { useServer } from './test-server.ts';

describe('pictures brought in', () => {
  const server = useServer();
  const working = async (hash: string): Promise<Buffer> =>
    Buffer.from(await (await fetch(`${server.base}/api/files/${hash}`)).arrayBuffer());

  it('good, odd and bad ones in their hundred and more get the answer each of them should have', async () => {
    const files = await oddFiles();
    expect(files.length).to.be.at.least(120);
    const wrong: string[] = [];
    for (const { name, bytes, wanted } of files) {
      const { status, body } = await server.upload(bytes, name);
      const got = `${name}: ${status} ${body.notice ?? body.message ?? 'taken'}`;
      if (typeof wanted === 'object') {
        if (status !== wanted.status || !String(body.message).includes(wanted.says)) wrong.push(got);
        if (status < 500 && bytes.length > 0 && !String(body.message).includes(`"${name.normalize('NFC')}"`))
          wrong.push(`unnamed ${got}`);
        continue;
      }
      if (status !== 201 || (wanted === 'noticed') !== (body.notice !== null)) wrong.push(got);
      else if (body.name.length > 200 || !body.name.isWellFormed()) wrong.push(`name ${got}`);
      // What was taken in can be shown, in small as in large.
      const small = await fetch(`${server.base}/api/files/${body.file}?width=64`);
      const large = await sharp(await working(body.file), { failOn: 'warning' })
        .raw()
        .toBuffer({ resolveWithObject: true });
      if (small.status !== 200) wrong.push(`small ${got}`);
      if (large.info.width !== body.width || large.info.height !== body.height) wrong.push(`size ${got}`);
    }
    expect(wrong).to.deep.equal([]);
    const left = await readdir(join(server.folder, 'files'));
    expect(left.filter((name) => name.endsWith('.part'))).to.deep.equal([]);
  });

  it('have the colours their profile says, within 3 of 255 of its matrices, in 8 bits and in 16', async () => {
    // Levels that 8 bits hold exactly.
    const levels = [20, 77, 128, 158, 217, 255].map((v) => v / 255);
    const all = levels.flatMap((a) => levels.flatMap((b) => levels.map((c) => [a, b, c])));
    for (const space of spaces) {
      const shown = all.filter((colour) => inSrgb(space, colour).every((v) => v >= 0 && v <= 255.5));
      expect(shown.length).to.be.greaterThan(15);
      for (const bits of [8, 16] as const) {
        const { body } = await server.upload(pngIn(space, shown, bits), `${space.name} ${bits}.png`);
        const { data } = await sharp(await working(body.file))
          .raw()
          .toBuffer({ resolveWithObject: true });
        shown.forEach((colour, k) =>
          inSrgb(space, colour).forEach((v, c) =>
            expect(data[k * 3 + c], `${space.name} ${bits} bits, ${colour}`).to.be.closeTo(v, 3),
          ),
        );
      }
    }
  });

  it('four large ones at once stay within a gigabyte, and small ones are answered meanwhile', async () => {
    const side = { width: 8600, height: 6900, channels: 3 as const, background: '#446' };
    const large = await sharp({ create: side, limitInputPixels: false })
      .jpeg({ quality: 60 })
      .withMetadata({ orientation: 6 })
      .toBuffer();
    const small = await sharp({ create: { ...side, width: 40, height: 30 } })
      .png()
      .toBuffer();
    // Other tests ran in this process before: what counts is what the uploads add.
    const before = process.memoryUsage().rss;
    let most = 0;
    const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 20);
    const uploads = [1, 2, 3, 4].map((k) => server.upload(large, `large ${k}.jpg`));
    const begun = performance.now();
    const health = await server.call('GET', '/api/health');
    const waited = performance.now() - begun;
    expect((await Promise.all(uploads)).map(({ status }) => status)).to.deep.equal([201, 201, 201, 201]);
    clearInterval(watch);
    expect([health.status, (await server.upload(small, 'small.png')).status]).to.deep.equal([200, 201]);
    expect(waited).to.be.lessThan(20_000);
    expect(most - before).to.be.lessThan(0.85e9);
  });

  it('too large ones and clips are refused by their own limit, under their own name', async () => {
    const heavy = await server.upload(new Uint8Array(81 * 1024 * 1024), 'heavy.tif');
    expect([heavy.status, heavy.body.message]).to.deep.equal([
      413,
      '"heavy.tif" is larger than 80 MB. Make it smaller and try again.',
    ]);
    const head = Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from('ftypisom')]);
    const clip = Buffer.concat([head, Buffer.alloc(401 * 1024 * 1024)]);
    const refused = await server.uploadClip(clip, 'tide.mp4');
    expect([refused.status, refused.body.message]).to.deep.equal([
      413,
      '"tide.mp4" is larger than 400 MB. Make it smaller and try again.',
    ]);
    expect((await server.uploadClip(clip.subarray(0, 100 * 1024 * 1024), 'tide.mp4')).status).to.equal(201);
    const none = await server.uploadClip(Buffer.from('high water at 7:40'), 'table.webm');
    expect(none.body.message).to.contain('"table.webm" is not a clip');
  });
});
