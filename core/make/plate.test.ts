import { expect } from 'chai';
import { makeBytes, makeRgba, type Bytes, type Rgba } from '../pixels/raster.ts';
import { covered, disc, meanDifference, planks } from '../rebuild/test-pictures.ts';
import { noCare } from '../cut/edge-care.ts';
import {
  emptyDocument,
  untouched,
  filesOf,
  readDocument,
  type Document,
  documentVersion,
} from '../document/document.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { addKey, fastenLayer, removeLayer, setFastening, setProperty } from '../edits/layer-edits.ts';
import { liftOut } from '../edits/lift-edit.ts';
import { makeBehind, makeStep, takePart, type PlateWork } from './make-plate.ts';
import { transform } from '../scene/matrix.ts';
import { addTake, replaceWorkingPicture, setPlate } from '../edits/plate-edits.ts';
import { restFraming } from '../document/shot.ts';
import { currentPlate, emptyGuides, firstBehind, type PlateOrder, type PlateStep } from '../document/plate.ts';
import { addPicture, addPiece, removePicture, removePiece, splitPiece } from '../edits/project-edits.ts';
import { padToCover, seenThrough } from '../scene/seen.ts';

const hash = (digit: string): string => digit.repeat(64);
const whole = { x: 0, y: 0, width: 200, height: 140 };
const step: PlateStep = { ...firstBehind, id: 'step', file: hash('d'), bounds: whole, takes: [] };
const region = [{ radius: 10, points: [[100, 90]] as [number, number][] }];

/** A ball on planks, lifted with its shadow; the frame is exactly the picture. */
function lifted(): Document {
  const made = { picture: 'pic', ...untouched };
  return [
    addPicture({
      id: 'pic',
      name: 'Quay',
      original: hash('a'),
      file: hash('b'),
      width: 200,
      height: 140,
      clip: null,
      background: null,
    }),
    addPiece({
      ...made,
      id: 'ball',
      name: 'Ball',
      recipe: { kind: 'subject', answer: 'subject', keep: [], drop: [], box: null },
    }),
    addPiece({ ...made, id: 'shade', name: 'Ball shadow', recipe: { kind: 'shadow', of: 'ball', region } }),
    liftOut({
      pieces: [
        { piece: 'ball', cutout: { file: hash('c'), bounds: { x: 80, y: 50, width: 41, height: 41 } }, layer: 'front' },
        {
          piece: 'shade',
          cutout: { file: hash('e'), bounds: { x: 85, y: 85, width: 30, height: 12 } },
          layer: 'shadow',
        },
      ],
      steps: [step],
      backgroundLayer: 'back',
    }),
  ].reduce((d, edit) => edit.apply(d), emptyDocument('Quay', { width: 200, height: 140, rate: 30 }, 1, 'shot'));
}

const shotOf = (document: Document) => document.shots[0]!;
const drawOf = (document: Document, layer: string) => {
  const still = { x: 0, y: 0, z: 0 };
  return evaluateFrame(document, shotOf(document), 0, still).draws.find((d) => d.layer === layer)!;
};

