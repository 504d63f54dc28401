import { expect } from 'chai';
import { untouched, type Piece } from '../document/document.ts';
import { plainShape } from '../path/shapes.ts';
import { rectangle } from '../path/forms.ts';
import { seededRandom } from '../pixels/random.ts';
import { alphaOf, makeRgba, type Rgba } from '../pixels/raster.ts';
import { averagedTo } from '../pixels/resample.ts';
import { coarserPiece } from './coarser-piece.ts';
import { findByFile, findPiece, finishedFrame } from './cut-piece.ts';
import { recipeOfSteps } from '../document/recipe-steps.ts';
import type { CutRecipe, SingleRecipe } from '../document/recipe.ts';

const [width, height] = [480, 320];
const matte = 'a'.repeat(64);
const ground = 'b'.repeat(64);

/** A sandy disc before unevenly lit green cloth, with grain; the cloth alone; and the alpha of the disc. */
function scene(): { picture: Rgba; files: Record<string, Rgba> } {
  const random = seededRandom(5);
  const [picture, cloth, alpha] = [makeRgba(width, height), makeRgba(width, height), makeRgba(width, height)];
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const share = Math.max(0, Math.min(1, (91 - Math.hypot(x - 230, y - 160)) / 2));
    const light = 0.85 + (0.3 * x) / width;
    const green = [40, 180, 70].map((v) => v * light);
    const colour = [205, 170, 120].map((v, c) => share * v + (1 - share) * green[c]! + 5 * (random() - 0.5));
    picture.data.set([...colour, 255], i * 4);
    cloth.data.set([...green, 255], i * 4);
    const grey = Math.round(255 * share);
    alpha.data.set([255, 255, 255, grey], i * 4);
  }
  return { picture, files: { [matte]: alpha, [ground]: cloth } };
}

const chroma: SingleRecipe = { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 };
const ways: Record<string, CutRecipe> = {
  'a colour': chroma,
  brightness: { kind: 'luma', drop: 'dark', low: 175, high: 185 },
  'light on black': { kind: 'unveil', black: 8 },
  'a difference': { kind: 'difference', ground, low: 10, high: 30 },
  'a figure': { kind: 'figure', keys: [], mattes: [matte], changed: [0], due: null },
  'two keys': recipeOfSteps(
    [
      { id: 'a', how: 'add', muted: false, recipe: chroma },
      { id: 'b', how: 'within', muted: false, recipe: { kind: 'difference', ground, low: 10, high: 30 } },
    ],
    true,
  ),
};

describe('a piece cut from a smaller frame', () => {
  const { picture, files } = scene();
  const pieceOf = (recipe: CutRecipe, more: Partial<Piece> = {}): Piece => ({
    ...untouched,
    ...{ id: 'p', picture: 'q', name: 'Disc', recipe },
    ...more,
  });
  const cutAt = async (piece: Piece, size: [number, number]): Promise<Rgba> => {
    const frame = averagedTo(picture, ...size);
    const load = (file: string): Promise<Rgba> => Promise.resolve(averagedTo(files[file]!, ...size));
    const recipe = piece.recipe as CutRecipe;
    return finishedFrame(frame, await findPiece(frame, recipe, (step) => findByFile(frame, step, load)), piece);
  };
  const mark = { kind: 'wipe' as const, soft: 0, stroke: { radius: 24, points: [[230, 160] as [number, number]] } };

  for (const [name, recipe] of Object.entries(ways))
    for (const shrink of [0.5, 0.25])
      it(`by ${name} is the piece, smaller, at ${shrink}`, async () => {
        const cares = [{}, { care: { ...untouched.care, grow: -8, soften: 4 } }, { marks: [mark] }];
        for (const more of cares) {
          const piece = pieceOf(recipe, more);
          const size: [number, number] = [width * shrink, height * shrink];
          const full = averagedTo(await cutAt(piece, [width, height]), ...size);
          const coarse = await cutAt(coarserPiece(piece, shrink)!, size);
          const [a, b] = [alphaOf(full).data, alphaOf(coarse).data];
          const apart = a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0) / a.length;
          expect(apart, JSON.stringify(more)).to.be.below(4);
          // The middle of the disc says whether it is there at all, or was wiped away.
          const middle = (size[1] / 2) * size[0] + Math.floor(230 * shrink);
          expect(b[middle]).closeTo(a[middle]!, 4);
        }
      });

  it('is not offered where a recipe speaks of places in the picture', () => {
    const shape: SingleRecipe = {
      kind: 'shape',
      shapes: [{ ...plainShape, id: 's', path: rectangle({ x: 10, y: 10, width: 99, height: 99 }) }],
    };
    const mask: SingleRecipe = { kind: 'mask', file: matte, x: 3, y: 5 };
    for (const recipe of [shape, mask]) {
      expect(coarserPiece(pieceOf(recipe), 0.5)).to.equal(null);
      const both = recipeOfSteps(
        [
          { id: 'a', how: 'add', muted: false, recipe: chroma },
          { id: 'b', how: 'take', muted: false, recipe },
        ],
        false,
      );
      expect(coarserPiece(pieceOf(both), 0.5)).to.equal(null);
    }
    expect(coarserPiece({ ...pieceOf(chroma), recipe: { kind: 'shadow', of: 'x', region: [] } }, 0.5)).to.equal(null);
  });
});
