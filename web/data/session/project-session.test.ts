import { expect } from 'chai';
import { seededRandom } from '../../../core/pixels/random.ts';
import { setFraming } from '../../../core/edits/camera-edits.ts';
import { addLayer } from '../../../core/edits/arrange-edits.ts';
import { defineEdit, type Edit } from '../../../core/edits/edit.ts';
import { removeLayer, renameLayer, setLocked } from '../../../core/edits/layer-edits.ts';
import { renameProject, setShotLength } from '../../../core/edits/project-edits.ts';
import { restFraming } from '../../../core/document/shot.ts';
import { agreed, FakeOutbox, FakeServer, openTab, type Fault, type Tab } from './test-world.ts';

const carrier = (id: string): Edit => addLayer('shot', { id, name: id, depth: 3 }, { source: { kind: 'carrier' } });
const addMarker = defineEdit('Add marker', (draft, frame: number) => {
  draft.shots[0]!.markers.push({ frame, name: 'High water' });
});
const layersOf = (tab: Tab): string[] => tab.now.document!.shots[0]!.layers.map((layer) => layer.id);

describe('an open project', () => {
  let server: FakeServer;
  beforeEach(() => {
    server = new FakeServer();
  });

  it('sends an edit as a patch with its name, and says when it is saved', async () => {
    const tab = await openTab(server);
    tab.dispatch(renameProject('Harbour Trust'));
    expect(tab.now.saved).to.equal('saving');
    await tab.drained();
    agreed(server, tab);
    expect(server.stored.map(({ name, patch }) => ({ name, patch }))).to.deep.equal([
      { name: 'Rename project', patch: [{ op: 'replace', path: '/name', value: 'Harbour Trust' }] },
    ]);
  });

  it('edits of one gesture are one undo step and travel together', async () => {
    const tab = await openTab(server);
    for (let k = 100; k < 130; k++) tab.dispatch(setShotLength('shot', k), 'drag 1');
    expect(tab.now.past).to.have.length(1);
    await tab.drained();
    expect(server.stored).to.have.length(1);
    tab.undo();
    expect(tab.now.document!.shots[0]!.length).to.equal(180);
    await tab.drained();
    agreed(server, tab);
    expect(server.stored.at(-1)!.name).to.equal('Undo: Change length');
  });

  it('redo brings back what undo took, until something else is done', async () => {
    const tab = await openTab(server);
    tab.dispatch(renameProject('One'));
    tab.dispatch(renameProject('Two'));
    tab.undo();
    expect(tab.now.document!.name).to.equal('One');
    tab.redo();
    expect(tab.now.document!.name).to.equal('Two');
    tab.undo();
    tab.dispatch(renameProject('Three'));
    tab.redo();
    expect(tab.now.document!.name).to.equal('Three');
  });

  it('an edit that changes nothing makes no step and no request', async () => {
    const tab = await openTab(server);
    tab.dispatch(renameProject('Lantern Week'));
    await tab.drained();
    expect([tab.now.past.length, server.requests]).to.deep.equal([0, 0]);
  });

  it('keeps trying while the server cannot be reached, and says so', async () => {
    const tab = await openTab(server);
    server.faults = ['unreachable', 'unreachable', 'full'];
    const states = new Set<string>();
    tab.subscribe(() => void states.add(`${tab.now.saved} ${tab.now.trouble ?? ''}`));
    tab.dispatch(renameProject('Kept'));
    await tab.drained();
    agreed(server, tab);
    expect([...states]).to.include.members(['waiting ', 'waiting The disk is full.', 'saved ']);
  });

  it('a change whose answer got lost is not done twice, and what was done meanwhile is kept', async () => {
    const tab = await openTab(server);
    server.faults = ['answer lost'];
    tab.dispatch(addMarker(12));
    tab.dispatch(renameProject('Later'));
    await tab.drained();
    agreed(server, tab);
    expect(server.document.shots[0]!.markers).to.have.length(1);
    expect(tab.now.past.map((step) => step.name)).to.deep.equal(['Add marker', 'Rename project']);
    tab.undo();
    tab.undo();
    await tab.drained();
    expect([server.document.name, server.document.shots[0]!.markers.length]).to.deep.equal(['Lantern Week', 0]);
  });

  it('edits of two windows both stand, also with the undo of each', async () => {
    const [one, two] = [await openTab(server), await openTab(server)];
    one.dispatch(carrier('one'));
    two.dispatch(renameProject('Both'));
    two.dispatch(carrier('two'));
    await one.drained();
    await two.drained();
    one.hear(server.revision);
    await one.drained();
    agreed(server, one);
    agreed(server, two);
    expect(layersOf(one)).to.have.members(['one', 'two']);
    expect(server.document.name).to.equal('Both');
    expect([...one.said, ...two.said]).to.deep.equal([]);
    // Undoing in one takes away its own layer and nothing of the other's.
    one.undo();
    await one.drained();
    expect(server.document.shots[0]!.layers.map((layer) => layer.id)).to.deep.equal(['two']);
    two.lookForNewer();
    await two.drained();
    agreed(server, two);
  });

  it('an edit of something that another window removed is named, and the others stay', async () => {
    const [one, two] = [await openTab(server), await openTab(server)];
    one.dispatch(carrier('mast'));
    await one.drained();
    two.lookForNewer();
    await two.drained();
    one.dispatch(removeLayer('shot', 'mast'));
    await one.drained();
    two.dispatch(setLocked('shot', 'mast', true));
    two.dispatch(renameProject('Stays'));
    await two.drained();
    expect(two.said).to.deep.equal([
      '"Lock or unlock layer" could not be done again: what it changed is not there any more.',
    ]);
    agreed(server, two);
    expect(server.document.name).to.equal('Stays');
    // Also said when it is gone already.
    two.dispatch(renameLayer('shot', 'mast', 'Foremast'));
    expect(two.said.at(-1)).to.contain('There is no layer "mast"');
  });

  it('a refused change goes alone: those before and after it stay, and so does their undo', async () => {
    const tab = await openTab(server);
    tab.dispatch(renameProject('Before'));
    await tab.drained();
    server.faults = ['refused'];
    tab.dispatch(setShotLength('shot', 99));
    tab.dispatch(carrier('after'));
    await tab.drained();
    agreed(server, tab);
    expect(tab.said).to.deep.equal(['Change length: This change could not be stored.']);
    expect([server.document.name, server.document.shots[0]!.length]).to.deep.equal(['Before', 180]);
    expect(tab.now.past.map((step) => step.name)).to.deep.equal(['Rename project', 'New layer']);
    tab.undo();
    tab.undo();
    await tab.drained();
    expect([server.document.name, server.document.shots[0]!.layers.length]).to.deep.equal(['Lantern Week', 0]);
  });

  it('values beyond their limits are stored at the limit; what cannot be stored is said and not done', async () => {
    const tab = await openTab(server);
    tab.dispatch(renameProject('Typed before'));
    tab.dispatch(setFraming('shot', 'last', { ...restFraming, roll: 4000 }));
    const nonsense = defineEdit('Break it', (draft) => void (draft.shots[0]!.camera.first.x = NaN));
    tab.dispatch(nonsense());
    await tab.drained();
    agreed(server, tab);
    expect([server.document.name, server.document.shots[0]!.camera.last.roll]).to.deep.equal(['Typed before', 3600]);
    expect(tab.said).to.have.length(1);
    expect(tab.said[0]).to.match(/^Break it: .*not done/);
    expect(tab.now.past).to.have.length(2);
  });

  it('what a tab could not send is sent by the next one, once, with its undo', async () => {
    const outbox = new FakeOutbox();
    let ended = false;
    const change: FakeServer['change'] = async (id, request) => {
      await server.change(id, request);
      // It ends right after the server took its first change, and hears no answer any more.
      ended = true;
      return new Promise<never>(() => undefined);
    };
    const gone = await openTab({ get: server.get, steps: server.steps, change }, outbox);
    gone.dispatch(addMarker(5));
    while (!ended) await new Promise((resolve) => setImmediate(resolve));
    gone.dispatch(addMarker(6));
    gone.dispatch(renameProject('From the dead tab'));
    const other = await openTab(server);
    other.dispatch(carrier('meanwhile'));
    await other.drained();
    const next = await openTab(server, outbox);
    await next.drained();
    agreed(server, next);
    expect(server.document.name).to.equal('From the dead tab');
    expect(server.document.shots[0]!.markers.map((m) => m.frame)).to.deep.equal([5, 6]);
    expect(layersOf(next)).to.deep.equal(['meanwhile']);
    expect(outbox.kept.size).to.equal(0);
    next.undo();
    expect(next.now.document!.name).to.equal('Lantern Week');
  });

  it('undo and redo go on after a reload where they were, whatever was done, undone and done again', async () => {
    for (let seed = 1; seed <= 12; seed++) {
      server = new FakeServer();
      const random = seededRandom(seed);
      const tab = await openTab(server);
      for (let k = 0; k < 25; k++) {
        const dice = random();
        if (dice < 0.25) tab.undo();
        else if (dice < 0.4) tab.redo();
        else if (dice < 0.6) tab.dispatch(setShotLength('shot', 60 + k), `drag ${Math.floor(random() * 2)}`);
        else if (dice < 0.8) tab.dispatch(addMarker(k));
        else tab.dispatch(carrier(`layer-${k}`));
        if (random() < 0.7) await tab.drained();
      }
      await tab.drained();
      const next = await openTab(server);
      await next.drained();
      const names = ({ now: { past, future } }: Tab) => [past, future].map((steps) => steps.map((step) => step.name));
      expect(names(next), `seed ${seed}`).to.deep.equal(names(tab));
      const { past, future } = tab.now;
      for (let k = 0; k < future.length; k++) for (const one of [tab, next]) one.redo();
      for (let k = 0; k < past.length + future.length; k++) {
        for (const one of [tab, next]) one.undo();
        expect(next.now.document, `seed ${seed}, ${k} steps back`).to.deep.equal(tab.now.document);
      }
      expect(next.now.document).to.deep.equal(new FakeServer().document);
      expect([...tab.said, ...next.said]).to.deep.equal([]);
    }
  });

  it('what is done before the steps from before are known comes after them, and joins none of them', async () => {
    const first = await openTab(server);
    first.dispatch(setShotLength('shot', 90), 'drag');
    await first.drained();
    let answer = (): void => undefined;
    const held = new Promise<void>((resolve) => (answer = resolve));
    const steps: FakeServer['steps'] = async (...asked) => held.then(() => server.steps(...asked));
    const next = await openTab({ get: server.get, change: server.change, steps });
    next.dispatch(setShotLength('shot', 120), 'drag');
    expect(next.now.past).to.have.length(1);
    next.undo();
    answer();
    await next.drained();
    expect(next.now.future.map((step) => step.name)).to.deep.equal(['Change length']);
    next.redo();
    expect(next.now.document!.shots[0]!.length).to.equal(120);
    expect(next.now.past.map((step) => step.name)).to.deep.equal(['Change length', 'Change length']);
    next.undo();
    expect(next.now.document!.shots[0]!.length).to.equal(90);
    next.undo();
    expect(next.now.document!.shots[0]!.length).to.equal(180);
  });

  it('steps end where a way back is not known or does not fit any more', async () => {
    const first = await openTab(server);
    for (const frame of [1, 2, 3]) first.dispatch(addMarker(frame));
    await first.drained();
    server.stored[0]!.step.back = [{ kind: 'take', path: ['shots', { id: 'gone' }, 'layers'], id: 'x' }];
    const next = await openTab(server);
    await next.drained();
    expect(next.now.past).to.have.length(2);
    const lost = await openTab({
      get: server.get,
      change: server.change,
      steps: () => Promise.reject(new Error('No answer.')),
    });
    await lost.drained();
    expect(lost.now.past).to.have.length(0);
    expect(lost.said).to.deep.equal(['Steps from before cannot be undone: No answer.']);
  });

  it('a deleted project is waited for, as it may be restored, until nobody looks at it any more', async () => {
    const outbox = new FakeOutbox();
    const tab = await openTab(server, outbox);
    server.deleted = true;
    tab.dispatch(renameProject('Late'));
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect([tab.now.saved, tab.now.trouble]).to.deep.equal(['waiting', 'There is no such project any more.']);
    server.deleted = false;
    await tab.drained();
    agreed(server, tab);
    server.deleted = true;
    tab.dispatch(renameProject('Kept for its return'));
    tab.close();
    await tab.drained();
    server.deleted = false;
    const next = await openTab(server, outbox);
    await next.drained();
    expect(server.document.name).to.equal('Kept for its return');
  });

  it('whatever fails whenever, in two tabs, all that was said to be done is done and both agree', async () => {
    const random = seededRandom(20);
    for (let run = 0; run < 25; run++) {
      server = new FakeServer();
      const tabs = [await openTab(server), await openTab(server)];
      let expected = 0;
      for (let step = 0; step < 30; step++) {
        const tab = tabs[Math.floor(random() * 2)]!;
        const faults: Fault[] = ['unreachable', 'answer lost', 'full'];
        if (random() < 0.4) server.faults.push(faults[Math.floor(random() * 3)]!);
        if (random() < 0.3) await new Promise((resolve) => setImmediate(resolve));
        if (random() < 0.2) tab.lookForNewer();
        tab.dispatch(carrier(`l${run}-${step}`));
        expected++;
      }
      for (const tab of [...tabs, ...tabs]) {
        await tab.drained();
        tab.lookForNewer();
        await tab.drained();
      }
      for (const tab of tabs) agreed(server, tab);
      expect(server.document.shots[0]!.layers).to.have.length(expected);
      expect(new Set(server.stored.map((s) => s.change)).size).to.equal(expected);
    }
  });
});