describe('a lifted shadow on the Stage', () => {
  it('hangs right behind its piece, at its depth, fastened to it, where it was', () => {
    const document = lifted();
    const { layers } = shotOf(document);
    expect(layers.map((l) => l.id)).to.deep.equal(['front', 'shadow', 'back']);
    expect(layers[1]!.depth).to.deep.equal(layers[0]!.depth);
    expect(transform(drawOf(document, 'shadow').matrix, 0, 0)).to.deep.equal([85, 85]);
    expect(drawOf(document, 'shadow').opacity).to.equal(1);
  });

  it('follows sideways, stays on the ground, and fades and shrinks as the piece rises', () => {
    let document = lifted();
    const place = (dx: number, dy: number): Document =>
      setProperty('shot', 'front', 'position', 0, [0.5 + dx, 0.5 + dy]).apply(document);
    const [x, y] = transform(drawOf(place(30, 0), 'shadow').matrix, 15, 6);
    expect([x, y]).to.deep.equal([130, 91]);
    // Risen by 28 of 140 pixels, a fifth of the frame.
    document = setFastening('shot', 'shadow', { fade: 2, shrink: 1 }).apply(document);
    const risen = drawOf(place(0, -28), 'shadow');
    expect(risen.opacity).to.be.closeTo(1 - 2 * 0.2, 1e-9);
    expect(risen.matrix[0]).to.be.closeTo(1 - 0.2, 1e-9);
    expect(transform(risen.matrix, 15, 6)[1]).to.be.closeTo(91, 1e-9);
  });

  it('any layer can be fastened with its place kept, let go again, and is let go when the other is deleted', () => {
    const document = fastenLayer('shot', 'front', 'back', 0).apply(lifted());
    expect(drawOf(document, 'front').matrix).to.deep.equal(drawOf(lifted(), 'front').matrix);
    expect(shotOf(removeLayer('shot', 'back').apply(document)).layers[0]!.fastened).to.equal(null);
    expect(shotOf(fastenLayer('shot', 'front', null, 0).apply(document)).layers[0]!.fastened).to.equal(null);
    // A ring: front follows back, back follows front. Both are drawn all the same.
    const ring = fastenLayer('shot', 'back', 'front', 0).apply(document);
    expect(evaluateFrame(ring, shotOf(ring), 0).draws).to.have.length(3);
  });

  it('goes with its piece, and a document that fastens to nothing is refused', () => {
    const without = removePiece('ball').apply(lifted());
    expect(without.pieces).to.deep.equal([]);
    expect(shotOf(without).layers.map((l) => l.id)).to.deep.equal(['back']);
    const broken = lifted();
    const value = JSON.parse(JSON.stringify(broken)) as Document;
    value.shots[0]!.layers[1]!.fastened!.to = 'nobody';
    expect(() => readDocument(value)).to.throw('cannot be opened');
  });
});

describe('splitting a piece', () => {
  const bounds = (x: number, y: number) => ({ x, y, width: 10, height: 8 });
  const parts = [
    { id: 'one', layer: 'l-one', file: hash('1'), alphaFile: hash('2'), bounds: bounds(82, 52) },
    { id: 'two', layer: 'l-two', file: hash('3'), alphaFile: hash('4'), bounds: bounds(105, 78) },
  ];

  it('puts its things where they were, each about its own middle, under any turn and scale', () => {
    let document = setProperty('shot', 'front', 'rotation', 0, 30).apply(lifted());
    document = setProperty('shot', 'front', 'scale', 0, 1.7).apply(document);
    document = setProperty('shot', 'front', 'position', 0, [12, -9]).apply(document);
    const split = splitPiece('ball', parts).apply(document);
    expect(shotOf(split).layers.map((l) => l.id)).to.deep.equal(['l-one', 'l-two', 'shadow', 'back']);
    for (const part of parts) {
      const corner: [number, number] = [part.bounds.x, part.bounds.y];
      // A point of the picture lies where it lay when the whole was drawn.
      const before = transform(drawOf(document, 'front').matrix, corner[0] - 80, corner[1] - 50);
      const after = transform(drawOf(split, part.layer).matrix, 0, 0);
      expect(after[0]).to.be.closeTo(before[0], 1e-9);
      expect(after[1]).to.be.closeTo(before[1], 1e-9);
      const layer = shotOf(split).layers.find((l) => l.id === part.layer)!;
      expect(layer.pivot).to.deep.equal({ value: [corner[0] + 5, corner[1] + 4] });
    }
  });

  it('keeps the document whole: its files are named, its shadow belongs to the first part, keys move along', () => {
    let document = addKey('shot', 'front', 'position', 0, [0, 0]).apply(lifted());
    document = addKey('shot', 'front', 'position', 20, [50, 10]).apply(document);
    const split = splitPiece('ball', parts).apply(document);
    expect(() => readDocument(JSON.parse(JSON.stringify(split)))).to.not.throw();
    expect(filesOf(split)).to.include.members(['1', '2', '3', '4'].map(hash));
    expect(split.pieces.map((p) => p.name)).to.deep.equal(['Ball 1', 'Ball 2', 'Ball shadow']);
    expect(split.pieces[2]!.recipe).to.include({ of: 'one' });
    const { position } = shotOf(split).layers[0]!;
    if (!('keys' in position)) throw new Error('keys were lost');
    const [a, b] = position.keys;
    expect([b!.value[0] - a!.value[0], b!.value[1] - a!.value[1]]).to.deep.equal([50, 10]);
  });
});

