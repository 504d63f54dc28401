import { expect } from 'chai';
import { noCare, withCare } from '../cut/edge-care.ts';
import { checkPiece } from '../cut/check.ts';
import { rectangle } from '../path/forms.ts';
import { plainShape } from '../path/shapes.ts';
import { alphaOf, makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { findByFile, findPiece, finished, finishedFrame, type FindStep, type Found } from './cut-piece.ts';
import { inverted, recipeOfSteps } from '../document/recipe-steps.ts';
import type { CutRecipe, SingleRecipe } from '../document/recipe.ts';

const [width, height] = [120, 90];

/** A sandy disc before green cloth, all of it there. */
function wholePicture(): Rgba {
  const picture = makeRgba(width, height);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const disc = Math.max(0, Math.min(1, 22.5 - Math.hypot(x - 70, y - 45)));
    const cloth = [40 + (x % 3), 180 - (y % 4), 70];
    const colour = [200 - (y % 5), 170, 120].map((v, c) => disc * v + (1 - disc) * cloth[c]!);
    picture.data.set([...colour, 255], i * 4);
  }
  return picture;
}

/** How much of it a file brings: from x = 64 on nothing, with a soft edge of four pixels, and a hole in the cloth. */
function ownAt(x: number, y: number): number {
  if (Math.hypot(x - 20, y - 20) < 6) return 0;
  return Math.round(255 * Math.max(0, Math.min(1, (64 - x) / 4)));
}

const whole = wholePicture();
const own: Bytes = makeBytes(width, height);
own.data.forEach((_, i) => (own.data[i] = ownAt(i % width, Math.floor(i / width))));
/** The same with its own alpha; where there is nothing the file says red, which must never be seen. */
const picture: Rgba = { width, height, data: whole.data.slice() };
own.data.forEach((a, i) =>
  picture.data.set(a === 0 ? [255, 0, 0, 0] : [...whole.data.slice(i * 4, i * 4 + 3), a], i * 4),
);

const box = (x: number, y: number, w: number, h: number): SingleRecipe => ({
  kind: 'shape',
  shapes: [{ ...plainShape, id: 's', path: rectangle({ x, y, width: w, height: h }) }],
});
const chroma: SingleRecipe = { kind: 'chroma', colours: [[41, 178, 70]], core: 10, edge: 34, spill: 1 };
const fileOfMask = 'a'.repeat(64);
/** A file that holds the left half at half, and a ground without the disc. */
const files: Record<string, Rgba> = {
  [fileOfMask]: {
    width,
    height,
    data: whole.data.map((v, k) => (k % 4 === 3 ? ((k >> 2) % width < 60 ? 128 : 255) : v)),
  },
  ['b'.repeat(64)]: { width, height, data: whole.data.map((_, k) => [41, 178, 70, 255][k % 4]!) },
};
const findIn =
  (of: Rgba): FindStep =>
  (step) =>
    findByFile(of, step, (file) => Promise.resolve(files[file]!));

const ways: Record<string, CutRecipe> = {
  'a shape': box(10, 10, 90, 60),
  'all of it': { kind: 'whole', blend: 'screen' },
  'a colour': chroma,
  brightness: { kind: 'luma', drop: 'dark', low: 120, high: 190 },
  'light on black': { kind: 'unveil', black: 8 },
  'a difference': { kind: 'difference', ground: 'b'.repeat(64), low: 20, high: 60 },
  'several steps': recipeOfSteps(
    [
      { id: 'a', how: 'add', muted: false, recipe: chroma },
      { id: 'b', how: 'add', muted: false, recipe: box(0, 0, 40, 40) },
      { id: 'c', how: 'take', muted: false, recipe: box(55, 40, 40, 10) },
    ],
    false,
  ),
  'all but a shape': inverted(box(10, 10, 30, 60)),
  'all but a colour': inverted(chroma),
};

/** Of an alpha that was found where nothing was empty, as much as the file brings. */
const cutDown = (alpha: Bytes): number[] => [...alpha.data].map((a, i) => Math.round((a * own.data[i]!) / 255));

function farthest(a: ArrayLike<number>, b: ArrayLike<number>, where: (i: number) => boolean = () => true): number {
  let most = 0;
  for (let i = 0; i < a.length; i++) if (where(i)) most = Math.max(most, Math.abs(a[i]! - b[i]!));
  return most;
}

