import { expect } from 'chai';
import { changedSinceLift, cutName } from './cut-name.ts';
import type { Piece } from './document.ts';

const care = { grow: 0, soften: 0, smooth: 0, clean: 0 };
const stroke = { radius: 4, points: [[1, 2]] as [number, number][] };
const recipe: Piece['recipe'] = { kind: 'subject', answer: 'subject', keep: [stroke], drop: [], box: null };
const piece = { recipe, care, marks: [] };

describe('the name of a cut', () => {
  it('is the same for the same cut, in whatever order it was written', () => {
    const turned = { marks: [], care: { clean: 0, smooth: 0, soften: 0, grow: 0 }, recipe: { ...recipe } };
    expect(cutName(turned)).to.equal(cutName(piece));
    expect(cutName(JSON.parse(JSON.stringify(piece)) as Piece)).to.equal(cutName(piece));
    expect(cutName(piece)).to.match(/^[0-9a-f]{16}$/);
  });

  it('is another for every other recipe, care or mark', () => {
    const others = [
      { ...piece, care: { ...care, grow: 1 } },
      { ...piece, care: { ...care, soften: 1 } },
      { ...piece, recipe: { ...recipe, keep: [] } },
      { ...piece, recipe: { ...recipe, keep: [], drop: [stroke] } },
      { ...piece, marks: [{ kind: 'wipe' as const, stroke, soft: 0.4 }] },
      { ...piece, marks: [{ kind: 'wipe' as const, stroke, soft: 0.5 }] },
    ];
    expect(new Set([piece, ...others].map(cutName)).size).to.equal(7);
  });

  it('tells whether a piece was changed since it was lifted; of one that was lifted long ago nothing is said', () => {
    const cutout = { file: 'a'.repeat(64), bounds: { x: 0, y: 0, width: 1, height: 1 } };
    expect(changedSinceLift({ ...piece, cutout: null })).to.equal(false);
    expect(changedSinceLift({ ...piece, cutout })).to.equal(false);
    const lifted = { ...piece, cutout: { ...cutout, of: cutName(piece) } };
    expect(changedSinceLift(lifted)).to.equal(false);
    expect(changedSinceLift({ ...lifted, care: { ...care, smooth: 2 } })).to.equal(true);
  });
});