describe('plates in the document', () => {
  const wide: PlateStep = {
    kind: 'widen',
    id: 'wide',
    file: hash('f'),
    bounds: { x: -20, y: 0, width: 240, height: 140 },
    seed: 2,
    takes: [{ seed: 2, file: hash('1'), bounds: { x: -20, y: 0, width: 240, height: 140 } }],
    mix: [],
    pad: { left: 20, right: 20, top: 0, bottom: 0 },
  };

  it('a widened plate is drawn where the picture was, with more to its sides', () => {
    const document = setPlate('Widen', 'pic', [step, wide], 'x').apply(lifted());
    const before = transform(drawOf(lifted(), 'back').matrix, 0, 0);
    const after = drawOf(document, 'back');
    const scale = after.matrix[0];
    expect(transform(after.matrix, 20, 0)[0]).to.be.closeTo(before[0], 1e-9);
    expect(after.width).to.equal(240);
    expect(scale).to.be.closeTo(drawOf(lifted(), 'back').matrix[0], 1e-9);
    expect(currentPlate(document.pictures[0]!.background!).file).to.equal(hash('f'));
    expect(filesOf(document)).to.include.members([hash('d'), hash('f'), hash('1')]);
  });

  it('takes are kept in order of their seed, one for each, and the choice stays', () => {
    const take = (seed: number, file: string) => ({ seed, file, bounds: wide.bounds });
    let document = setPlate('Widen', 'pic', [step, wide], 'x').apply(lifted());
    for (const made of [take(4, hash('4')), take(1, hash('5')), take(4, hash('6'))])
      document = addTake('pic', 'wide', made).apply(document);
    const found = document.pictures[0]!.background!.steps[1] as Extract<PlateStep, { kind: 'widen' }>;
    expect(found.takes.map((t) => [t.seed, t.file[0]])).to.deep.equal([
      [1, '5'],
      [2, '1'],
      [4, '6'],
    ]);
    expect(found.seed).to.equal(2);
  });

  it('a plate made before anything was cut is shown on the Stage; without steps the picture is back', () => {
    let document = emptyDocument('Q', { width: 200, height: 140, rate: 30 }, 1, 'shot');
    document = addPicture(lifted().pictures[0]!).apply(document);
    document = setPlate('Widen', 'pic', [wide], 'back').apply(document);
    expect(shotOf(document).layers.map((l) => l.source.kind)).to.deep.equal(['background']);
    document = setPlate('Take back', 'pic', [], 'back').apply(document);
    expect(evaluateFrame(document, shotOf(document), 0).draws[0]!.content).to.have.property('file', hash('b'));
    document = replaceWorkingPicture('pic', { file: hash('9'), width: 200, height: 140 }).apply(document);
    expect(filesOf(document)).to.include(hash('9'));
  });

  it('a removed photo is no longer what a plate is taken from', () => {
    const other = { ...lifted().pictures[0]!, id: 'other', clip: null, background: null };
    const document = [
      addPicture(other),
      setPlate('x', 'pic', [{ ...step, photo: 'other' } as PlateStep], 'x'),
      removePicture('other'),
    ].reduce((d, e) => e.apply(d), lifted());
    expect(document.pictures[0]!.background!.steps[0]).to.have.property('photo', null);
  });

  it('a project of version 1 opens with its background, recipes and layers', () => {
    const now = lifted();
    const old = JSON.parse(JSON.stringify(now), (key, v: unknown) =>
      ['touches', 'marks', 'care', 'fastened', 'blend'].includes(key) ? undefined : v,
    ) as {
      version: number;
      pieces: { recipe: { kind?: string } }[];
      pictures: { background: unknown }[];
    };
    old.version = 1;
    old.pieces.pop();
    delete old.pieces[0]!.recipe.kind;
    old.pictures[0]!.background = { file: hash('d'), seed: 3 };
    (old as unknown as Document).shots[0]!.layers.splice(1, 1);
    const plain = ['id', 'name', 'source', 'hidden', 'locked', 'position', 'scale', 'rotation', 'opacity'];
    const shot = (old as unknown as { shots: Record<string, unknown>[] }).shots[0]!;
    shot.layers = now.shots[0]!.layers.filter((_, k) => k !== 1).map((layer) => ({
      ...Object.fromEntries(Object.entries(layer).filter(([key]) => plain.includes(key))),
      depth: (layer.depth as { value: number }).value,
      pivot: (layer.pivot as { value: number[] }).value,
    }));
    const { depth, easing } = now.shots[0]!.camera;
    shot.camera = { depth, easing, first: { x: 1, y: 2, size: 0.9 }, last: { x: 3, y: 4, size: 0.8 } };
    for (const added of ['poses', 'markers', 'guides', 'workArea', 'transition']) delete shot[added];
    const opened = readDocument(old);
    expect(opened.version).to.equal(documentVersion);
    expect(opened.pieces[0]!.care).to.deep.equal(noCare);
    expect(opened.shots[0]!.layers.every((l) => l.blend === 'normal')).to.equal(true);
    expect(opened.pieces[0]!.recipe).to.deep.include({ kind: 'subject', answer: 'subject' });
    expect(opened.pictures[0]!.background!.steps[0]).to.deep.include({
      kind: 'behind',
      file: hash('d'),
      seed: 3,
      bounds: whole,
    });
    expect(opened.shots[0]!.layers.map((l) => l.fastened)).to.deep.equal([null, null]);
    expect(opened.shots[0]!.layers.map((l) => l.depth)).to.deep.equal([{ value: 3 }, { value: 6 }]);
    expect(opened.shots[0]!.camera.last).to.deep.equal({ x: 3, y: 4, size: 0.8, roll: 0, focal: 35 });
  });
});

