import { expect } from 'chai';
import jsonPatch from 'fast-json-patch';
import { seededRandom } from '../pixels/random.ts';
import { differenceBetween, withChanges } from './difference.ts';
import { jsonPatchOf } from './json-patch.ts';

interface Thing {
  id: string;
  name: string;
  tags: string[];
  points: number[][];
  note?: string;
  inner: Thing[];
}

const thing = (id: string, more: Partial<Thing> = {}): Thing => ({
  id,
  name: id,
  tags: [],
  points: [
    [0, 0],
    [1, 1],
  ],
  inner: [],
  ...more,
});
const list = (...ids: string[]): { things: Thing[] } => ({ things: ids.map((id) => thing(id)) });
const ids = (state: { things: Thing[] }): string[] => state.things.map((one) => one.id);

/** Some state made at random out of another: fields, plain lists and lists of things with ids change. */
function disturbed(state: { things: Thing[] }, random: () => number): { things: Thing[] } {
  const next = structuredClone(state);
  const pick = (n: number): number => Math.floor(random() * n);
  for (let step = 0; step < 1 + pick(6); step++) {
    const here = random() < 0.3 && next.things.length > 0 ? next.things[pick(next.things.length)]!.inner : next.things;
    const one = here[pick(here.length)];
    const what = pick(9);
    if (what === 0) here.splice(pick(here.length + 1), 0, thing(`t${Math.floor(random() * 1e9)}`));
    else if (!one) continue;
    else if (what === 1) here.splice(here.indexOf(one), 1);
    else if (what === 2) here.push(...here.splice(pick(here.length), 1));
    else if (what === 3) one.name = `n${pick(100)}/~`;
    else if (what === 4) one.tags.splice(pick(one.tags.length + 1), pick(2), `a${pick(3)}`);
    else if (what === 5) one.points[pick(one.points.length)] = [pick(9), pick(9)];
    else if (what === 6) one.points.push([pick(9), pick(9)]);
    else if (what === 7) one.note = random() < 0.5 ? 'noted' : undefined;
    else one.points = [];
  }
  return JSON.parse(JSON.stringify(next)) as { things: Thing[] };
}

describe('differences of documents', () => {
  it('lead from any state to any other, as changes and as JSON Patch applied by a public library', () => {
    const random = seededRandom(7);
    for (let run = 0; run < 300; run++) {
      const before = disturbed(list('a', 'b', 'c', 'd'), random);
      const after = disturbed(before, random);
      const changes = differenceBetween(before, after);
      expect(withChanges(before, changes)).to.deep.equal({ document: after, missed: [] });
      const patch = jsonPatchOf(before, changes);
      expect(jsonPatch.applyPatch(structuredClone(before), patch, true).newDocument).to.deep.equal(after);
    }
  });

  it('laid on twice, change nothing the second time where things have ids', () => {
    const changes = differenceBetween(list('a', 'b', 'c'), list('c', 'x', 'a'));
    const once = withChanges(list('a', 'b', 'c'), changes).document;
    expect(withChanges(once, changes)).to.deep.equal({ document: once, missed: [] });
  });

  it('of an edit are as small as the edit: one removed thing is one operation, one stroke is one', () => {
    const before = list('a', 'b');
    before.things[0]!.points = Array.from({ length: 20_000 }, (_, k) => [k, k]);
    const without = { things: [before.things[1]!] };
    expect(jsonPatchOf(before, differenceBetween(before, without))).to.deep.equal([
      { op: 'remove', path: '/things/0' },
    ]);
    const drawn = structuredClone(before);
    drawn.things[0]!.points.push([5, 6]);
    expect(jsonPatchOf(before, differenceBetween(before, drawn))).to.deep.equal([
      { op: 'add', path: '/things/0/points/20000', value: [5, 6] },
    ]);
  });

  it('are laid onto a state in which others came, went and moved meanwhile', () => {
    const mine = structuredClone(list('a', 'b', 'c'));
    mine.things[1]!.name = 'renamed';
    mine.things.splice(2, 0, thing('mine'));
    const theirs = list('theirs', 'c', 'b');
    theirs.things[2]!.tags = ['kept'];
    const { document, missed } = withChanges(theirs, differenceBetween(list('a', 'b', 'c'), mine));
    expect(missed).to.deep.equal([]);
    expect(ids(document)).to.deep.equal(['theirs', 'c', 'b', 'mine']);
    expect(document.things[2])
      .to.include({ name: 'renamed' })
      .and.to.deep.include({ tags: ['kept'] });
  });

  it('say what no longer applies, and lay on the rest', () => {
    const mine = structuredClone(list('a', 'b'));
    mine.things[0]!.name = 'gone meanwhile';
    mine.things[1]!.name = 'still there';
    const { document, missed } = withChanges(list('b'), differenceBetween(list('a', 'b'), mine));
    expect(document.things.map((one) => one.name)).to.deep.equal(['still there']);
    expect(missed).to.deep.equal([{ kind: 'set', path: ['things', { id: 'a' }, 'name'], value: 'gone meanwhile' }]);
  });

  it('a new order moves what it names and leaves others where they are', () => {
    const changes = differenceBetween(list('a', 'b', 'c'), list('c', 'a', 'b'));
    expect(ids(withChanges(list('a', 'x', 'b', 'c'), changes).document)).to.deep.equal(['c', 'x', 'a', 'b']);
  });

  it('entries of a plain list are found again when others were put before them, and missed when they are gone', () => {
    const of = (...tags: string[]): { tags: string[] } => ({ tags });
    const changes = differenceBetween(of('a', 'b', 'c'), of('a', 'c'));
    expect(withChanges(of('x', 'y', 'a', 'b', 'c'), changes).document).to.deep.equal(of('x', 'y', 'a', 'c'));
    expect(withChanges(of('a', 'c'), changes).missed).to.deep.equal(changes);
  });
});