describe('a picture that brings its own alpha along', () => {
  for (const [name, recipe] of Object.entries(ways)) {
    it(`is cut by ${name} as if all of it were there, and what is empty stays empty`, async () => {
      const truth = await findPiece(whole, recipe, findIn(whole));
      const found = await findPiece(picture, recipe, findIn(picture));
      // A key looks around each pixel: where an edge of the piece runs out of what is there it may answer a little otherwise.
      const expectedAlpha = cutDown(truth.alpha);
      const off = [...found.alpha.data].filter((a, i) => Math.abs(a - expectedAlpha[i]!) > 12).length;
      expect(off, 'alpha').to.be.at.most(name.includes('shape') ? 0 : 20);
      expect(farthest(found.alpha.data, expectedAlpha, (i) => own.data[i] === 0)).to.equal(0);
      const { alpha, colours } = finished(picture, found, { care: noCare, marks: [] });
      const expected = finished(whole, truth, { care: noCare, marks: [] }).colours;
      expect([...alphaOf(colours).data]).to.deep.equal([...alpha.data]);
      expect(farthest(alpha.data, found.alpha.data), 'care').to.equal(0);
      const seen = (k: number): boolean => k % 4 < 3 && alpha.data[k >> 2]! > 60;
      expect(farthest(colours.data, expected.data, seen), 'colours').to.be.at.most(14);
    });
  }

  it('the alpha of a figure in a frame is kept up to what the frame has', async () => {
    const figure: CutRecipe = { kind: 'figure', keys: [], mattes: [fileOfMask], changed: [0], due: null };
    const { alpha } = await findPiece(picture, figure, findIn(picture));
    const most = alpha.data.map((_, i) => Math.min(own.data[i]!, alphaOf(files[fileOfMask]!).data[i]!));
    expect(farthest(alpha.data, most)).to.be.at.most(1);
  });

  it('a mask from a file says how much of the piece is there, not how much of what is there', async () => {
    const recipe: CutRecipe = { kind: 'mask', file: fileOfMask, x: 0, y: 0 };
    const { alpha } = await findPiece(picture, recipe, findIn(picture));
    const most = alpha.data.map((_, i) => Math.min(own.data[i]!, alphaOf(files[fileOfMask]!).data[i]!));
    expect(farthest(alpha.data, most)).to.be.at.most(1);
  });

  it('a piece of it that is taken away from it leaves no rim', async () => {
    const first = await findPiece(picture, chroma, findIn(picture));
    const stored = finished(picture, first, { care: noCare, marks: [] }).colours;
    const step: FindStep = (s) => findByFile(picture, s, () => Promise.resolve(stored));
    const rest = recipeOfSteps(
      [
        { id: 'a', how: 'add', muted: false, recipe: { kind: 'whole', blend: 'screen' } },
        { id: 'b', how: 'take', muted: false, recipe: { kind: 'mask', file: fileOfMask, x: 0, y: 0 } },
      ],
      false,
    );
    const { alpha } = await findPiece(picture, rest, step);
    const together = alpha.data.map((a, i) => a + first.alpha.data[i]!);
    expect(farthest(together, own.data, (i) => own.data[i]! >= 16)).to.be.at.most(2);
  });

  it('no care and no brush brings back what is empty, or more of an edge than there is', async () => {
    const found: Found = await findPiece(picture, { kind: 'whole', blend: 'screen' }, findIn(picture));
    const stroke = {
      radius: 14,
      points: [
        [20, 20],
        [62, 50],
        [70, 60],
      ] as [number, number][],
    };
    const marks = (['restore', 'soften', 'refine'] as const).map((kind) => ({ kind, stroke, soft: 0.3 }));
    for (const care of [noCare, { ...noCare, grow: 6 }, { ...noCare, soften: 5 }, { ...noCare, smooth: 6 }])
      for (const some of [marks.slice(0, 0), marks.slice(0, 1), marks]) {
        const { alpha, colours } = finished(picture, found, { care, marks: some });
        expect(alpha.data.findIndex((a, i) => a > own.data[i]!)).to.equal(-1);
        const drawn = finishedFrame(picture, found, { care, marks: some });
        expect(farthest(drawn.data, colours.data, (k) => k % 4 === 3 || alpha.data[k >> 2]! > 0)).to.equal(0);
      }
    const grown = finished(picture, await findPiece(picture, chroma, findIn(picture)), {
      care: { ...noCare, grow: 3 },
      marks: [],
    });
    expect(grown.alpha.data[45 * width + 46], 'it still grows where there is something').to.equal(255);
    const choked = withCare(found.alpha, { ...noCare, grow: -2 }, [], picture);
    expect(choked.data[45 * width + 62], 'and shrinks from the edge of what is there').to.equal(
      own.data[45 * width + 64],
    );
  });

  it('a brush that looks for hair finds none along the edge of what is there', async () => {
    const found = await findPiece(picture, { kind: 'whole', blend: 'screen' }, findIn(picture));
    const stroke = {
      radius: 8,
      points: [
        [62, 30],
        [62, 60],
      ] as [number, number][],
    };
    const refined = withCare(found.alpha, noCare, [{ kind: 'refine', stroke, soft: 0 }], picture);
    expect(farthest(refined.data, found.alpha.data)).to.be.at.most(3);
  });

  it('its own holes are no holes to be mended, and its own edge no fringe', async () => {
    const { alpha } = await findPiece(picture, { kind: 'whole', blend: 'screen' }, findIn(picture));
    expect(checkPiece(alpha, picture, own)).to.deep.equal([]);
    const torn = { ...alpha, data: alpha.data.slice() };
    for (let y = 60; y < 65; y++) torn.data.fill(0, y * width + 30, y * width + 36);
    expect(checkPiece(torn, picture, own).map((f) => f.kind)).to.deep.equal(['hole']);
  });
});