describe('what will be seen', () => {
  it('is what a nearer opaque piece uncovers, as brute force over the pixels finds it', () => {
    const document = structuredClone(setProperty('shot', 'front', 'position', 0, [30.5, 0.5]).apply(lifted()));
    const hole = disc(200, 140, 100, 70, 26);
    const ball = disc(41, 41, 20, 20, 20.5);
    const alpha: Bytes = { ...ball, data: ball.data.map((v) => v * 255) };
    const still = shotOf(document).camera;
    still.first = still.last = restFraming;
    shotOf(document).layers.find((l) => l.id === 'back')!.scale = { value: 1 };
    const { seen, share } = seenThrough(document, 'pic', hole, (file) => (file === hash('c') ? alpha : null));
    let wrong = 0;
    for (let y = 0; y < 140; y++) {
      for (let x = 0; x < 200; x++) {
        if (!hole.data[y * 200 + x]) continue;
        const covered = Math.hypot(x + 0.5 - 130.5, y + 0.5 - 70.5) < 20;
        // Everything uncovered must be seen; the covered middle, further in than the margin, must not.
        if (!covered && !seen.data[y * 200 + x]) wrong++;
        if (Math.hypot(x - 130, y - 70) < 8 && seen.data[y * 200 + x]) wrong++;
      }
    }
    expect(wrong).to.equal(0);
    expect(share).to.be.within(0.6, 0.99);
  });

  it('a plate must be widened by what the frame sees beyond it', () => {
    const document = structuredClone(lifted());
    const shot = shotOf(document);
    shot.layers.find((l) => l.id === 'back')!.scale = { value: 1 };
    shot.camera.first = restFraming;
    shot.camera.last = { ...restFraming, x: 20 };
    // Depth 6 behind a framing plane at depth 3: the frame moves half as far over it.
    expect(padToCover(document, shot, 'pic', whole)).to.deep.equal({ left: 0, top: 0, right: 10, bottom: 0 });
    expect(padToCover(document, shot, 'nothing', whole)).to.equal(null);
  });
});

