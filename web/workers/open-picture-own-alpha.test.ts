import { expect } from 'chai';
import { finished } from '../../core/make/cut-piece.ts';
import { noCare } from '../../core/cut/edge-care.ts';
import { blind } from '../../core/learned/subject-networks.ts';
import { seededRandom } from '../../core/pixels/random.ts';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import type { Stroke } from '../../core/cut/strokes.ts';
import type { SubjectRecipe } from '../../core/document/recipe.ts';
import { OpenPicture } from './open-picture.ts';

const [width, height] = [320, 240];

/** A dark buoy with a soft edge of two pixels over mottled water, all of it there; its alpha, and its own colours. */
function buoyOnWater(): { picture: Rgba; buoy: Bytes; dark: Rgba } {
  const random = seededRandom(4);
  const [picture, dark, buoy] = [makeRgba(width, height), makeRgba(width, height), makeBytes(width, height)];
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
    const share = Math.max(0, Math.min(1, (53 - Math.hypot(x - 170, y - 130)) / 2));
    const water = 112 + 9 * Math.sin(y * 0.2 + 2 * Math.sin(x * 0.05));
    const own = [34, 30, 44].map((v) => v + 6 * (random() - 0.5));
    picture.data.set([...own.map((v, c) => share * v + (1 - share) * water * [0.7, 1, 1.1][c]!), 255], i * 4);
    dark.data.set([...own, 255], i * 4);
    buoy.data[i] = Math.round(255 * share);
  }
  return { picture, buoy, dark };
}

/** The picture with an alpha of its own; where that says nothing the file's colours are black. */
function withOwn(picture: Rgba, own: Bytes): Rgba {
  const data = picture.data.slice();
  own.data.forEach((a, i) => data.set(a === 0 ? [0, 0, 0, 0] : [...data.slice(i * 4, i * 4 + 3), a], i * 4));
  return { ...picture, data };
}

const subject = (keep: Stroke[] = [], drop: Stroke[] = []): SubjectRecipe => ({
  ...{ kind: 'subject', answer: 'subject', box: null },
  keep: keep.map((stroke) => ({ ...stroke, points: stroke.points.map(([x, y]): [number, number] => [x, y]) })),
  drop: drop.map((stroke) => ({ ...stroke, points: stroke.points.map(([x, y]): [number, number] => [x, y]) })),
});

const found = (picture: Rgba, recipe = subject()): Promise<{ alpha: Bytes; colours: Rgba | null }> =>
  new OpenPicture('picture', picture, blind).find(recipe, () => Promise.resolve());

const meanGap = (a: Bytes, b: Bytes): number =>
  a.data.reduce((sum, v, i) => sum + Math.abs(v - b.data[i]!), 0) / a.data.length;

describe('a subject in a picture that brings its own alpha along', () => {
  const { picture, buoy, dark } = buoyOnWater();
  /** It ends in the middle of the buoy, over five pixels. */
  const half = makeBytes(width, height);
  half.data.forEach((_, i) => (half.data[i] = Math.round(255 * Math.max(0, Math.min(1, (185 - (i % width)) / 5)))));
  const halved = withOwn(picture, half);
  const alone = withOwn(dark, buoy);

  it('reaches as far as there is anything, as softly as that ends', async () => {
    const { alpha } = await found(halved);
    const { alpha: all } = await found(picture);
    const truth = { ...buoy, data: all.data.map((a, i) => Math.round((a * half.data[i]!) / 255)) };
    expect(meanGap(alpha, truth)).to.be.below(0.02);
    const row = (x: number): number => alpha.data[130 * width + x]!;
    for (let x = 176; x < 190; x++) expect(row(x), `at ${x}`).to.equal(half.data[130 * width + x]);
  });

  it('that was cut out before is found whole with the edge it has, even a dark one', async () => {
    const { alpha, colours } = await found(alone);
    expect(meanGap(alpha, buoy)).to.be.below(0.05);
    const made = finished(alone, { alpha, colours }, { care: noCare, marks: [] }).colours;
    // No black of what is not there, nor light in its place, gets into the edge.
    for (let i = 0; i < buoy.data.length; i++)
      if (buoy.data[i]! > 30)
        for (let c = 0; c < 3; c++)
          expect(made.data[i * 4 + c]!, `${i % width}, ${Math.floor(i / width)}`).closeTo(alone.data[i * 4 + c]!, 9);
  });

  it('strokes over what is empty take nothing; elsewhere they say what they always say', async () => {
    const across: Stroke = {
      radius: 8,
      points: [
        [165, 60],
        [300, 60],
      ],
    };
    const { alpha } = await found(halved, subject([across]));
    expect(alpha.data[60 * width + 168]).to.equal(255);
    for (let i = 0; i < alpha.data.length; i++) if (alpha.data[i]! > half.data[i]!) expect.fail(`${i % width}`);
  });

  it('alpha that has settled after strokes is what is found at once, to the byte', async () => {
    const open = new OpenPicture('picture', halved, blind);
    const drop: Stroke = {
      radius: 7,
      points: [
        [168, 100],
        [178, 160],
      ],
    };
    const first = open.subjectOf('first', subject());
    open.refresh(first.subject, first.mask);
    const then = open.subjectOf('first', subject([], [drop]));
    open.refresh(then.subject, then.mask);
    const settled = await open.find(subject([], [drop]), () => Promise.resolve());
    const { alpha } = await found(halved, subject([], [drop]));
    expect(Buffer.compare(settled.alpha.data, alpha.data)).to.equal(0);
  });
});
