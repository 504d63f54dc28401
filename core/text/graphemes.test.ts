import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { graphemesOf } from './graphemes.ts';

const lettersOf = (line: string): [string, number][] =>
  [...graphemesOf(line)].map(({ segment, index }) => [segment, index]);

describe('letters as they are seen', () => {
  it('are whole with their marks, joiners and flags', () => {
    expect(lettersOf('Kai\u0308 \u{1F468}\u200D\u{1F469}\u200D\u{1F466}\u{1F1F3}\u{1F1F4}!')).to.deep.equal([
      ['K', 0],
      ['a', 1],
      ['i\u0308', 2],
      [' ', 4],
      ['\u{1F468}\u200D\u{1F469}\u200D\u{1F466}', 5],
      ['\u{1F1F3}\u{1F1F4}', 13],
      ['!', 17],
    ]);
    expect(lettersOf('')).to.deep.equal([]);
    expect(lettersOf('a\r\nb')).to.deep.equal([
      ['a', 0],
      ['\r\n', 1],
      ['b', 3],
    ]);
  });

  it('of a line of ASCII are those that the rules of Unicode find', () => {
    const truth = new Intl.Segmenter('en', { granularity: 'grapheme' });
    const random = seededRandom(3);
    for (let run = 0; run < 300; run++) {
      const codes = Array.from({ length: Math.floor(12 * random()) }, () => 0x20 + Math.floor(0x5f * random()));
      const line = String.fromCharCode(...codes);
      expect(lettersOf(line), line).to.deep.equal(
        [...truth.segment(line)].map(({ segment, index }) => [segment, index]),
      );
    }
  });
});