describe('making plates', () => {
  const ground = planks(200, 140);
  const ball = disc(200, 140, 100, 70, 20);
  const picture: Rgba = { ...ground, data: ground.data.slice() };
  for (let i = 0; i < ball.data.length; i++) if (ball.data[i]) picture.data.set([0, 220, 0], i * 4);
  const cutout = makeRgba(41, 41);
  for (let i = 0; i < 41 * 41; i++)
    cutout.data[i * 4 + 3] = Math.hypot((i % 41) - 20, Math.floor(i / 41) - 20) < 20.5 ? 255 : 0;
  const shadow = makeRgba(30, 12);
  const files: Record<string, Rgba> = { [hash('b')]: picture, [hash('c')]: cutout, [hash('e')]: shadow };
  const work = (): PlateWork => {
    const document = lifted();
    return { document, picture: document.pictures[0]!, load: async (file) => files[file]! };
  };
  const before = { plate: ground, x: 0, y: 0 };
  const order = (change: object): PlateOrder =>
    ({ id: 'x', kind: 'rebuild', region, seed: 1, mix: [], guides: emptyGuides, ...change }) as PlateOrder;

  it('behind: the lifted piece is gone, and the stored shadow is taken as it is', async () => {
    const made = await makeBehind({ ...firstBehind, id: 'step' }, work());
    expect(made.shadows).to.deep.equal([]);
    for (let i = 0; i < ball.data.length; i++) if (ball.data[i]) expect(made.plate.data[i * 4 + 1]).to.be.lessThan(200);
    const lifting = await makeBehind({ ...firstBehind, id: 'step' }, work(), {
      piece: 'ball',
      alpha: makeBytes(200, 140),
    });
    expect(lifting.shadowPieces).to.deep.equal(['shade']);
  });

  it('behind: what the cut left beside the piece is made anew with it, also where only what will be seen is', async () => {
    const tip = disc(200, 140, 121, 70, 5);
    const left: Bytes = { ...tip, data: tip.data.map((v, i) => (v && !ball.data[i] ? 1 : 0)) };
    const withTip = covered(picture, left, [0, 220, 0]);
    const document = structuredClone(setProperty('shot', 'front', 'position', 0, [-19.5, 0.5]).apply(lifted()));
    const still = shotOf(document).camera;
    still.first = still.last = restFraming;
    shotOf(document).layers.find((l) => l.id === 'back')!.scale = { value: 1 };
    const load = async (file: string): Promise<Rgba> => (file === hash('b') ? withTip : files[file]!);
    for (const onlySeen of [false, true]) {
      const made = await makeBehind({ ...firstBehind, id: 'step', onlySeen }, { ...work(), document, load });
      for (let i = 0; i < left.data.length; i++) {
        if (!left.data[i]) continue;
        expect(made.hole.data[i]).to.equal(1);
        expect(made.plate.data[i * 4 + 1], `of ${i}`).to.be.lessThan(200);
      }
      if (onlySeen) expect(made.share).to.be.within(0.3, 0.9);
      else expect(made.share).to.equal(null);
    }
  });

  it('behind: what a key took stood before a screen, and is left on the plate', async () => {
    const keyWork = work();
    const document = structuredClone(keyWork.document);
    document.pieces[0]!.recipe = { kind: 'unveil', black: 8 };
    const made = await makeBehind({ ...firstBehind, id: 'step' }, { ...keyWork, document });
    expect(meanDifference(made.plate, picture, ball)).to.equal(0);
  });

  it('a step on a widened plate works in the pixels of the picture', async () => {
    const wide = { plate: planks(240, 140), x: -20, y: 0 };
    const made = await makeStep(order({}), wide, work());
    expect([made.x, made.plate.width]).to.deep.equal([-20, 240]);
    expect(made.changed).to.deep.equal({ x: 88, y: 78, width: 24, height: 24 });
    expect(takePart(made)!.part.width).to.equal(24);
  });

  it('mixing paints one take into another, inside the strokes only', async () => {
    const big = [{ radius: 30, points: [[100, 70]] as [number, number][] }];
    const [one, two] = [
      await makeStep(order({ region: big }), before, work()),
      await makeStep(order({ region: big, seed: 2 }), before, work()),
    ];
    const mix = [{ seed: 2, strokes: [{ radius: 12, points: [[100, 70]] }] }];
    const mixed = await makeStep(order({ region: big, mix }), before, work());
    const middle = disc(200, 140, 100, 70, 6);
    const rim = disc(200, 140, 100, 70, 28);
    const far: Bytes = {
      ...rim,
      data: rim.data.map((v, i) => (Math.hypot((i % 200) - 100, Math.floor(i / 200) - 70) > 14 ? v : 0)),
    };
    expect(meanDifference(mixed.plate, two.plate, middle)).to.be.lessThan(1);
    expect(meanDifference(mixed.plate, one.plate, far)).to.equal(0);
    expect(meanDifference(one.plate, two.plate, middle)).to.be.greaterThan(2);
  });

  it('retouching changes what its strokes cover, widening adds a border', async () => {
    const touches = [{ kind: 'clone', stroke: region[0], offset: [30, 0], soft: 0.3 }];
    const made = await makeStep(order({ kind: 'retouch', touches }), before, work());
    expect(made.changed!.width).to.be.within(24, 28);
    const wide = await makeStep(
      order({ kind: 'widen', pad: { left: 10, right: 0, top: 5, bottom: 0 } }),
      before,
      work(),
    );
    expect([wide.x, wide.y, wide.plate.width, wide.plate.height]).to.deep.equal([-10, -5, 210, 145]);
  });
});
