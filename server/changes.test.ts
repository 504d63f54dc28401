import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import { documentVersion } from '../core/document/document.ts';
import { rename, useServer, type Answer } from './test-server.ts';

describe('changes of a project', () => {
  const server = useServer();
  const get = async (id: string, query = ''): Promise<Answer['body']> =>
    (await server.call('GET', `/api/projects/${id}${query}`)).body;

  it('sent a second time are answered as done, and done once', async () => {
    const { id } = await server.newProject();
    const change = randomUUID();
    const marker = [{ op: 'add', path: '/shots/0/markers/-', value: { frame: 3, name: 'Flood' } }];
    const first = await server.change(id, 1, 'Marker', marker, change);
    await server.change(id, 2, 'Rename', rename('Later'));
    const again = await server.change(id, 1, 'Marker', marker, change);
    expect([first.status, again.status]).to.deep.equal([200, 200]);
    expect([first.body.revision, first.body.newest]).to.deep.equal([2, 2]);
    expect([again.body.revision, again.body.newest]).to.deep.equal([2, 3]);
    const stored = await get(id);
    expect([stored.document.shots[0].markers.length, stored.revision]).to.deep.equal([1, 3]);
  });

  it('are named from a revision on, also in the answer to a stale one', async () => {
    const { id } = await server.newProject();
    const changes = [randomUUID(), randomUUID(), randomUUID()];
    for (const [k, change] of changes.entries()) await server.change(id, k + 1, 'x', rename(`n${k}`), change);
    expect((await get(id, '?since=2')).changes).to.deep.equal(changes.slice(1));
    expect((await get(id)).changes).to.deep.equal([]);
    const stale = await server.change(id, 2, 'x', rename('stale'));
    expect([stale.status, stale.body.changes]).to.deep.equal([409, changes.slice(1)]);
  });

  it('are told with their way back, newest first and up to a revision', async () => {
    const { id } = await server.newProject();
    const path = `/api/projects/${id}`;
    const origins = [
      { gesture: 'typing', travel: null },
      { gesture: null, travel: null },
      { gesture: null, travel: 'undo' },
    ];
    await server.change(id, 1, 'Step -1', rename('n-1'));
    for (const [k, origin] of origins.entries()) {
      const body = { change: randomUUID(), revision: k + 2, name: `Step ${k}`, patch: rename(`n${k}`), origin };
      expect((await server.call('PATCH', path, body)).status).to.equal(200);
    }
    const back = (name: string) => [{ kind: 'set', path: ['name'], value: name }];
    const told = origins.map((one, k) => ({ revision: k + 3, name: `Step ${k}`, ...one, back: back(`n${k - 1}`) }));
    expect((await get(id, '/steps?until=5')).slice(0, 3)).to.deep.equal(told.reverse());
    expect((await get(id, '/steps?until=4')).slice(0, 2)).to.deep.equal(told.slice(1));
    expect(await get(id, '/steps?until=1')).to.deep.equal([]);
    const bad = { change: randomUUID(), revision: 5, name: 'x', patch: rename('x'), origin: { travel: 'back' } };
    expect((await server.call('PATCH', path, bad)).status).to.equal(400);
    expect((await server.call('GET', `${path}/steps?until=soon`)).status).to.equal(400);
  });

  it('and the coming and going of projects are told to whoever listens', async () => {
    const controller = new AbortController();
    const response = await fetch(`${server.base}/api/news`, { signal: controller.signal });
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    let heard = '';
    const hears = async (text: string): Promise<void> => {
      while (!heard.includes(text)) heard += (await reader.read()).value ?? expect.fail('the stream ended');
    };
    await hears('"kind":"demo"');
    const { id } = await server.newProject();
    await hears('"kind":"shelf"');
    const change = randomUUID();
    await server.change(id, 1, 'x', rename('Told'), change);
    await hears(JSON.stringify({ kind: 'project', project: id, revision: 2, change }));
    controller.abort();
  });

  it('of the client that make no sense are refused with a sentence and a status of 4xx, and change nothing', async () => {
    const { id } = await server.newProject();
    const path = `/api/projects/${id}`;
    const json = { 'Content-Type': 'application/json' };
    const good = { change: randomUUID(), revision: 1, name: 'x', patch: rename('X') };
    const deep = `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`;
    const patch = (operation: unknown) => ({ ...good, change: randomUUID(), patch: [operation] });
    const bodies: [string, string | object, Record<string, string>?][] = [
      ['no JSON', '{"revision":', json],
      ['nothing', '', json],
      ['null', 'null', json],
      ['a list', '[1,2]', json],
      ['no id', { ...good, change: undefined }],
      ['an id that is none', { ...good, change: 'x' }],
      ['a revision of 0', { ...good, revision: 0 }],
      ['half a revision', { ...good, revision: 1.5 }],
      ['a revision in words', { ...good, revision: 'one' }],
      ['an empty name', { ...good, name: '' }],
      ['an endless name', { ...good, name: 'x'.repeat(5000) }],
      ['no steps', { ...good, patch: [] }],
      ['an unknown operation', patch({ op: 'swap', path: '/name' })],
      ['a path that is none', patch({ op: 'replace', path: 'name', value: 'x' })],
      ['an endless path', patch({ op: 'remove', path: `/${'a'.repeat(500)}` })],
      ['a test that fails', patch({ op: 'test', path: '/name', value: 'other' })],
      ['a place beyond a list', patch({ op: 'remove', path: '/shots/7' })],
      ['a move into itself', patch({ op: 'move', from: '/shots', path: '/shots/0/layers' })],
      ['a prototype', patch({ op: 'add', path: '/__proto__/polluted', value: true })],
      ['a constructor', patch({ op: 'add', path: '/constructor/prototype/polluted', value: true })],
      ['another packing', 'x', { ...json, 'Content-Encoding': 'compress' }],
      ['another charset', 'x', { 'Content-Type': 'application/json; charset=utf-7' }],
      ['nesting without end', `{"change":"${randomUUID()}","revision":1,"name":"x","patch":[${deep}]}`, json],
    ];
    for (const [what, body, headers] of bodies) {
      const answer = await server.call('PATCH', path, body, headers ?? {});
      expect(answer.status, what).to.be.within(400, 499);
      expect(answer.body.message, what).to.match(/^[A-Z].*\.$/);
      expect(answer.headers.get('cache-control'), what).to.equal('no-store');
    }
    expect(({} as Record<string, unknown>).polluted).to.equal(undefined);
    expect((await get(id)).revision).to.equal(1);
  });

  it('cannot blow a project up by copies of copies', async () => {
    const { id } = await server.newProject();
    const doubling = Array.from({ length: 40 }, (_, k) => ({
      op: 'copy',
      from: '/shots',
      path: `/shots/0/${'x'.repeat(k + 1)}`,
    }));
    const before = process.memoryUsage().rss;
    const answer = await server.change(id, 1, 'Bomb', doubling);
    expect(answer.status).to.equal(413);
    expect(answer.body.message).to.contain('larger than 32 MB');
    expect(process.memoryUsage().rss - before).to.be.lessThan(600e6);
    expect((await get(id)).revision).to.equal(1);
  });

  it('addresses that are none, and malformed ones, are 404 and 400 as a sentence', async () => {
    const wanted: [string, number][] = [
      ['/api/nothing', 404],
      ['/api/projects/none', 404],
      ['/api/projects/%E0%A4%A', 400],
      ['/api/files/short', 400],
      [`/api/files/${'0'.repeat(64)}`, 404],
      [`/api/files/${'0'.repeat(64)}?width=9e9`, 404],
      ['/api/outputs/none/download', 404],
    ];
    for (const [path, status] of wanted) {
      const answer = await server.call('GET', path);
      expect([path, answer.status]).to.deep.equal([path, status]);
      expect(answer.body.message, path).to.match(/\.$/);
    }
    const { base } = server;
    const name = await fetch(`${base}/api/pictures`, { method: 'POST', headers: { 'X-File-Name': '%ff%' }, body: 'x' });
    expect([name.status, ((await name.json()) as { message: string }).message]).to.deep.equal([
      400,
      'The name of this file cannot be read. Rename it and try again.',
    ]);
  });
});

