import { blind } from '../../core/learned/subject-networks.ts';
import { expect } from 'chai';
import { alphaWithLines } from '../../core/cut/line-alpha.ts';
import type { Stroke } from '../../core/cut/strokes.ts';
import { ellipse } from '../../core/path/forms.ts';
import { alphaOfShapes, plainShape } from '../../core/path/shapes.ts';
import { seededRandom } from '../../core/pixels/random.ts';
import { makeRgba, type Bytes, type Rgba } from '../../core/pixels/raster.ts';
import type { CutRecipe, SubjectRecipe } from '../../core/document/recipe.ts';
import { OpenPicture } from './open-picture.ts';

/** A red float with a pale band and a thin pole, over mottled water. */
function floatOnWater(width: number, height: number): Rgba {
  const random = seededRandom(21);
  const picture = makeRgba(width, height);
  const radius = height * 0.22;
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [(i % width) - width / 2, Math.floor(i / width) - height * 0.58];
    const body = Math.hypot(x, y) < radius;
    const pole = Math.abs(x) < 2.5 && y < 0 && y > -radius * 2.2;
    const water = 92 + 9 * Math.sin(y * 0.21 + 2 * Math.sin(x * 0.05));
    const colour = body
      ? Math.abs(y) < radius / 4
        ? [232, 224, 206]
        : [198, 58, 42]
      : pole
        ? [60, 50, 44]
        : [water * 0.7, water, water * 1.1];
    picture.data.set([...colour.map((v) => v + 6 * (random() - 0.5)), 255], i * 4);
  }
  return picture;
}

const subject = (keep: Stroke[] = [], drop: Stroke[] = []): SubjectRecipe => ({
  ...{ kind: 'subject', answer: 'subject', box: null },
  keep: keep.map((stroke) => ({ ...stroke, points: stroke.points.map(([x, y]): [number, number] => [x, y]) })),
  drop: drop.map((stroke) => ({ ...stroke, points: stroke.points.map(([x, y]): [number, number] => [x, y]) })),
});

/** Share of pixels that differ by more than a little, and the mean difference in bytes. */
function gap(a: Bytes, b: Bytes): { share: number; mean: number } {
  let [far, sum] = [0, 0];
  for (let i = 0; i < a.data.length; i++) {
    const d = Math.abs(a.data[i]! - b.data[i]!);
    sum += d;
    if (d > 8) far++;
  }
  return { share: far / a.data.length, mean: sum / a.data.length };
}

const atOnce = (): Promise<void> => Promise.resolve();

