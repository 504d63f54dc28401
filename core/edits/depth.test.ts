import { expect } from 'chai';
import { emptyDocument, filesOf, readDocument } from '../document/document.ts';
import type { Relief } from '../document/layer.ts';
import { everyImage } from '../scene/draw.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { fillBehind } from './depth-edits.ts';
import { setLayer } from './layer-edits.ts';
import { hangPicture } from './lift-edit.ts';
import { addPicture } from './project-edits.ts';

const hash = (letter: string): string => letter.repeat(64);
const [picture, map, behind, depth] = ['a', 'b', 'c', 'd'].map(hash) as [string, string, string, string];
const relief: Relief = { file: map, near: 0.6, far: 2, strokes: [], behind: null };
const filled = { picture: behind, depth, of: { picture, map } };

const facts = { id: 'quay', name: 'Quay', original: picture, file: picture, width: 640, height: 360 };
const hung = [
  addPicture({ ...facts, clip: null, background: null }),
  hangPicture('quay', 'quay-layer'),
  setLayer('Depth', 'shot', 'quay-layer', { relief }),
].reduce((at, edit) => edit.apply(at), emptyDocument('Quay', { width: 640, height: 360, rate: 30 }, 2, 'shot'));

const shownBehind = (document: typeof hung) =>
  [...everyImage(evaluateFrame(document, document.shots[0]!, 0).draws)][0]!.image.relief!.behind;

describe('what was rebuilt behind a depth map', () => {
  it('is shown, and counts among the files of the project', () => {
    const document = fillBehind('shot', 'quay-layer', filled).apply(hung);
    expect(shownBehind(document)).to.deep.equal({ picture: behind, depth });
    expect(filesOf(document)).to.include.members([picture, map, behind, depth]);
    expect(readDocument(JSON.parse(JSON.stringify(document)))).to.deep.equal(document);
  });

  it('is left when it comes too late, for a map that has changed meanwhile or is gone', () => {
    const other = setLayer('Depth', 'shot', 'quay-layer', { relief: { ...relief, file: hash('e') } }).apply(hung);
    expect(fillBehind('shot', 'quay-layer', filled).apply(other)).to.deep.equal(other);
    const none = setLayer('Depth', 'shot', 'quay-layer', { relief: null }).apply(hung);
    expect(fillBehind('shot', 'quay-layer', filled).apply(none)).to.deep.equal(none);
  });

  it('is not shown for another map or another picture than its own, and is again for its own', () => {
    const document = fillBehind('shot', 'quay-layer', filled).apply(hung);
    const withRelief = (change: Partial<Relief>) =>
      setLayer('Depth', 'shot', 'quay-layer', { relief: { ...relief, behind: filled, ...change } }).apply(document);
    expect(shownBehind(withRelief({ file: hash('e') }))).to.equal(null);
    const other = { ...filled, of: { picture: hash('f'), map } };
    expect(shownBehind(withRelief({ behind: other }))).to.equal(null);
    expect(shownBehind(withRelief({}))).to.deep.equal({ picture: behind, depth });
  });

  it('is nothing in documents written before there was any', () => {
    const text = JSON.stringify(hung).replace(/,"behind":null/g, '');
    expect(text).not.to.include('behind"');
    expect(readDocument(JSON.parse(text))).to.deep.equal(hung);
  });
});
