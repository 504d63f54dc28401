import { expect } from 'chai';
import { noCare, withCare } from '../cut/edge-care.ts';
import { alphaOf, makeBytes, makeRgba, type Rgba } from '../pixels/raster.ts';
import { rectangle } from '../path/forms.ts';
import { plainShape, type How } from '../path/shapes.ts';
import { colouredBy, findPiece, finished, finishedFrame, keyed, maskOnPicture, type FindStep } from './cut-piece.ts';
import {
  inverted,
  recipeOfSteps,
  standsInPicture,
  stepsOf,
  withoutStep,
  withStep,
  withStepAdded,
} from '../document/recipe-steps.ts';
import type { CutRecipe, SingleRecipe } from '../document/recipe.ts';

function before(screen: [number, number, number]): Rgba {
  const picture = makeRgba(80, 60);
  for (let i = 0; i < 4800; i++) {
    const inside = Math.hypot((i % 80) - 40, Math.floor(i / 80) - 30) < 15;
    picture.data.set(inside ? [200, 180, 150, 255] : [...screen, 255], i * 4);
  }
  return picture;
}

describe('pieces from recipes', () => {
  it('each kind of key takes what it says', () => {
    const green = keyed(before([40, 180, 70]), { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 });
    const dark = keyed(before([6, 6, 6]), { kind: 'luma', drop: 'dark', low: 20, high: 100 });
    const light = keyed(before([250, 250, 250]), { kind: 'luma', drop: 'light', low: 200, high: 240 });
    const lit = keyed(before([0, 0, 0]), { kind: 'unveil', black: 0 });
    for (const { alpha } of [green, dark, light]) {
      expect(alpha.data[30 * 80 + 40]).to.equal(255);
      expect(alpha.data[0]).to.equal(0);
    }
    expect(lit.alpha.data[30 * 80 + 40]).to.equal(200);
    expect(lit.colours.data[(30 * 80 + 40) * 4]).to.equal(255);
  });

  it("a key's colours stay under edge care; what is restored shows the picture's own", () => {
    const picture = before([40, 180, 70]);
    const found = keyed(picture, { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 });
    const marks = [
      { kind: 'restore' as const, stroke: { radius: 4, points: [[6, 6]] as [number, number][] }, soft: 0 },
    ];
    const restored = withCare(found.alpha, noCare, marks);
    const out = colouredBy(picture, found, restored);
    expect([...out.data.slice((6 * 80 + 6) * 4, (6 * 80 + 6) * 4 + 4)]).to.deep.equal([40, 180, 70, 255]);
    expect([...out.data.slice((30 * 80 + 40) * 4, (30 * 80 + 40) * 4 + 3)]).to.deep.equal([200, 180, 150]);
    const shrunk = colouredBy(picture, found, withCare(found.alpha, { ...noCare, grow: -4 }, []));
    expect(shrunk.data[(30 * 80 + 27) * 4 + 3]).to.equal(0);
  });

  it('a stored mask lies at its place in the picture', () => {
    const mask = makeBytes(4, 3, 200);
    const whole = maskOnPicture(mask, 10, 20, before([0, 0, 0]));
    expect(whole.data[20 * 80 + 10]).to.equal(200);
    expect(whole.data[22 * 80 + 13]).to.equal(200);
    expect(whole.data.reduce((sum, v) => sum + v, 0)).to.equal(12 * 200);
  });

  it('says behind which pieces there is something to rebuild', () => {
    expect(standsInPicture({ kind: 'mask', file: 'a'.repeat(64), x: 0, y: 0 })).to.equal(true);
    expect(standsInPicture({ kind: 'unveil', black: 8 })).to.equal(false);
    const both = withStepAdded(
      { kind: 'unveil', black: 8 },
      { id: 'b', how: 'take', muted: false, recipe: box(0, 0, 9, 9) },
    );
    expect(standsInPicture(both)).to.equal(false);
    expect(standsInPicture(withStep(both, 'first', { muted: true }))).to.equal(true);
  });
});

const box = (x: number, y: number, width: number, height: number): SingleRecipe => ({
  kind: 'shape',
  shapes: [{ ...plainShape, id: 's', path: rectangle({ x, y, width, height }) }],
});

