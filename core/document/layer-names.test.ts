import { expect } from 'chai';
import { addLayer } from '../edits/arrange-edits.ts';
import { setPen } from '../edits/arrival-edits.ts';
import { newBubble, pointTailAt, setBubble } from '../edits/bubble-edits.ts';
import type { Edit } from '../edits/edit.ts';
import { joinLayer } from '../edits/join-edits.ts';
import { fastenLayer, removeLayers, setLayer } from '../edits/layer-edits.ts';
import { addProp } from '../edits/prop-edits.ts';
import { newRepeat, setRepeat } from '../edits/repeat-edits.ts';
import { addShape } from '../edits/shape-edits.ts';
import { apply, card, empty, layerOf } from '../edits/test-cards.ts';
import { danglingIn, type Document } from './document.ts';
import { namesIn } from './layer-names.ts';
import { plainWords } from './words.ts';

const box = { width: 80, height: 30 };
const words = (id: string): Edit =>
  addLayer(
    'shot',
    { id, name: id, depth: 3 },
    { source: { ...plainWords, text: 'Quay', face: 'mono', size: 20, box }, colour: [0, 0, 0, 1] },
  );

/** One way each in which a layer `one` can name the layer `other`. */
const ways: Record<string, Edit[]> = {
  'is fastened to': [card('one'), fastenLayer('shot', 'one', 'other', 0)],
  'is seen through': [
    card('one'),
    setLayer('Window', 'shot', 'one', { window: { to: 'other', how: 'inside', by: 'alpha', free: null } }),
  ],
  writes: [card('one'), setPen('shot', 'one', { to: 'other', approach: 10, from: 0, away: 180, lift: 20 })],
  'has the timing of': [
    card('one'),
    setLayer('Time', 'shot', 'one', {
      timing: {
        bar: null,
        like: 'other',
        slip: 0,
        speed: 1,
        ends: 'repeat',
        freeze: null,
        steps: 1,
        between: 'nearest',
        crossfade: 0,
      },
    }),
  ],
  'is joined to': [
    addShape('shot', 'drip', { id: 'one', depth: 3, width: 60 }),
    joinLayer('shot', 'one', 'other', 'own colour', 0),
  ],
  'stands along': [card('one'), setRepeat('shot', 'one', { ...newRepeat(20), form: 'path', path: 'other' })],
  'runs along': [
    words('one'),
    setLayer('Along', 'shot', 'one', {
      source: {
        ...plainWords,
        text: 'Quay',
        face: 'mono',
        size: 20,
        box,
        along: { form: 'layer', layer: 'other', start: 0, inside: false },
      },
    }),
  ],
  'points at': [
    words('one'),
    setBubble('shot', 'one', newBubble({ size: 20, box })),
    pointTailAt('shot', 'one', 'other'),
  ],
  'takes from': [addProp('shot', 'flare', { id: 'one', depth: 3 }, { lamp: 'other' })],
};

describe('what layers have to do with one another', () => {
  for (const [does, edits] of Object.entries(ways)) {
    const made = (): Document => apply(empty(), card('other'), ...edits);

    it(`${does}: is found, may name another layer, and is let go when that is deleted`, () => {
      const document = made();
      const found = namesIn(layerOf(document, 'one'));
      expect(found.map((name) => name.does)).to.include(does);
      for (const { to } of found) expect(to).to.equal('other');
      const gone = apply(document, removeLayers('shot', ['other']));
      expect(namesIn(layerOf(gone, 'one')).filter((name) => name.does === does)).to.deep.equal([]);
    });

    it(`${does}: a layer that is not there, or is the layer itself, makes a document unsound`, () => {
      for (const wrong of ['nobody', 'one']) {
        const document = JSON.parse(JSON.stringify(made())) as Document;
        for (const name of namesIn(layerOf(document, 'one'))) if (name.does === does) name.put(wrong);
        expect(danglingIn(document), wrong).to.include(`layer one ${does} nothing`);
      }
      expect(danglingIn(made())).to.deep.equal([]);
    });
  }

  it('none are forgotten: these are all there are', () => {
    expect(Object.keys(ways).sort()).to.deep.equal(
      [
        'is fastened to',
        'is joined to',
        'is seen through',
        'has the timing of',
        'points at',
        'runs along',
        'stands along',
        'takes from',
        'writes',
      ].sort(),
    );
  });
});
