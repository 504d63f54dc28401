import { expect } from 'chai';
import { caretAt, caretLine, letterBoxes, nearestPlace, placeInLine } from './caret.ts';
import { lettersOf } from './lettering.ts';
import { spansAfter, spansWith } from './spans.ts';
import { loadTestFaces, plainText } from './test-faces.ts';
import type { TextSpan } from './text-setting.ts';

const set = (text: string, change: object = {}) => lettersOf({ ...plainText, text, ...change })!;

describe('a caret in set words', () => {
  before(() => loadTestFaces('condensed', 'grotesque'));

  it('stands before each letter where that letter begins, and after the last where it ends', () => {
    const text = 'Quay';
    const { letters } = set(text);
    for (let k = 0; k < 4; k++) expect(caretAt(set(text), text, k, 100).at[0]).to.be.closeTo(letters[k]!.at[0], 1e-9);
    const last = letters[3]!;
    expect(caretAt(set(text), text, 4, 100).at[0]).to.be.closeTo(last.at[0] + last.advance, 1e-9);
  });

  it('a press lands at the place whose caret is nearest, on the right line, also on an arc', () => {
    const text = 'on the\nold pier';
    for (const along of [null, { form: 'arc', bend: 80 }]) {
      const words = set(text, { along });
      for (let place = 0; place <= text.length; place++) {
        const { at, line } = caretAt(words, text, place, 100);
        const found = nearestPlace(words, text, at);
        expect(caretAt(words, text, found, 100).line).to.equal(line);
        const there = caretAt(words, text, found, 100).at;
        expect(Math.hypot(there[0] - at[0], there[1] - at[1]), `place ${place}`).to.be.below(1e-6);
      }
    }
  });

  it('goes up and down by lines to the place nearest below, and to the ends beyond the first and last', () => {
    const text = 'wide words\nno\nwide again';
    const words = set(text);
    const down = placeInLine(words, text, 9, 1);
    expect(down).to.equal('wide words\nno'.length);
    expect(placeInLine(words, text, down, -1)).to.be.below(10);
    expect(placeInLine(words, text, 3, -1)).to.equal(0);
    expect(placeInLine(words, text, text.length - 2, 1)).to.equal(text.length);
  });

  it('in right-to-left words the beginning is at the right, and an empty line has a caret of its own', () => {
    const text = '\u05e9\u05dc\u05d5\u05dd';
    const words = set(text, { face: 'grotesque' });
    expect(caretAt(words, text, 0, 100).at[0]).to.be.greaterThan(caretAt(words, text, 4, 100).at[0] + 50);
    const empty = set('a\n\nb');
    expect(caretAt(empty, 'a\n\nb', 2, 100).line).to.equal(1);
    const [upper, lower] = caretLine(caretAt(empty, 'a\n\nb', 2, 100));
    expect(lower[1]).to.be.greaterThan(upper[1] + 80);
    expect(letterBoxes(set('Quay'), 1, 3)).to.have.length(2);
  });
});

describe('spans of a text', () => {
  const span = (from: number, to: number, size = 2): TextSpan => ({ from, to, size });

  it('stay with their letters when others are typed before, within or behind, and go with them', () => {
    const own = [span(4, 8)];
    expect(spansAfter(own, 'the quay', 'see the quay')).to.deep.equal([span(8, 12)]);
    expect(spansAfter(own, 'the quay', 'the quays')).to.deep.equal([span(4, 8)]);
    expect(spansAfter(own, 'the quay', 'the quXay')).to.deep.equal([span(4, 9)]);
    expect(spansAfter(own, 'the quay', 'the ')).to.deep.equal([]);
    expect(spansAfter(own, 'the quay side', 'the side')).to.deep.equal([]);
    expect(spansAfter([span(0, 3)], 'the quay', 'the old quay')).to.deep.equal([span(0, 3)]);
  });

  it('every letter that was not changed keeps its settings, whatever is changed', () => {
    const before = 'abcdefghij';
    const own = [span(2, 4), span(6, 9, 3)];
    const sizeAt = (spans: readonly TextSpan[], at: number) => spans.find((s) => at >= s.from && at < s.to)?.size ?? 1;
    for (let from = 0; from < 10; from++)
      for (let to = from; to <= 10; to++) {
        const after = `${before.slice(0, from)}XY${before.slice(to)}`;
        const spans = spansAfter(own, before, after);
        for (let k = 0; k < from; k++) expect(sizeAt(spans, k)).to.equal(sizeAt(own, k));
        for (let k = to; k < 10; k++) expect(sizeAt(spans, k - to + from + 2)).to.equal(sizeAt(own, k));
      }
  });

  it('are cut where a part is changed, joined where neighbours are alike, and gone where nothing is left', () => {
    expect(spansWith([span(0, 10)], 3, 5, { size: 4 })).to.deep.equal([span(0, 3), span(3, 5, 4), span(5, 10)]);
    expect(spansWith([span(0, 3), span(5, 10)], 3, 5, { size: 2 })).to.deep.equal([span(0, 10)]);
    expect(spansWith([span(0, 10)], 0, 10, { size: null })).to.deep.equal([]);
    expect(spansWith([span(0, 4)], 2, 6, { lift: 0.5 })).to.deep.equal([
      span(0, 2),
      { ...span(2, 4), lift: 0.5 },
      { from: 4, to: 6, lift: 0.5 },
    ]);
  });
});
