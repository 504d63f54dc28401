import { expect } from 'chai';
import { emptyDocument } from '../../../core/document/document.ts';
import { shownProjects } from './shown.ts';

const frame = { width: 640, height: 360, rate: 30 };
const project = (name: string, day: number, pictures: string[] = []) => {
  const document = emptyDocument(name, frame, 2, 'shot-1');
  const file = 'a'.repeat(64);
  const brought = pictures.map((picture, k) => ({
    ...{ id: `picture-${k}`, name: picture, original: file, file, width: 10, height: 10 },
    ...{ clip: null, background: null },
  }));
  return {
    ...{ id: name, revision: 1, updated: `2026-11-0${day}T08:00:00.000Z` },
    document: { ...document, pictures: brought },
  };
};

describe('projects shown on the Shelf', () => {
  const all = [
    project('Tide 10', 3),
    project('tide 9', 1, ['Breakwater at dusk']),
    project('Café at the quay', 4),
    { id: 'x', updated: '2026-11-02T08:00:00.000Z', name: 'Lamp', unreadable: 'damaged' },
  ];
  const names = (search: string, order: 'changed' | 'name'): string[] =>
    shownProjects(all, search, order).map((one) => ('document' in one ? one.document.name : one.name));

  it('stand as they were changed, or by name with numbers as numbers; those that cannot be read among them', () => {
    expect(names('', 'changed')).to.deep.equal(['Café at the quay', 'Tide 10', 'Lamp', 'tide 9']);
    expect(names('', 'name')).to.deep.equal(['Café at the quay', 'Lamp', 'tide 9', 'Tide 10']);
  });

  it('are found by words in any order, without marks and capitals, and by the names of their pictures', () => {
    expect(names('QUAY cafe', 'name')).to.deep.equal(['Café at the quay']);
    expect(names('dusk', 'name')).to.deep.equal(['tide 9']);
    expect(names('lam', 'name')).to.deep.equal(['Lamp']);
    expect(names('tide dusk', 'changed')).to.deep.equal(['tide 9']);
    expect(names('no such', 'name')).to.deep.equal([]);
    expect(names('  ', 'name')).to.have.length(4);
  });

  it('leave the list as it came', () => {
    const before = [...all];
    shownProjects(all, '', 'name');
    expect(all).to.deep.equal(before);
  });
});
