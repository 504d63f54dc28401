import { expect } from 'chai';
import { emptyDocument, filesOf, pieceSchema, untouched } from '../document/document.ts';
import { makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { findsAnything, retouch } from '../rebuild/retouch.ts';
import { covered, disc, meanDifference, planks } from '../rebuild/test-pictures.ts';
import { loadedTouches } from './piece-touches.ts';

const [width, height] = [160, 110];
const hash = 'ab'.repeat(32);
/** A spoon of 31 x 31 pixels, round, stored trimmed. */
const spoon = makeRgba(31, 31);
for (let i = 0; i < 31 * 31; i++)
  spoon.data.set([230, 60, 30, Math.hypot((i % 31) - 15, Math.floor(i / 31) - 15) < 15 ? 255 : 0], i * 4);
const over = disc(width, height, 75, 55, 15);

/** A saucer of planks, round, with the spoon on it. */
function saucer(): { piece: Rgba; alpha: Bytes } {
  const inside = disc(width, height, 80, 55, 46);
  const piece = covered(planks(width, height), over, [230, 60, 30]);
  for (let i = 0; i < inside.data.length; i++) piece.data[i * 4 + 3] = inside.data[i]! * 255;
  return { piece, alpha: { ...inside, data: inside.data.map((v) => v * 255) } };
}

const behindSpoon = { kind: 'behind' as const, of: 'spoon', file: hash, x: 60, y: 40, seed: 1 };
const load = async (file: string): Promise<Rgba> => {
  expect(file).to.equal(hash);
  return spoon;
};

describe('a piece behind another one', () => {
  it('is continued where the other lies over it, and nowhere else; its alpha stays', async () => {
    const { piece, alpha } = saucer();
    const [touch] = await loadedTouches([behindSpoon], { x: 0, y: 0, width, height }, load);
    const made = await retouch(piece, touch!, alpha);
    expect(meanDifference(made, planks(width, height), over)).to.be.below(40);
    let red = 0;
    for (let i = 0; i < over.data.length; i++) {
      if (alpha.data[i] && made.data[i * 4]! - made.data[i * 4 + 1]! > 100) red++;
      expect(made.data[i * 4 + 3]).to.equal(piece.data[i * 4 + 3]);
      const far = Math.hypot((i % width) - 75, Math.floor(i / width) - 55) > 20;
      if (far) expect(made.data[i * 4]).to.equal(piece.data[i * 4]);
    }
    expect(red).to.equal(0);
  });

  it('has nothing to be continued where the other lies beside it', async () => {
    const { alpha } = saucer();
    const part = { x: 0, y: 0, width, height };
    const [over, beside] = await loadedTouches([behindSpoon, { ...behindSpoon, x: 0, y: 0 }], part, load);
    expect([findsAnything(over!, alpha), findsAnything(beside!, alpha)]).to.deep.equal([true, false]);
  });

  it('is the same whether all of the picture or only its part is looked at', async () => {
    const part = { x: 30, y: 20, width: 70, height: 60 };
    const loaded = await loadedTouches(
      [behindSpoon, { kind: 'gone', stroke: { radius: 3, points: [[50, 60]] }, seed: 2 }],
      part,
      load,
    );
    const [behind, gone] = loaded;
    if (behind?.kind !== 'behind' || gone?.kind !== 'gone') throw new Error('other touches');
    expect([behind.hidden.width, behind.hidden.height]).to.deep.equal([70, 60]);
    for (let i = 0; i < behind.hidden.data.length; i++) {
      const [x, y] = [(i % 70) + 30, Math.floor(i / 70) + 20];
      expect(behind.hidden.data[i]).to.equal(over.data[y * width + x]! * 255);
    }
    expect(gone.stroke.points).to.deep.equal([[20, 40]]);
  });

  it('keeps the file of the other as it was, in the project and its bundle', () => {
    const document = emptyDocument('Tea', { width: 64, height: 48, rate: 30 }, 2, 'shot');
    document.pieces.push({
      id: 'saucer',
      picture: 'table',
      name: 'Saucer',
      recipe: { kind: 'whole', blend: 'screen' },
      ...untouched,
      touches: [behindSpoon],
    });
    expect(filesOf(document)).to.deep.equal([hash]);
    expect(pieceSchema.parse(document.pieces[0]).touches).to.deep.equal([behindSpoon]);
  });
});