describe('a project that cannot be read', () => {
  const server = useServer();
  const damage = (id: string, text: string): void =>
    void server.db.prepare('UPDATE projects SET document = ? WHERE id = ?').run(text, id);
  const listed = async (): Promise<Answer['body'][]> => (await server.call('GET', '/api/projects')).body;

  it('is shown by its name among the others, with its data to save', async () => {
    const good = await server.newProject('Readable');
    const names = ['Damaged 0', 'Newer', 'Damaged 2'];
    for (const [k, text] of [
      '{"version":4,"name":"Damaged 0',
      '{"version":99,"name":"Newer","shots":[]}',
      '',
    ].entries()) {
      const { id } = await server.newProject(`Damaged ${k}`);
      await server.change(id, 1, 'x', rename(`Damaged ${k} b`));
      damage(id, text);
      const item = (await listed()).find((project) => project.id === id);
      expect(item.name).to.equal(names[k]);
      expect(item.unreadable).to.contain('cannot be opened');
      expect((await server.call('GET', `/api/projects/${id}`)).status).to.equal(422);
      const data = await fetch(`${server.base}/api/projects/${id}/data`);
      expect([await data.text(), data.headers.get('content-disposition')]).to.deep.equal([
        text,
        names[k] === 'Newer' ? 'attachment; filename=Newer.json' : `attachment; filename="${names[k]}.json"`,
      ]);
    }
    expect((await listed()).some((project) => project.id === good.id && project.document)).to.equal(true);
  });

  it('is opened again as it was after the last step that can be read, as a project of its own', async () => {
    const { id } = await server.newProject('Long work');
    for (let k = 1; k <= 130; k++) await server.change(id, k, `Step ${k}`, rename(`Work ${k}`));
    damage(id, 'nothing of it left');
    const recovered = await server.call('POST', `/api/projects/${id}/recover`);
    expect([recovered.status, recovered.body.document.name]).to.deep.equal([201, 'Work 130 recovered']);
    expect(recovered.body.document.version).to.equal(documentVersion);
    expect((await server.call('GET', `/api/projects/${recovered.body.id}`)).status).to.equal(200);
    // Snapshots are few, however many steps there were.
    const kept = server.db.prepare('SELECT COUNT(*) FROM snapshots WHERE project = ?').pluck().get(id);
    expect(kept).to.be.within(1, 4);
    // With the newest snapshot damaged too, the one before it and the steps after that lead as far.
    server.db
      .prepare(
        'UPDATE snapshots SET document = ? WHERE project = ? AND revision = (SELECT MAX(revision) FROM snapshots)',
      )
      .run('{', id);
    expect((await server.call('POST', `/api/projects/${id}/recover`)).body.document.name).to.equal(
      'Work 130 recovered',
    );
    // A damaged step ends it before that step.
    server.db.prepare('UPDATE history SET patch = ? WHERE project = ? AND revision = 120').run('[', id);
    expect((await server.call('POST', `/api/projects/${id}/recover`)).body.document.name).to.equal(
      'Work 118 recovered',
    );
    server.db.prepare('UPDATE snapshots SET document = ? WHERE project = ?').run('{', id);
    const lost = await server.call('POST', `/api/projects/${id}/recover`);
    expect([lost.status, lost.body.message]).to.deep.equal([
      422,
      'No earlier state of this project can be read either. Save its data before you delete it.',
    ]);
  });

  it('is not made in the first place: what is created is checked', async () => {
    const frame = { width: 1920, height: 1080, rate: 60 };
    const answer = await server.call('POST', '/api/projects', { name: 'Long', frame, seconds: 61 });
    expect([answer.status, answer.body.message]).to.deep.equal([
      422,
      'A project cannot be made like this; a shot has at most 3,600 frames.',
    ]);
    expect((await listed()).some((project) => project.name === 'Long')).to.equal(false);
  });

  it('copies keep a name that can be stored, however long the first one was', async () => {
    const { id } = await server.newProject('灯'.repeat(200));
    const copy = await server.call('POST', `/api/projects/${id}/duplicate`);
    expect([copy.status, copy.body.document.name]).to.deep.equal([201, `${'灯'.repeat(195)} copy`]);
  });
});