describe('a picture that is being cut', () => {
  const [width, height] = [360, 260];
  const picture = floatOnWater(width, height);
  const strokes: Stroke[] = [
    {
      radius: 9,
      points: [
        [120, 200],
        [150, 214],
      ],
    },
    {
      radius: 6,
      points: [
        [250, 90],
        [262, 120],
      ],
    },
    {
      radius: 5,
      points: [
        [180, 40],
        [181, 60],
      ],
    },
  ];

  it('alpha that was renewed around each stroke is the alpha of the whole, found at once', () => {
    const open = new OpenPicture('picture', picture, blind);
    for (let n = 0; n <= strokes.length; n++) {
      const said = subject(strokes.slice(2, n), strokes.slice(0, Math.min(2, n)));
      const { subject: found, mask } = open.subjectOf('first', said);
      open.refresh(found, mask);
      const { share, mean } = gap(found.alpha!, alphaWithLines(picture, mask, said));
      expect(share, `after ${n} strokes`).to.be.below(0.001);
      expect(mean, `after ${n} strokes`).to.be.below(0.1);
    }
  });

  it('is made ready step by step: what stands out too, unless that takes long, and nothing counts as found by that', () => {
    const open = new OpenPicture('picture', picture, blind);
    expect([1, 2, 3].map(() => open.prepare())).to.deep.equal([true, false, false]);
    expect(open.knows('first')).to.equal(false);
    const alone = new OpenPicture('picture', picture, blind);
    const [made, anew] = [open, alone].map((one) => one.subjectOf('first', subject(strokes)));
    expect(made!.mask.data).to.deep.equal(anew!.mask.data);
    expect(made!.subject.strokes).to.deep.equal(anew!.subject.strokes);
    const large = new OpenPicture('picture', floatOnWater(2400, 1600), blind);
    expect([1, 2].map(() => large.prepare())).to.deep.equal([false, false]);
  });

  it('alpha that has settled is that of mask and strokes alone, to the byte, after whatever came before', async () => {
    const open = new OpenPicture('picture', picture, blind);
    for (let n = 0; n <= strokes.length; n++) {
      const said = subject(strokes.slice(0, n));
      const { subject: found, mask } = open.subjectOf('first', said);
      open.refresh(found, mask);
      const before = found.alpha!;
      const changed = await open.settle(found, mask, atOnce);
      expect(
        Buffer.compare(found.alpha!.data, alphaWithLines(picture, mask, said).data),
        `after ${n} strokes`,
      ).to.equal(0);
      for (let i = 0; i < before.data.length; i++) {
        const [x, y] = [i % width, Math.floor(i / width)];
        const within =
          changed &&
          x >= changed.x &&
          y >= changed.y &&
          x < changed.x + changed.width &&
          y < changed.y + changed.height;
        if (!within) expect(found.alpha!.data[i]).to.equal(before.data[i]);
      }
      expect(await open.settle(found, mask, atOnce), 'nothing more').to.equal(null);
      const whole = await open.find(subject(strokes.slice(0, n)), () => Promise.resolve());
      expect(Buffer.compare(whole.alpha.data, found.alpha!.data)).to.equal(0);
    }
  });

  it('settling that is left in the middle changes nothing, and is done when it is asked for again', async () => {
    const open = new OpenPicture('picture', floatOnWater(1200, 800), blind);
    const first = open.subjectOf('first', subject());
    open.refresh(first.subject, first.mask);
    const said = subject([], [strokes[0]!]);
    const { subject: found, mask } = open.subjectOf('first', said);
    open.refresh(found, mask);
    expect(found.settled).to.equal(false);
    const before = found.alpha;
    let steps = 0;
    const left = open.settle(found, mask, () =>
      ++steps === 4 ? Promise.reject(new Error('something newer is wanted')) : Promise.resolve(),
    );
    const reason: unknown = await left.catch((error: unknown) => error);
    expect(reason).to.be.an('error').with.property('message', 'something newer is wanted');
    expect(found.alpha).to.equal(before);
    expect(found.settled).to.equal(false);
    await open.settle(found, mask, atOnce);
    expect(Buffer.compare(found.alpha!.data, alphaWithLines(open.picture, mask, said).data)).to.equal(0);
  });

  it('a stroke renews a part of a large picture, and the same wish again nothing', () => {
    const large = floatOnWater(1200, 800);
    const open = new OpenPicture('picture', large, blind);
    const first = open.subjectOf('first', subject());
    expect(open.refresh(first.subject, first.mask)).to.deep.equal({ x: 0, y: 0, width: 1200, height: 800 });
    const drop: Stroke[] = [
      {
        radius: 12,
        points: [
          [700, 470],
          [720, 500],
        ],
      },
    ];
    const second = open.subjectOf('first', subject([], drop));
    const area = open.refresh(second.subject, second.mask);
    expect(area).not.to.equal(null);
    expect(area!.width * area!.height).to.be.below(0.6 * 1200 * 800);
    const third = open.subjectOf('first', subject([], drop));
    expect(open.refresh(third.subject, third.mask)).to.equal(null);
    expect(open.knows('first')).to.equal(true);
    expect(open.knows('second')).to.equal(false);
  });

  it('steps are joined in their order: what an outline takes away is gone, whatever was found there', async () => {
    const shape = { ...plainShape, id: 'shape-a', path: ellipse({ x: 150, y: 166, width: 60, height: 48 }) };
    const steps = [
      { id: 'step-a', how: 'add' as const, muted: false, recipe: subject() },
      { id: 'step-b', how: 'take' as const, muted: false, recipe: { kind: 'shape' as const, shapes: [shape] } },
    ];
    const recipe: CutRecipe = { kind: 'combined', steps, inverted: false };
    let waits = 0;
    const found = await new OpenPicture('picture', picture, blind).find(recipe, async () => void waits++);
    let waitsAlone = 0;
    const alone = await new OpenPicture('picture', picture, blind).find(subject(), async () => void waitsAlone++);
    expect(waits, 'only the costly step is waited for').to.equal(waitsAlone).and.to.be.greaterThan(1);
    const hole = alphaOfShapes([shape], width, height);
    for (let i = 0; i < found.alpha.data.length; i++)
      if (Math.abs(found.alpha.data[i]! - (alone.alpha.data[i]! * (255 - hole.data[i]!)) / 255) > 1.01)
        expect.fail(`pixel ${i % width}, ${Math.floor(i / width)}`);
    const muted = { ...recipe, steps: [steps[0]!, { ...steps[1]!, muted: true }] };
    expect(
      gap((await new OpenPicture('picture', picture, blind).find(muted, async () => undefined)).alpha, alone.alpha)
        .mean,
    ).to.equal(0);
  });

  it('a clinging line begins and ends where it was pressed, and follows the edge between, on pictures of any size', () => {
    for (const [w, h] of [
      [360, 260],
      [2720, 1960],
    ] as const) {
      const open = new OpenPicture('picture', w === width ? picture : floatOnWater(w, h), blind);
      const [cx, cy, radius] = [w / 2, h * 0.58, h * 0.22];
      const from: [number, number] = [cx + radius, cy];
      const to: [number, number] = [cx, cy + radius];
      const way = open.wayAlongEdges(from, to, 0.7);
      expect(way[0]).to.deep.equal(from);
      expect(way.at(-1)).to.deep.equal(to);
      const off = way.map(([x, y]) => Math.abs(Math.hypot(x - cx, y - cy) - radius));
      expect(Math.max(...off), `${w} pixels wide`).to.be.below((4 * w) / 1300 + 3);
    }
  });
});