describe('pieces found in several ways', () => {
  const picture = before([40, 180, 70]);
  const chroma: SingleRecipe = { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 };
  const noHelp: FindStep = () => Promise.reject(new Error('not needed'));
  const find = (recipe: CutRecipe) => findPiece(picture, recipe, noHelp);
  const step = (id: string, how: How, recipe: SingleRecipe) => ({ id, how, muted: false, recipe });
  const inside = (alpha: { data: Uint8Array }): number => alpha.data.filter((a) => a > 127).length;

  it('are joined in order: added, taken away, kept within, turned round', async () => {
    const steps = [
      step('a', 'add', box(0, 0, 40, 30)),
      step('b', 'take', box(10, 10, 10, 10)),
      step('c', 'within', box(5, 5, 40, 40)),
    ];
    expect(inside((await find(recipeOfSteps(steps, false))).alpha)).to.equal(35 * 25 - 100);
    expect(inside((await find(recipeOfSteps(steps, true))).alpha)).to.equal(4800 - 35 * 25 + 100);
    const muted = withStep(recipeOfSteps(steps, false), 'b', { muted: true });
    expect(inside((await find(muted)).alpha)).to.equal(35 * 25);
    expect(inside((await find(recipeOfSteps([step('a', 'take', box(0, 0, 10, 10))], false))).alpha)).to.equal(4700);
  });

  it("keep a key's own colours where the key added, and the picture's elsewhere", async () => {
    const both = withStepAdded(chroma, step('b', 'add', box(2, 2, 8, 8)));
    const found = await find(both);
    const { colours } = finished(picture, found, { care: noCare, marks: [] });
    const at = (x: number, y: number): number[] => [...colours.data.slice((y * 80 + x) * 4, (y * 80 + x) * 4 + 4)];
    expect(at(5, 5)).to.deep.equal([40, 180, 70, 255]);
    expect(at(40, 30)).to.deep.equal([200, 180, 150, 255]);
    // On the edge of the disc no green is left: red stays above green.
    const edge = Array.from({ length: 80 }, (_, x) => at(x, 30)).filter((c) => c[3]! > 20 && c[3]! < 250);
    for (const [r, g] of edge) expect(r).at.least(g! - 2);
  });

  it('ask for what needs more than the picture, step by step', async () => {
    const asked: string[] = [];
    const mask: SingleRecipe = { kind: 'mask', file: 'a'.repeat(64), x: 0, y: 0 };
    const help: FindStep = (s) => {
      asked.push(s.id);
      return Promise.resolve({ alpha: makeBytes(80, 60, 90), colours: null });
    };
    const { alpha } = await findPiece(
      picture,
      recipeOfSteps([step('m', 'add', mask), step('n', 'add', mask)], false),
      help,
    );
    expect(asked).to.deep.equal(['m', 'n']);
    expect(alpha.data[0]).closeTo(255 * (1 - (1 - 90 / 255) ** 2), 1);
  });

  it('are one way again when all others are taken out, and never none', () => {
    const both = withStepAdded(chroma, step('b', 'take', box(0, 0, 9, 9)));
    expect(withoutStep(both, 'b')).to.deep.equal(chroma);
    expect(stepsOf(withoutStep(withoutStep(both, 'b'), 'first'))).to.have.length(1);
    expect(inverted(inverted(chroma))).to.deep.equal(chroma);
  });
});

