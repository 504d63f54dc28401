import { expect } from 'chai';
import sharp from 'sharp';
import { useServer } from './test-server.ts';

describe('what fills the disk', () => {
  const server = useServer();
  const stored = async (shade: number) => {
    const raw = { create: { width: 50, height: 40, channels: 3 as const, background: { r: shade, g: 40, b: 60 } } };
    const bytes = await sharp(raw).png().toBuffer();
    return { bytes: bytes.length, ...(await server.upload(bytes, 'quay.png')).body };
  };
  const picture = (id: string, { original, file, width, height }: { [key: string]: unknown }) => [
    {
      op: 'add',
      path: '/pictures/-',
      value: { id, name: id, original, file, width, height, clip: null, background: null },
    },
  ];
  const usage = async () => (await server.call('GET', '/api/disk/usage')).body;

  it('is counted by what it is there for, once where several need it, and cleared where nothing does', async () => {
    const [one, two, old] = [await stored(10), await stored(90), await stored(200)];
    const [a, b] = [await server.newProject('A'), await server.newProject('B')];
    await server.change(a.id, 1, 'x', picture('one', one));
    await server.change(b.id, 1, 'x', picture('one', one));
    await server.change(b.id, 2, 'x', picture('two', two));
    // A picture that was removed again is only in what was before.
    await server.change(b.id, 3, 'x', picture('old', old));
    await server.change(b.id, 4, 'x', [{ op: 'remove', path: '/pictures/2' }]);
    const clip = Buffer.from('GIF89a and so on');
    const query = 'name=A&format=gif&width=320&height=180&frames=30&rate=15';
    const made = await server.call('POST', `/api/projects/${a.id}/outputs?${query}`, clip, {
      'Content-Type': 'application/octet-stream',
    });
    const all = await usage();
    expect(all).to.include({ files: one.bytes + two.bytes, exports: clip.length, earlier: old.bytes, clearable: 0 });
    const disk = (await server.call('GET', '/api/disk')).body;
    expect(disk.taken).to.equal(one.bytes + two.bytes + old.bytes + clip.length);
    expect(disk.free).to.be.greaterThan(0);
    expect(all.projects).to.deep.equal([
      { id: b.id, name: 'B', files: one.bytes + two.bytes, exports: 0 },
      { id: a.id, name: 'A', files: one.bytes, exports: clip.length },
    ]);

    await server.call('DELETE', `/api/outputs/${made.body.id}`);
    await server.call('DELETE', `/api/projects/${b.id}`);
    // What came in within the last hour may still be named.
    server.db.prepare('UPDATE files SET created = ?').run('2020-01-01T00:00:00.000Z');
    const left = await usage();
    expect(left).to.include({ files: one.bytes, exports: 0, earlier: 0 });
    expect(left.clearable).to.equal(two.bytes + old.bytes + clip.length);
    expect((await server.call('POST', '/api/clear')).body.freed).to.equal(left.clearable);
    expect(await usage()).to.include({ files: one.bytes, clearable: 0 });
  });
});
