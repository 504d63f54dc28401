import { createCanvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import { documentSchema } from '../document/document.ts';
import { setFraming } from '../edits/camera-edits.ts';
import type { Edit } from '../edits/edit.ts';
import { removeLayers, setHidden, setProperty } from '../edits/layer-edits.ts';
import { addProp, changeProp } from '../edits/prop-edits.ts';
import { addShape } from '../edits/shape-edits.ts';
import { apply, card, empty, height, layerOf, near, seenAt, shotOf, width } from '../edits/test-cards.ts';
import { speckSize, type PropMoment, type Specks } from '../props/prop.ts';
import { propKind } from '../props/props.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { storedFrom, valuesAt, type BrushStroke } from '../settings/setting.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

const painted = (document: Document, frame = 0): Uint8ClampedArray => {
  const canvas = createCanvas(width, height);
  const context = contextOf(canvas);
  paintFrame(context, evaluateFrame(document, shotOf(document), frame), testStudio({}), {
    scale: 1,
    ground: '#000000',
  });
  return context.getImageData(0, 0, width, height).data;
};

/** How much light there is in a rectangle of the frame, its middle at 0. */
const lightIn = (data: Uint8ClampedArray, [left, top, right, bottom]: number[]): number => {
  let sum = 0;
  for (let y = top! + height / 2; y < bottom! + height / 2; y++)
    for (let x = left! + width / 2; x < right! + width / 2; x++) sum += data[(y * width + x) * 4 + 1]!;
  return sum / ((right! - left!) * (bottom! - top!));
};

const prop = (kind: string, values: Record<string, unknown>, depth = 3): Edit[] => [
  addProp('shot', kind, { id: 'prop', depth }, values),
];

describe('what props take from other layers', () => {
  it('a flare shines from the pivot of a layer wherever that goes and whatever the camera does', () => {
    const document = apply(
      empty(),
      card('lamp', 6, [-90, -60]),
      setFraming('shot', 'last', { x: 40, y: 20, size: 0.6, roll: 10, focal: 35 }),
      ...prop('flare', { lamp: 'lamp', size: 40, ghosts: 0, streak: 0, points: 0 }, 2),
    );
    for (const frame of [0, 30, 59]) {
      const [x, y] = seenAt(document, 'lamp', 20, 10, frame).map(Math.round) as [number, number];
      const data = painted(apply(document, setHidden('shot', 'lamp', true)), frame);
      const rings = [0, 14, 28].map((r) => lightIn(data, [x + r - 2, y - 2, x + r + 2, y + 2]));
      expect(rings[0], `frame ${frame}`).to.be.above(200);
      expect(rings[0]! > rings[1]! && rings[1]! > rings[2]!).to.equal(true);
    }
  });

  it('a flare grows weaker by as much as nearer layers cover its lamp, and does not where it is not to', () => {
    const lit = (coverX: number, change: Record<string, unknown> = {}, depth = 2.5): number => {
      const document = apply(
        empty(),
        addShape('shot', 'rectangle', { id: 'pier', depth, width: 120, colour: [0, 0, 0, 1] }),
        setProperty('shot', 'pier', 'position', 0, [coverX, 0]),
        ...prop('flare', { place: [0.5, 0.5], size: 400, streak: 0, points: 0, ghosts: 1, ...change }, 3),
        // What shines lies over everything, so that only its own strength is measured.
        setProperty('shot', 'pier', 'opacity', 0, 0.999),
      );
      return lightIn(painted(document), [-190, -140, -130, 140]) + lightIn(painted(document), [130, -140, 190, 140]);
    };
    const [free, half, whole] = [lit(900), lit(60), lit(0)];
    expect(whole).to.be.below(0.05 * free);
    expect(half / free).to.be.within(0.3, 0.7);
    expect(lit(0, { hidden: false })).to.be.above(0.5 * free);
    // What lies behind the lamp covers nothing.
    expect(lit(0, {}, 3.5)).to.be.above(0.5 * free);
  });

  it('a curtain of light stands along a shape: below its outline it is dark', () => {
    const document = apply(
      empty(),
      addShape('shot', 'ellipse', { id: 'shore', depth: 3, width: 300 }),
      setProperty('shot', 'shore', 'position', 0, [0, 20]),
      setHidden('shot', 'shore', true),
      ...prop('curtain', { along: 'shore', height: 80, wave: 0, folds: 1, strength: 1 }),
    );
    const data = painted(document);
    // The lowest line of the disc goes down to 170 in the middle and rises to 20 at its sides.
    expect(lightIn(data, [-20, 100, 20, 140])).to.be.above(8);
    expect(lightIn(data, [-136, 60, -126, 100])).to.be.above(4);
    expect(lightIn(data, [-146, 110, -136, 140])).to.be.below(1);
    expect(lightIn(data, [-190, -140, -160, 140])).to.be.below(1);
  });

  it('sparks rise from the edge of a layer, at rest and with the layer moved, and from a place without one', () => {
    const made = (x: number, layer: string): Document =>
      apply(
        empty(),
        card('claw', 3, [x, 40]),
        setProperty('shot', 'claw', 'scale', 0, 2),
        setHidden('shot', 'claw', false),
        ...prop('sparks', { layer, from: [0.5, 0.8], rise: 0, swirl: 0, spread: 0, amount: 400, streak: 0, size: 4 }),
      );
    for (const x of [-120, 110]) {
      const data = painted(made(x, 'claw'), 20);
      expect(lightIn(data, [x - 44, 16, x + 44, 64])).to.be.above(15);
      // Nothing near the place that is set, which lies at the lower edge in the middle.
      expect(lightIn(data, [-30, 100, 30, 150])).to.be.below(1);
    }
    expect(lightIn(painted(made(-120, ''), 20), [-30, 100, 30, 150])).to.be.above(1);
  });

  it('a layer that is deleted is let go; an older document knows nothing of any, and opens', () => {
    const document = apply(empty(), card('lamp'), ...prop('flare', { lamp: 'lamp' }));
    const gone = apply(document, removeLayers('shot', ['lamp']));
    const settings = (from: Document): Record<string, unknown> => {
      const { source } = layerOf(from, 'prop');
      return source.kind === 'prop' ? source.made.settings : {};
    };
    expect(settings(gone).lamp).to.equal('');
    const old = JSON.parse(JSON.stringify(gone)) as Document;
    delete settings(old).lamp;
    delete settings(old).hidden;
    expect(settings(documentSchema.parse(old)).lamp).to.equal('');
  });
});

describe('painted clusters of stars', () => {
  const moment: PropMoment = { frame: 0, loop: null, width: 400, height: 300, raster: 1 };
  const { settings, make } = propKind('stars')!;
  const starsAt = (painted: BrushStroke[], share = 0.65): [number, number][] => {
    const values = valuesAt(settings, storedFrom(settings, { painted, share, clusters: 0, amount: 3000 }), 0);
    const [specks] = make(values as never, moment) as [Specks];
    return Array.from({ length: specks.values.length / speckSize }, (_, k): [number, number] => [
      specks.values[k * speckSize]!,
      specks.values[k * speckSize + 1]!,
    ]);
  };
  const line: BrushStroke = {
    points: [
      [0.2, 0.3],
      [0.8, 0.3],
    ],
    width: 0.1,
    erases: false,
  };
  const under = ([x, y]: [number, number]): boolean => x > 70 && x < 330 && Math.abs(y - 90) < 15;

  it('as many as asked lie under the marks, most of them in the middle; the rest stays where it was', () => {
    const [plain, marked] = [starsAt([]), starsAt([line])];
    expect(marked).to.have.length(plain.length);
    const stayed = marked.filter((at, k) => at[0] === plain[k]![0] && at[1] === plain[k]![1]);
    expect(stayed.length / plain.length).to.be.closeTo(0.35, 0.04);
    const grown = marked.filter(under).length - plain.filter(under).length * 0.35;
    // Half the width of the brush is two deviations of a Gaussian in each direction.
    expect(grown / (0.65 * plain.length)).to.be.closeTo(0.954, 0.03);
  });

  it('lie evenly along a mark, and marks get as many as they are long and wide', () => {
    const marked = starsAt([line], 1).filter(under);
    const quarters = [0, 1, 2, 3].map((k) => marked.filter(([x]) => Math.floor((x - 80) / 60) === k).length);
    near(
      quarters.map((count) => count / marked.length),
      [0.25, 0.25, 0.25, 0.25],
      0.04,
    );
    const short: BrushStroke = {
      points: [
        [0.2, 0.8],
        [0.4, 0.8],
      ],
      width: 0.1,
      erases: false,
    };
    const low = starsAt([line, short], 1).filter(([, y]) => y > 165).length / 3000;
    // 80 and 240 pixels long, 30 wide.
    expect(low).to.be.closeTo(110 / (110 + 270), 0.04);
  });

  it('a mark that erases leaves none, and the same seed paints the same', () => {
    const erased = starsAt([line, { points: [[0.5, 0]], width: 0.4, erases: true }]);
    expect(erased.filter(([x, y]) => Math.hypot(x - 200, y) < 59.9)).to.deep.equal([]);
    expect(starsAt([line])).to.deep.equal(starsAt([line]));
  });
});

describe('changing a prop', () => {
  it('keeps what it takes from other layers when its size is changed', () => {
    const document = apply(
      empty(),
      card('lamp'),
      ...prop('flare', { lamp: 'lamp' }),
      changeProp('shot', 'prop', { width: 900 }),
    );
    const { source } = layerOf(document, 'prop');
    expect(source.kind === 'prop' && source.made.settings.lamp).to.equal('lamp');
  });
});