describe('a piece in one frame of a clip', () => {
  const [width, height] = [360, 240];
  const picture = makeRgba(width, height);
  const alpha = makeBytes(width, height);
  // A soft reddish disc before bluish stripes: edge pixels hold a share of both.
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const inside = Math.max(0, Math.min(1, (30 - Math.hypot(x - 90, y - 70)) / 6 + 0.5));
      const stripe = x % 24 < 12 ? 40 : 90;
      const [front, behind] = [
        [200, 70 + (y % 9), 50],
        [30, stripe, 150],
      ];
      for (let c = 0; c < 3; c++)
        picture.data[(y * width + x) * 4 + c] = front![c]! * inside + behind![c]! * (1 - inside);
      picture.data[(y * width + x) * 4 + 3] = 255;
      alpha.data[y * width + x] = Math.round(inside * 255);
    }
  const care = { ...noCare, soften: 1.5, grow: 2 };

  // Found with all of the frame around it.
  const whole = colouredBy(picture, { alpha, colours: null }, withCare(alpha, care, [], picture));

  for (const [name, found] of [
    ['lifted', finished(picture, { alpha, colours: null }, { care, marks: [] }).colours],
    ['drawn', finishedFrame(picture, { alpha, colours: null }, { care, marks: [] })],
  ] as const) {
    it(`is, ${name}, that of the whole frame where there is anything of it, and clear elsewhere`, () => {
      let [edge, apart] = [0, 0];
      expect(Buffer.from(alphaOf(found).data).equals(Buffer.from(alphaOf(whole).data))).to.equal(true);
      for (let i = 0; i < width * height; i++) {
        if (found.data[i * 4 + 3] === 0) continue;
        edge++;
        // As it is seen: a colour counts by its alpha.
        const share = whole.data[i * 4 + 3]! / 255 / 3;
        for (let c = 0; c < 3; c++) apart += Math.abs(found.data[i * 4 + c]! - whole.data[i * 4 + c]!) * share;
      }
      expect(edge).above(2800);
      expect(apart / edge).below(0.5);
      expect([...found.data.slice((200 * width + 300) * 4, (200 * width + 300) * 4 + 4)]).to.deep.equal([0, 0, 0, 0]);
    });
  }

  it('is found in all of the frame when a mark brings something back far from it', () => {
    const points: [number, number][] = [[300, 200]];
    const marks = [{ kind: 'restore' as const, stroke: { points, radius: 10 }, soft: 0 }];
    const part = finishedFrame(picture, { alpha, colours: null }, { care: noCare, marks });
    expect(part.data[(200 * width + 300) * 4 + 3]).to.equal(255);
  });

  it('is nothing where nothing was found', () => {
    const nothing = { alpha: makeBytes(width, height), colours: null };
    expect(finishedFrame(picture, nothing, { care, marks: [] }).data.every((v) => v === 0)).to.equal(true);
  });

  it("is a key's own picture where nothing was done to it since, and the same as when all is done", () => {
    const before = makeRgba(width, height);
    for (let i = 0; i < width * height; i++) {
      const inside = Math.max(0, Math.min(1, 40.5 - Math.hypot((i % width) - 80, Math.floor(i / width) - 90)));
      before.data.set([40 + 150 * inside, 180 - 20 * inside, 70 + 40 * inside, 255], i * 4);
    }
    const recipes = [
      { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 },
      { kind: 'luma', drop: 'dark', low: 145, high: 160 },
      { kind: 'unveil', black: 60 },
    ] as const;
    for (const recipe of recipes) {
      const found = keyed(before, { ...recipe, colours: [] } as Parameters<typeof keyed>[1]);
      const drawn = finishedFrame(before, found, { care: noCare, marks: [] });
      const all = finished(before, found, { care: noCare, marks: [] }).colours;
      expect(alphaOf(drawn).data, recipe.kind).to.deep.equal(alphaOf(all).data);
      let seen = 0;
      for (let i = 0; i < width * height; i++) {
        if (all.data[i * 4 + 3] === 0) continue;
        seen++;
        for (let c = 0; c < 3; c++) expect(drawn.data[i * 4 + c]).to.equal(all.data[i * 4 + c]);
      }
      expect(seen).above(2000);
      // What was done to its alpha is kept.
      const less = { ...found, alpha: { ...found.alpha, data: found.alpha.data.map((a) => a >> 1) } };
      expect(finishedFrame(before, less, { care: noCare, marks: [] }).data[(90 * width + 80) * 4 + 3]).to.equal(
        found.alpha.data[90 * width + 80]! >> 1,
      );
      const grown = finishedFrame(before, found, { care: { ...noCare, grow: 4 }, marks: [] });
      expect(alphaOf(grown).data.filter((a) => a > 0).length).at.least(seen + (recipe.kind === 'unveil' ? 0 : 100));
    }
  });
});
