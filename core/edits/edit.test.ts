import { expect } from 'chai';
import { readDocument } from '../document/document.ts';
import { easeKeys, moveKeys } from './key-edits.ts';
import { NoSuchThing, type Edit } from './edit.ts';
import { addKey, removeKey, removeLayer, renameLayer, setProperty } from './layer-edits.ts';
import { swapFramings } from './camera-edits.ts';
import { removePicture, removePiece, setFrameRate, setRecipe } from './project-edits.ts';
import { liftedDocument } from './test-lifted.ts';

describe('edits', () => {
  it('never alter the document they are given', () => {
    const document = liftedDocument();
    const copy = structuredClone(document);
    for (const edit of [
      renameLayer('shot', 'front', 'Tower'),
      removeLayer('shot', 'back'),
      swapFramings('shot'),
      setFrameRate(24),
    ])
      edit.apply(document);
    expect(document).to.deep.equal(copy);
  });

  it('leave a document that still reads as one', () => {
    const edits: Edit[] = [
      addKey('shot', 'front', 'position', 10, [1, 2]),
      addKey('shot', 'front', 'position', 60, [50, 2]),
      moveKeys('shot', [{ layer: 'front', property: 'position', frame: 60 }], 30),
      easeKeys('shot', [{ layer: 'front', property: 'position', frame: 10 }], 'overshoot'),
      setProperty('shot', 'front', 'rotation', 0, 12),
      setRecipe('Keep stroke', 'piece', {
        kind: 'subject',
        answer: 'subject',
        keep: [{ radius: 4, points: [[1, 2]] }],
        drop: [],
        box: null,
      }),
      setFrameRate(12),
      removeKey('shot', 'front', 'position', 4),
    ];
    const document = edits.reduce((d, edit) => edit.apply(d), liftedDocument());
    expect(readDocument(JSON.parse(JSON.stringify(document)))).to.deep.equal(document);
    expect(document.shots[0]!.length).to.equal(72);
  });

  it('removing a picture or a piece takes what was made of it along', () => {
    const without = removePicture('pic').apply(liftedDocument());
    expect([without.pictures, without.pieces, without.shots[0]!.layers]).to.deep.equal([[], [], []]);
    const noPiece = removePiece('piece').apply(liftedDocument());
    expect(noPiece.shots[0]!.layers.map((l) => l.id)).to.deep.equal(['back']);
  });

  it('name what is gone', () => {
    expect(() => renameLayer('shot', 'nobody', 'x').apply(liftedDocument())).to.throw(NoSuchThing, 'no layer "nobody"');
  });
});
