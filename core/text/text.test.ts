import { expect } from 'chai';
import * as harfbuzz from 'harfbuzzjs';
import decompress from 'woff2-encoder/decompress';
import type { Point } from '../path/path.ts';
import { faceFiles, faces } from './faces.ts';
import { openFont, UnreadableFont } from './font.ts';
import { lettersOf } from './lettering.ts';
import type { Letter } from './set-text.ts';
import { fontFile, loadTestFaces, plainText } from './test-faces.ts';
import type { TextSetting } from './text-setting.ts';
import { unpackedWoff } from './woff.ts';
import { unitsOf } from './units.ts';

const set = (change: Partial<TextSetting>) => lettersOf({ ...plainText, ...change })!;
const textOf = (letters: readonly Letter[], text: string): string[] => letters.map((l) => text.slice(l.from, l.to));
const room = Math.ceil(plainText.size * 0.04);

/** The box of a letter's own outline points. */
function inkOf({ outlines }: Letter): { left: number; right: number; top: number; bottom: number } {
  const points = outlines.flatMap((path) => path.points.map((p) => p.at));
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

describe('setting words', () => {
  before(() => loadTestFaces(...faces));

  for (const face of faces)
    it(`${face}: glyphs stand where HarfBuzz itself puts them`, async () => {
      const text = 'Wend fi Tale, AVoid';
      const bytes = unpackedWoff(await fontFile(faceFiles[face][0]!));
      const own = new harfbuzz.Face(new harfbuzz.Blob(bytes));
      const buffer = new harfbuzz.Buffer();
      buffer.addText(text);
      buffer.guessSegmentProperties();
      harfbuzz.shape(new harfbuzz.Font(own), buffer);
      let pen = 0;
      const places = new Map<number, number>();
      buffer.getGlyphPositions().forEach(({ xAdvance }, k) => {
        const { cluster } = buffer.getGlyphInfos()[k]!;
        if (!places.has(cluster)) places.set(cluster, pen);
        pen += (xAdvance * plainText.size) / own.upem;
      });
      const { letters, width } = set({ text, face });
      expect(letters.map((l) => l.from)).to.deep.equal([...places.keys()]);
      for (const letter of letters) expect(letter.at[0] - room).to.be.closeTo(places.get(letter.from)!, 1e-6);
      expect(width - 2 * room).to.be.closeTo(pen, 1e-6);
    });

  it('letters know their word and their line, spaces have no picture', () => {
    const text = 'on the\nold pier';
    const { letters, lines, words } = set({ text });
    expect(words).to.equal(4);
    expect(lines.map((line) => text.slice(line.from, line.to))).to.deep.equal(['on the', 'old pier']);
    const p = letters.find((l) => text.slice(l.from, l.to) === 'p')!;
    expect([p.word, p.line, p.blank]).to.deep.equal([3, 1, false]);
    expect(letters.filter((l) => l.blank)).to.have.length(2);
    expect(unitsOf(set({ text }), 'word').map((u) => textOf(u.letters, text).join(''))).to.deep.equal([
      'on',
      'the',
      'old',
      'pier',
    ]);
    expect(unitsOf(set({ text }), 'line')).to.have.length(2);
    expect(unitsOf(set({ text }), 'whole')).to.have.length(1);
  });

  it('lines break where the next word would be too wide, and as words stand they lie within the box', () => {
    const text = 'paper lanterns over the boardwalk';
    const wrap = 420;
    const { lines, letters, width } = set({ text, wrap });
    expect(width).to.equal(wrap + 2 * room);
    expect(lines.length).to.be.greaterThan(1);
    for (const line of lines) expect(line.width).to.be.at.most(wrap);
    for (const letter of letters.filter((l) => !l.blank)) expect(inkOf(letter).right).to.be.at.most(width);
    // One more word of the next line would not have fitted.
    lines.slice(0, -1).forEach((line, k) => {
      const next = text.slice(lines[k + 1]!.from).split(' ')[0]!;
      expect(set({ text: `${text.slice(line.from, line.to)} ${next}` }).width - 2 * room).to.be.greaterThan(wrap);
    });
  });

  it('left, centred, right and justified lines stand as they say', () => {
    const text = 'a wide line of words here\nno';
    const ends = (align: TextSetting['align']): [number, number][] =>
      set({ text, align }).lines.map((line) => [line.left, line.left + line.width]);
    const [left, centre, right] = (['left', 'centre', 'right'] as const).map(ends);
    expect(left![1]![0]).to.equal(left![0]![0]);
    expect(right![1]![1]).to.be.closeTo(right![0]![1], 1e-6);
    expect(centre![1]![0] + centre![1]![1]).to.be.closeTo(centre![0]![0] + centre![0]![1], 1e-6);
    const wrapped = set({ text: 'one two three four five six seven', align: 'justified', wrap: 600 });
    wrapped.lines.slice(0, -1).forEach((line) => expect(line.width).to.equal(600));
    expect(wrapped.lines.at(-1)!.width).to.be.below(600);
  });

  it('right-to-left words run from the right, in their own order, and numbers in them do not', () => {
    const text = '\u05e9\u05dc\u05d5\u05dd 12';
    const { letters } = set({ text });
    const seen = [...letters].sort((a, b) => a.at[0] - b.at[0]);
    expect(textOf(seen, text).join('')).to.equal('12 \u05dd\u05d5\u05dc\u05e9');
    expect(letters.some((l) => l.missing)).to.equal(false);
  });

  it('joining letters take the forms their neighbours ask for', () => {
    const alone = set({ text: '\u0628' }).letters[0]!;
    const joined = set({ text: '\u0628\u0628\u0628' }).letters;
    const shape = (l: Letter): number => l.outlines.reduce((sum, path) => sum + path.points.length, 0);
    expect(new Set([shape(alone), ...joined.map(shape)]).size).to.be.greaterThan(1);
  });

  it('a mark belongs to its letter and stands above it, composed or not', () => {
    const apart = set({ text: 'e\u0301', face: 'grotesque' }).letters;
    const composed = set({ text: '\u00e9', face: 'grotesque' }).letters;
    expect(apart).to.have.length(1);
    const plain = inkOf(set({ text: 'e', face: 'grotesque' }).letters[0]!);
    expect(inkOf(apart[0]!).top).to.be.below(plain.top - 5);
    expect(inkOf(apart[0]!).top).to.be.closeTo(inkOf(composed[0]!).top, 3);
  });

  it('a letter the face lacks comes from a shipped one; one that none has is framed and named as missing', () => {
    const { letters } = set({ text: 'a\u0142\u{1f3ee}', face: 'stencil' });
    expect(letters.map((l) => l.missing)).to.deep.equal([false, false, true]);
    expect(letters[2]!.outlines).to.have.length(2);
    expect(letters[2]!.to - letters[2]!.from).to.equal(2);
  });

  it('single letters have their own colour, size, lift and room', () => {
    const text = 'abc';
    const plain = set({ text });
    const spans = [{ from: 1, to: 2, colour: [255, 0, 0, 1], size: 2, lift: 0.5, spacing: 0.3 }];
    const { letters } = set({ text, spans });
    expect(letters.map((l) => l.colour)).to.deep.equal([null, [255, 0, 0, 1], null]);
    const [before, after] = [inkOf(plain.letters[1]!), inkOf(letters[1]!)];
    expect(after.bottom - after.top).to.be.closeTo(2 * (before.bottom - before.top), 1e-6);
    const baseline = letters[0]!.at[1];
    expect(baseline - after.bottom).to.be.closeTo(50 + 2 * (baseline - before.bottom), 1e-6);
    expect(letters[1]!.advance).to.be.closeTo(2 * plain.letters[1]!.advance + 30, 1e-6);
  });

  it('a face unpacked from WOFF is the same font that its WOFF2 file holds', async () => {
    const file = faceFiles.slab[0]!;
    const [woff, woff2] = await Promise.all([fontFile(file), fontFile(`${file}2`)]);
    const [one, other] = [await openFont(woff, 'a'), await openFont(await decompress(woff2), 'b')];
    expect(one.unitsPerEm).to.equal(other.unitsPerEm);
    for (const letter of 'Quay fi') {
      const glyph = one.handle.nominalGlyph(letter.codePointAt(0)!)!;
      expect(one.outlineOf(glyph)).to.deep.equal(other.outlineOf(glyph));
    }
  });

  it('a WOFF whose tables say they are enormous, or lie elsewhere, is refused before anything is unpacked', async () => {
    const good = await fontFile(faceFiles.slab[0]!);
    for (const [at, value] of [
      [44 + 12, 3_000_000_000],
      [44 + 4, 3_000_000_000],
    ] as const) {
      const bytes = Uint8Array.from(good);
      new DataView(bytes.buffer).setUint32(at, value);
      const error = await openFont(bytes, 'huge.woff').then(
        () => null,
        (found: unknown) => found,
      );
      expect(error).to.be.instanceOf(UnreadableFont);
    }
    expect(() => unpackedWoff(good.subarray(0, 60))).to.throw(RangeError);
  });

  it('what is no font is refused with a sentence', async () => {
    const broken = await fontFile(faceFiles.script[0]!);
    for (const bytes of [
      new Uint8Array(3),
      new Uint8Array(500),
      broken.slice(0, 900),
      new TextEncoder().encode('<svg>'.repeat(9)),
    ]) {
      const error = await openFont(bytes, 'quay.ttf').then(
        () => null,
        (found: unknown) => found,
      );
      expect(error).to.be.instanceOf(UnreadableFont);
      expect((error as Error).message).to.equal(
        'quay.ttf is not a font that can be read. Take a TTF, OTF, WOFF or WOFF2 file.',
      );
    }
  });
});

describe('words along a line', () => {
  before(() => loadTestFaces('condensed'));
  const middles = (letters: readonly Letter[]): Point[] =>
    letters.map((l) => [l.at[0] + (Math.cos(l.turn) * l.advance) / 2, l.at[1] + (Math.sin(l.turn) * l.advance) / 2]);

  it('round a circle every letter stands on it, and two are as far apart as on the straight', () => {
    const radius = 300;
    const straight = set({ text: 'Lantern Week' }).letters;
    const { letters } = set({ text: 'Lantern Week', along: { form: 'circle', radius, start: 0, inside: false } });
    const at = middles(letters);
    // The box was moved to begin at (0, 0): the centre lies below the topmost letter, as the text is centred there.
    const topmost = letters.reduce((a, b) => (Math.abs(a.turn) < Math.abs(b.turn) ? a : b));
    const k = letters.indexOf(topmost);
    const centre: Point = [at[k]![0] - radius * Math.sin(topmost.turn), at[k]![1] + radius * Math.cos(topmost.turn)];
    const spread = (l: Letter): number => l.at[0] + l.advance / 2;
    letters.forEach((letter, n) => {
      expect(Math.hypot(at[n]![0] - centre[0], at[n]![1] - centre[1])).to.be.closeTo(radius, 1e-6);
      const way = spread(straight[n]!) - spread(straight[0]!);
      expect((letter.turn - letters[0]!.turn) * radius).to.be.closeTo(way, 1e-6);
    });
  });

  it('inside a circle letters stand on their heads against outside, and read the other way round', () => {
    const along = { form: 'circle', radius: 300, start: 180, inside: true } as const;
    const { letters } = set({ text: 'Quay', along });
    const at = middles(letters);
    expect(at[0]![0]).to.be.below(at.at(-1)![0]);
    // At the bottom of a circle, inside, letters stand nearly upright.
    for (const letter of letters) expect(Math.cos(letter.turn)).to.be.greaterThan(0.8);
  });

  it('an arc spans the angle it says, and a straight one is the straight line', () => {
    const bent = set({ text: 'WWWWWWWW', along: { form: 'arc', bend: 90 } }).letters;
    const each = 90 / 8;
    expect(((bent.at(-1)!.turn - bent[0]!.turn) * 180) / Math.PI).to.be.closeTo(90 - each, 0.5);
    const flat = set({ text: 'WWWW', along: { form: 'arc', bend: 0 } }).letters;
    const plain = set({ text: 'WWWW' }).letters;
    flat.forEach((l, k) => expect(l.at[0] - flat[0]!.at[0]).to.be.closeTo(plain[k]!.at[0] - plain[0]!.at[0], 1e-6));
  });

  it('along a line of points letters go by its length, round its corner', () => {
    const points = [
      [0, 0],
      [100, 0],
      [100, 4000],
    ] as const;
    const { letters } = set({
      text: 'WWWWWW',
      along: { form: 'line', points, closed: false, start: 0, inside: false },
    });
    const turns = letters.map((l) => Math.round((l.turn * 180) / Math.PI));
    expect(turns[0]).to.equal(0);
    expect(turns.at(-1)).to.equal(90);
    const down = middles(letters).slice(-2);
    expect(down[1]![1] - down[0]![1]).to.be.closeTo(letters[0]!.advance, 1e-6);
  });

  it('a wave goes up and down by its height', () => {
    const along = { form: 'wave', height: 80, length: 400, shift: 0 } as const;
    const { letters } = set({ text: 'nnnnnnnnnnnnnnnnnnnnnnnnnnnn', along });
    const ys = middles(letters).map(([, y]) => y);
    expect(Math.max(...ys) - Math.min(...ys)).to.be.closeTo(80, 4);
  });
});
