import { expect } from 'chai';
import { placeOf } from './address.ts';

describe('an address', () => {
  it('names the project and its room', () => {
    expect(placeOf('/project/pier-4f2a/cut/picture-1/piece-2')).to.deep.equal({ project: 'pier-4f2a', room: 'cut' });
    // An address somebody mistyped is no reason to show nothing at all.
    expect(placeOf('/project/%E0%A4/deliver')).to.deep.equal({ project: '%E0%A4', room: 'deliver' });
  });

  it('of a project alone is its Stage', () => {
    expect(placeOf('/project/pier-4f2a').room).to.equal('stage');
    expect(placeOf('/project/pier-4f2a/').room).to.equal('stage');
  });

  it('of the Shelf, or of nothing there is, names no project', () => {
    for (const path of ['/', '/projects/pier-4f2a', '/project', '/project/'])
      expect(placeOf(path).project, path).to.equal(null);
  });
});
