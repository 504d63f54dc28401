import { expect } from 'chai';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { emptyDocument, type Document } from '../../core/scene/document.ts';
import { renameProject, setShotLength } from '../../core/scene/project-edits.ts';
import type { useProject as UseProject, flush as Flush } from './project.ts';

/** A server of one project in memory, answering the way the real one does. */
class FakeServer {
  document: Document = emptyDocument('Lantern Week', { width: 1920, height: 1080, rate: 30 }, 6, 'shot');
  revision = 1;
  patches: { name: string; patch: Operation[] }[] = [];
  /** Answers of the next requests, instead of doing them. */
  failures: ('unreachable' | 'stale' | 'refused')[] = [];

  readonly fetch = async (path: string | URL | Request, init: RequestInit = {}): Promise<Response> => {
    const json = (status: number, body: unknown) =>
      new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
    const project = { id: 'p1', revision: this.revision, updated: '', document: this.document };
    if (String(path) !== '/api/projects/p1') return json(404, { message: 'There is nothing at this address.' });
    if (init.method !== 'PATCH') return json(200, project);
    const failure = this.failures.shift();
    if (failure === 'unreachable') throw new TypeError('fetch failed');
    if (failure === 'stale') return json(409, { message: 'This project was changed in another window.', project });
    if (failure === 'refused') return json(422, { message: 'This change could not be stored.' });
    const { revision, name, patch } = JSON.parse(String(init.body)) as {
      revision: number;
      name: string;
      patch: Operation[];
    };
    expect(revision).to.equal(this.revision);
    this.document = jsonPatch.applyPatch(structuredClone(this.document), patch).newDocument;
    this.revision++;
    this.patches.push({ name, patch });
    return json(200, { revision: this.revision });
  };
}

describe('the open project', () => {
  let server: FakeServer;
  let useProject: typeof UseProject;
  let flush: typeof Flush;
  const before_ = { fetch: globalThis.fetch };

  before(async () => {
    (globalThis as { window?: unknown }).window = { addEventListener: () => undefined };
    ({ useProject, flush } = await import('./project.ts'));
  });
  after(() => {
    delete (globalThis as { window?: unknown }).window;
    globalThis.fetch = before_.fetch;
  });
  beforeEach(async () => {
    server = new FakeServer();
    globalThis.fetch = server.fetch as typeof fetch;
    useProject.getState().close();
    await useProject.getState().open('p1');
  });

  const name = (): string => useProject.getState().document!.name;
  const dispatch = (edit: Parameters<ReturnType<typeof useProject.getState>['dispatch']>[0], gesture?: string): void =>
    useProject.getState().dispatch(edit, gesture);

  it('sends an edit as a patch with its name, and says when it is saved', async () => {
    dispatch(renameProject('Harbour Trust'));
    expect(useProject.getState().saved).to.equal('saving');
    await flush();
    expect(server.document.name).to.equal('Harbour Trust');
    expect(server.patches).to.deep.equal([
      { name: 'Rename project', patch: [{ op: 'replace', path: '/name', value: 'Harbour Trust' }] },
    ]);
    expect(useProject.getState().saved).to.equal('saved');
  });

  it('edits of one gesture are one undo step and travel together', async () => {
    for (let k = 100; k < 130; k++) dispatch(setShotLength('shot', k), 'drag 1');
    expect(useProject.getState().past).to.have.length(1);
    await flush();
    expect(server.patches).to.have.length(1);
    useProject.getState().undo();
    expect(useProject.getState().document!.shots[0]!.length).to.equal(180);
    await flush();
    expect(server.document.shots[0]!.length).to.equal(180);
    expect(server.patches.at(-1)!.name).to.equal('Undo: Change length');
  });

  it('redo brings back what undo took, until something else is done', () => {
    dispatch(renameProject('One'));
    dispatch(renameProject('Two'));
    useProject.getState().undo();
    expect(name()).to.equal('One');
    useProject.getState().redo();
    expect(name()).to.equal('Two');
    useProject.getState().undo();
    dispatch(renameProject('Three'));
    useProject.getState().redo();
    expect(name()).to.equal('Three');
  });

  it('an edit that changes nothing makes no step and no request', async () => {
    dispatch(renameProject('Lantern Week'));
    await flush();
    expect(useProject.getState().past).to.have.length(0);
    expect(server.patches).to.have.length(0);
  });

  it('keeps trying while the server cannot be reached, losing nothing', async () => {
    server.failures = ['unreachable'];
    dispatch(renameProject('Kept'));
    await flush();
    expect(server.document.name).to.equal('Kept');
    expect(useProject.getState().saved).to.equal('saved');
  });

  it('takes the newest state when another window was first', async () => {
    server.document = { ...server.document, name: 'From the other window' };
    server.revision = 7;
    server.failures = ['stale'];
    dispatch(renameProject('Too late'));
    await flush();
    expect(name()).to.equal('From the other window');
    dispatch(renameProject('Now in time'));
    await flush();
    expect(server.document.name).to.equal('Now in time');
  });

  it('takes a refused change back to the last state the server has', async () => {
    dispatch(renameProject('Good'));
    await flush();
    server.failures = ['refused'];
    dispatch(renameProject('Refused'));
    await flush();
    expect(name()).to.equal('Good');
  });
});
