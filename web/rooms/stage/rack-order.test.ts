import { expect } from 'chai';
import { addLayer, groupLayers } from '../../../core/edits/arrange-edits.ts';
import { emptyDocument } from '../../../core/document/document.ts';
import { setLayer } from '../../../core/edits/layer-edits.ts';
import { depthBetween, rackEntries } from './rack-order.ts';

const carrier = (id: string, depth: number) =>
  addLayer('shot', { id, name: id, depth }, { source: { kind: 'carrier' } });
const start = emptyDocument('Quay', { width: 320, height: 200, rate: 30 }, 1, 'shot');
const grouped = [
  carrier('far', 9),
  carrier('b', 4),
  carrier('a', 3),
  carrier('near', 1),
  groupLayers('shot', ['a', 'b'], { id: 'pair', name: 'Pair' }),
].reduce((document, edit) => edit.apply(document), start);
const rows = (document: typeof start) =>
  rackEntries(document.shots[0]!, 0).map(({ layer, level }) => `${'-'.repeat(level)}${layer.id}`);

describe('order of the rack', () => {
  it('is from near to far, the members of a group right after it, nearest first', () => {
    expect(rows(grouped)).to.deep.equal(['near', 'pair', '-a', '-b', 'far']);
  });

  it('leaves the members of a folded group out', () => {
    const folded = setLayer('Fold', 'shot', 'pair', { source: { kind: 'group', open: false } }).apply(grouped);
    expect(rows(folded)).to.deep.equal(['near', 'pair', 'far']);
  });

  it('a dragged row hangs where the ruler says while that is between its neighbours', () => {
    expect(depthBetween(3.4, 3, 5)).to.equal(3.4);
    expect(depthBetween(2, null, null)).to.equal(2);
    expect(depthBetween(0.9, null, 3)).to.equal(0.9);
    expect(depthBetween(12, 5, null)).to.equal(12);
  });

  it('otherwise hangs between them, however crowded the rack is', () => {
    expect(depthBetween(9, 3, 5)).to.equal(4);
    expect(depthBetween(1, 3, 3)).to.equal(3);
    expect(depthBetween(4, null, 3)).to.be.within(0.2, 3);
    expect(depthBetween(2, 5, null)).to.be.greaterThan(5);
  });
});
