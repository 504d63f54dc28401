import { expect } from 'chai';
import { rectangle } from '../path/forms.ts';
import {
  addLayer,
  alignLayers,
  distributeLayers,
  duplicateLayers,
  groupLayers,
  hangBetween,
  seenBox,
  ungroup,
} from './arrange-edits.ts';
import { bareFrames, bareStretches, enlargeToCover, moveToCover, shiftToCover, toBlame } from './bare.ts';
import { setCamera, setFocus, setFraming } from './camera-edits.ts';
import { emptyDocument, readDocument, type Document } from './document.ts';
import type { Draw } from './draw.ts';
import type { Edit } from './edit.ts';
import { evaluateFrame } from './evaluate.ts';
import { changePace, pasteKeys, copiedKeys, setWandering, staggerLayers, turnIntoKeys } from './key-edits.ts';
import {
  addKey,
  fastenLayer,
  movePivot,
  setDepth,
  setFastening,
  setHidden,
  setLayer,
  setProperty,
} from './layer-edits.ts';
import { plainLayer, type Timing } from './layer.ts';
import { hangPicture } from './lift-edit.ts';
import { transform } from './matrix.ts';
import { positionMovedBy } from './move.ts';
import { cameraAt, layerMatrix, layerValue } from './place.ts';
import { numbersOfPath, pathOfNumbers } from './points.ts';
import { changePose, matchLayers, moveList, storePose } from './pose-edits.ts';
import { addPicture, setFrameRate } from './project-edits.ts';
import { evaluateProject, placedShots, projectLength } from './sequence.ts';
import { addShot, duplicateShot, setTransition } from './shot-edits.ts';
import { restFraming } from './shot.ts';
import { frameLines, snap } from './snap.ts';
import { clipIndex } from './source-pixels.ts';

const hash = (digit: string): string => digit.repeat(64);
const [width, height] = [400, 300];

const apply = (document: Document, ...edits: Edit[]): Document => {
  const after = edits.reduce((d, edit) => edit.apply(d), document);
  return readDocument(JSON.parse(JSON.stringify(after)));
};

const card = (id: string, depth = 3, position: [number, number] = [0, 0]): Edit =>
  addLayer(
    'shot',
    { id, name: id, depth, position },
    {
      source: { kind: 'shape', closed: true, filled: true, gradient: null, stroke: null },
      colour: [200, 40, 40, 1],
      points: numbersOfPath(rectangle({ x: 0, y: 0, width: 40, height: 20 })),
      pivot: [20, 10],
    },
  );

const empty = (): Document => emptyDocument('Quay', { width, height, rate: 30 }, 2, 'shot');
const shotOf = (document: Document) => document.shots[0]!;
const layerOf = (document: Document, id: string) => shotOf(document).layers.find((l) => l.id === id)!;
const drawOf = (document: Document, id: string, frame = 0): Draw =>
  evaluateFrame(document, shotOf(document), frame).draws.find((d) => d.layer === id)!;
/** Where a point of a card's source is seen, from the centre of the frame. */
const seenAt = (document: Document, id: string, x = 20, y = 10, frame = 0): [number, number] => {
  const shot = shotOf(document);
  const matrix = layerMatrix(document, shot, layerOf(document, id), cameraAt(shot, frame), frame)!;
  const [u, v] = transform(matrix, x, y);
  return [u - width / 2, v - height / 2];
};
const near = (got: readonly number[], wanted: readonly number[], within = 1e-6): void =>
  wanted.forEach((v, k) => expect(got[k], `${got.join()} is ${wanted.join()}`).closeTo(v, within));

describe('fastening', () => {
  it('turns and grows with the other about its pivot, as a stick nailed to it would', () => {
    let document = apply(empty(), card('boat'), card('mast', 3, [60, 0]), fastenLayer('shot', 'mast', 'boat', 0));
    document = apply(
      document,
      setProperty('shot', 'boat', 'rotation', 0, 90),
      setProperty('shot', 'boat', 'scale', 0, 2),
    );
    near(seenAt(document, 'mast'), [0, 120]);
    expect(drawOf(document, 'mast').matrix[1]).closeTo(2, 1e-9);
  });

  it('let go stays where it was carried to', () => {
    let document = apply(empty(), card('boat'), card('mast', 3, [60, 0]), fastenLayer('shot', 'mast', 'boat', 0));
    document = apply(document, setProperty('shot', 'boat', 'rotation', 0, 90));
    const before = seenAt(document, 'mast', 0, 0);
    near(seenAt(apply(document, fastenLayer('shot', 'mast', null, 0)), 'mast', 0, 0), before);
  });

  it('keeps touching: feet stay on their shadow while the near layer grows more than the far one', () => {
    let document = apply(
      empty(),
      card('shadow', 6, [30, 80]),
      card('figure', 2, [30, 60]),
      fastenLayer('shot', 'shadow', 'figure', 0),
      setFraming('shot', 'last', { ...restFraming, x: 40, y: 20, size: 0.6 }),
    );
    // The shadow's own middle is where the feet are: 80 below the centre.
    const gap = (d: Document, frame: number): number => {
      const shot = shotOf(d);
      const feet = transform(layerMatrix(d, shot, layerOf(d, 'figure'), cameraAt(shot, frame), frame)!, 20, 30);
      const [x, y] = seenAt(d, 'shadow', 20, 10, frame);
      return Math.hypot(feet[0] - width / 2 - x, feet[1] - height / 2 - y);
    };
    expect(gap(document, 0)).closeTo(0, 1e-6);
    expect(gap(document, 59)).to.be.greaterThan(8);
    document = apply(document, setFastening('shot', 'shadow', { touching: true }));
    expect(gap(document, 59)).closeTo(0, 1e-6);
    const grown = (id: string): number => drawOf(document, id, 59).matrix[0];
    expect(grown('figure')).to.be.greaterThan(grown('shadow') * 1.2);
  });
});

describe('following', () => {
  it('takes a factor of the other, some frames later', () => {
    const document = apply(
      empty(),
      card('lantern'),
      card('shadow'),
      addKey('shot', 'lantern', 'position', 0, [0, 0]),
      addKey('shot', 'lantern', 'position', 40, [0, -80]),
      setWandering('shot', 'shadow', 'scale', 'follow', { layer: 'lantern', of: 'y', factor: 0.005, delay: 10 }),
    );
    const rise = layerValue(shotOf(document), layerOf(document, 'lantern'), 'position', 20)[1];
    expect(layerValue(shotOf(document), layerOf(document, 'shadow'), 'scale', 30)).closeTo(1 + 0.005 * rise, 1e-9);
  });

  it('in a ring ends, and can be turned into keyframes that say the same', () => {
    let document = apply(
      empty(),
      card('a'),
      card('b', 3, [9, 0]),
      setWandering('shot', 'a', 'rotation', 'follow', { layer: 'b', of: 'rotation', factor: 1, delay: 0 }),
      setWandering('shot', 'b', 'rotation', 'follow', { layer: 'a', of: 'rotation', factor: 1, delay: 0 }),
      setWandering('shot', 'b', 'rotation', 'drift', 3),
    );
    const turn = (d: Document, f: number): number => layerValue(shotOf(d), layerOf(d, 'b'), 'rotation', f);
    expect(Number.isFinite(turn(document, 20))).to.equal(true);
    document = apply(document, setWandering('shot', 'a', 'rotation', 'follow', null));
    const keyed = apply(document, turnIntoKeys('shot', 'b', 'rotation'));
    expect(layerOf(keyed, 'b').rotation).not.to.have.property('drift');
    for (const f of [0, 13, 59]) expect(turn(keyed, f)).closeTo(turn(document, f), 0.06);
  });
});

describe('groups', () => {
  const grouped = (): Document =>
    apply(
      empty(),
      card('a', 3, [-50, 0]),
      card('b', 5, [50, 0]),
      groupLayers('shot', ['a', 'b'], { id: 'group', name: 'Pair' }),
    );

  it('change nothing when they are made or taken apart', () => {
    const document = grouped();
    near(seenAt(document, 'a'), [-50, 0]);
    const moved = apply(
      document,
      setProperty('shot', 'group', 'position', 0, [10, 30]),
      setProperty('shot', 'group', 'rotation', 0, 90),
      setProperty('shot', 'group', 'scale', 0, 0.5),
    );
    near(seenAt(moved, 'a'), [10, 5]);
    const apart = apply(moved, ungroup('shot', 'group'));
    near(seenAt(apart, 'a', 0, 0), seenAt(moved, 'a', 0, 0));
    expect(shotOf(apart).layers.map((l) => l.group)).to.deep.equal([null, null]);
  });

  it('keep the distances of their members, which part in a camera move, and take them along in depth', () => {
    const document = apply(grouped(), setFraming('shot', 'last', { ...restFraming, x: 60 }));
    const way = (id: string): number => seenAt(document, id, 20, 10, 59)[0] - seenAt(document, id, 20, 10, 0)[0];
    expect(Math.abs(way('a'))).to.be.greaterThan(Math.abs(way('b')) + 10);
    const further = apply(document, setDepth('shot', 'group', 6));
    expect(['a', 'b'].map((id) => layerOf(further, id).depth)).to.deep.equal([{ value: 6 }, { value: 10 }]);
  });

  it('are one draw once they are faded, and their members hide with them', () => {
    const faded = apply(grouped(), setProperty('shot', 'group', 'opacity', 0, 0.4));
    const { draws } = evaluateFrame(faded, shotOf(faded), 0);
    expect(draws.map((d) => [d.layer, d.content.kind, d.opacity])).to.deep.equal([['group', 'together', 0.4]]);
    const hidden = apply(grouped(), setHidden('shot', 'group', true));
    expect(evaluateFrame(hidden, shotOf(hidden), 0).draws).to.deep.equal([]);
  });

  it('are shown with their solo member, and nothing else is', () => {
    const document = apply(grouped(), card('c'), setLayer('Solo', 'shot', 'a', { solo: true }));
    expect(evaluateFrame(document, shotOf(document), 0).draws.map((d) => d.layer)).to.deep.equal(['a']);
  });
});

describe('time of a layer', () => {
  it('is there only in its bar, or in that of the layer it is like', () => {
    const bar = { first: 10, end: 20 };
    const document = apply(
      empty(),
      card('word'),
      card('pen'),
      setLayer('Trim', 'shot', 'word', { timing: { ...plainLayer.timing, bar } }),
      setLayer('Timing', 'shot', 'pen', { timing: { ...plainLayer.timing, like: 'word' } }),
    );
    const there = [9, 10, 19, 20].map((f) => evaluateFrame(document, shotOf(document), f).draws.length);
    expect(there).to.deep.equal([0, 2, 2, 0]);
  });

  it('on twos holds every second frame', () => {
    const document = apply(
      empty(),
      card('float'),
      setWandering('shot', 'float', 'position', 'drift', [3, 0]),
      setLayer('Timing', 'shot', 'float', { timing: { ...plainLayer.timing, steps: 2 } }),
    );
    expect([0, 1, 2, 3, 4].map((f) => seenAt(document, 'float', 20, 10, f)[0])).to.deep.equal([0, 0, 6, 6, 12]);
  });

  it('of a clip slips, runs faster or backwards, swings, holds and freezes', () => {
    const timing: Timing = plainLayer.timing;
    const shown = (change: Partial<Timing>): number[] =>
      [0, 1, 2, 3, 4, 5, 6, 7].map((f) => clipIndex(4, 1, f, { ...timing, ...change }));
    expect(shown({})).to.deep.equal([0, 1, 2, 3, 0, 1, 2, 3]);
    expect(shown({ slip: 2 })).to.deep.equal([2, 3, 0, 1, 2, 3, 0, 1]);
    expect(shown({ speed: 2 })).to.deep.equal([0, 2, 0, 2, 0, 2, 0, 2]);
    expect(shown({ speed: 0.5 })).to.deep.equal([0, 0, 1, 1, 2, 2, 3, 3]);
    expect(shown({ speed: -1 })).to.deep.equal([3, 2, 1, 0, 3, 2, 1, 0]);
    expect(shown({ ends: 'swing' })).to.deep.equal([0, 1, 2, 3, 3, 2, 1, 0]);
    expect(shown({ ends: 'hold' })).to.deep.equal([0, 1, 2, 3, 3, 3, 3, 3]);
    expect(shown({ freeze: 2 })).to.deep.equal([2, 2, 2, 2, 2, 2, 2, 2]);
  });

  it('keeps its seconds when the frame rate changes', () => {
    const document = apply(
      empty(),
      card('float'),
      setWandering('shot', 'float', 'position', 'drift', [3, 0]),
      setWandering('shot', 'float', 'rotation', 'bob', { amount: 8, period: 30, phase: 0 }),
    );
    const halved = apply(document, setFrameRate(15));
    near(seenAt(halved, 'float', 0, 0, 14), seenAt(document, 'float', 0, 0, 28), 1e-6);
  });
});

describe('arranging', () => {
  it('a moved pivot moves nothing, wherever it goes, and is what the layer turns about', () => {
    const document = apply(empty(), card('seat', 3, [0, 40]), setProperty('shot', 'seat', 'rotation', 0, 30));
    const before = [0, 40].map((x) => seenAt(document, 'seat', x, 5));
    const moved = apply(document, movePivot('shot', 'seat', [20, -300], 0));
    [0, 40].forEach((x, k) => near(seenAt(moved, 'seat', x, 5), before[k]!));
    const pivot = seenAt(moved, 'seat', 20, -300);
    const swung = apply(moved, setProperty('shot', 'seat', 'rotation', 0, -10));
    near(seenAt(swung, 'seat', 20, -300), pivot);
  });

  it('another distance keeps the look at rest, or really takes the layer there', () => {
    const document = apply(empty(), card('a', 2, [60, -20]));
    near(seenAt(apply(document, setDepth('shot', 'a', 4)), 'a', 0, 0), seenAt(document, 'a', 0, 0));
    const away = apply(document, setDepth('shot', 'a', 4, 0, true));
    near(seenAt(away, 'a'), [30, -10]);
    expect(drawOf(away, 'a').matrix[0]).closeTo(0.5, 1e-9);
  });

  it('a drag moves what is seen by just as much, in a turned group under a rolled and pushed camera', () => {
    const document = apply(
      empty(),
      card('a', 2, [-50, 10]),
      groupLayers('shot', ['a'], { id: 'group', name: 'Pair' }),
      setProperty('shot', 'group', 'rotation', 0, 40),
      setProperty('shot', 'group', 'scale', 0, 1.7),
      setFraming('shot', 'first', { ...restFraming, x: 30, size: 0.7, roll: 15 }),
    );
    const shot = shotOf(document);
    const [x, y] = seenAt(document, 'a');
    const place = positionMovedBy(document, shot, layerOf(document, 'a'), cameraAt(shot, 0), 0, [12, -7])!;
    near(seenAt(apply(document, setProperty('shot', 'a', 'position', 0, place)), 'a'), [x + 12, y - 7]);
  });

  it('aligns and spreads layers as they are seen, at whatever distance they hang', () => {
    let document = apply(
      empty(),
      card('a', 2, [-90, -40]),
      card('b', 4, [-10, 20]),
      card('c', 8, [110, 60]),
      setFraming('shot', 'first', { ...restFraming, x: 25, size: 0.8 }),
    );
    const box = (id: string) => seenBox(document, shotOf(document), layerOf(document, id), 0)!;
    document = apply(document, alignLayers('shot', ['a'], 'left', 0));
    expect(box('a').left).closeTo(0, 1e-6);
    document = apply(document, distributeLayers('shot', ['a', 'b', 'c'], 'across', 0));
    expect(box('b').left - box('a').right).closeTo(box('c').left - box('b').right, 1e-6);
    document = apply(document, alignLayers('shot', ['a', 'b', 'c'], 'bottom', 0));
    expect(box('a').bottom).closeTo(box('c').bottom, 1e-6);
  });

  it('hangs layers between two planes, in order of distance and of the list', () => {
    const document = apply(
      empty(),
      card('far', 6),
      card('middle', 4),
      card('near', 2),
      card('cloud', 1),
      hangBetween('shot', ['cloud'], 'middle', 'far'),
    );
    expect(evaluateFrame(document, shotOf(document), 0).draws.map((d) => d.layer)).to.deep.equal([
      'far',
      'cloud',
      'middle',
      'near',
    ]);
    expect(layerOf(document, 'cloud').depth).to.deep.equal({ value: 5 });
  });

  it('copies keep what ties them to one another, and wave like the first with a phase of their own', () => {
    const sway = { id: 'wave', phase: 0, like: null, region: null, soft: 0, direction: 90, size: 50, strength: 5 };
    let document = apply(empty(), card('pole'), card('flag'), fastenLayer('shot', 'flag', 'pole', 0));
    document = apply(
      document,
      setLayer('Sway', 'shot', 'flag', {
        sways: [{ ...sway, period: 30, pinned: 'left', shade: 0, loops: true }],
      }),
      duplicateLayers('shot', [
        { of: 'pole', id: 'pole-2' },
        { of: 'flag', id: 'flag-2' },
      ]),
    );
    expect(layerOf(document, 'flag-2').fastened!.to).to.equal('pole-2');
    expect(layerOf(document, 'flag-2').sways[0]).to.deep.include({ like: 'wave', phase: 0.5 });
    expect(new Set(shotOf(document).layers.map((l) => l.name)).size).to.equal(4);
  });

  it('catches the nearest line within reach, by an edge or the middle', () => {
    const lines = frameLines(300, 200);
    expect(snap({ left: 146, right: 166, top: 3, bottom: 40 }, lines, 6)).to.deep.equal({
      dx: 4,
      dy: -3,
      x: 150,
      y: 0,
    });
    expect(snap({ left: 120, right: 136, top: 20, bottom: 60 }, lines, 4)).to.deep.equal({
      dx: 0,
      dy: 0,
      x: null,
      y: null,
    });
  });

  it('writes shapes as numbers and reads them back', () => {
    const path = rectangle({ x: 3, y: 4, width: 50, height: 30 }, 8);
    const back = pathOfNumbers(numbersOfPath(path), true);
    expect(back.points.map(({ at, in: a, out }) => ({ at, a, out }))).to.deep.equal(
      path.points.map(({ at, in: a, out }) => ({ at, a, out })),
    );
  });
});

describe('many keys', () => {
  const nine = Array.from({ length: 9 }, (_, k) => `float-${k}`);
  const raised = (): Document =>
    apply(
      empty(),
      ...nine.map((id) => card(id)),
      ...nine.flatMap((id) => [
        addKey('shot', id, 'position', 0, [0, 0]),
        addKey('shot', id, 'position', 10, [0, -30]),
      ]),
    );

  it('stagger: each layer does the same some frames after the one before', () => {
    const document = apply(raised(), staggerLayers('shot', nine, 2));
    for (const [k, id] of nine.entries())
      near(layerValue(shotOf(document), layerOf(document, id), 'position', 5 + 2 * k), [0, -15], 1e-4);
  });

  it('copied from one layer are pasted into others at the playhead', () => {
    const document = raised();
    const refs = [0, 10].map((frame) => ({ layer: 'float-0', property: 'position' as const, frame }));
    const pasted = apply(document, pasteKeys('shot', copiedKeys(shotOf(document), refs), ['float-3'], 30));
    near(layerValue(shotOf(pasted), layerOf(pasted, 'float-3'), 'position', 35), [0, -15], 1e-4);
  });

  it('slower and faster stretch everything the layer does about its first key', () => {
    const document = apply(raised(), changePace('shot', 'float-0', 0.5));
    near(layerValue(shotOf(document), layerOf(document, 'float-0'), 'position', 10), [0, -15], 1e-4);
  });
});

describe('bare frame', () => {
  const withBack = (): Document => {
    const picture = { id: 'pic', name: 'Quay', original: hash('a'), file: hash('b'), width: 400, height: 300 };
    return apply(
      empty(),
      addPicture({ ...picture, clip: null, background: null }),
      hangPicture('pic', 'back'),
      setProperty('shot', 'back', 'scale', 0, 1.25),
    );
  };

  it('is found, blamed on the layer that should cover it, and cured by the shortest move', () => {
    const document = apply(withBack(), setFraming('shot', 'last', { ...restFraming, x: 150 }));
    const bare = bareFrames(document, shotOf(document));
    const [stretch] = bareStretches(bare);
    expect(bare[0]).to.equal(0);
    expect(stretch!.end).to.equal(60);
    expect(bare[stretch!.worst]).to.equal(Math.max(...bare));
    expect(toBlame(shotOf(document), 59)!.id).to.equal('back');
    // Depth 6 behind the framed plane at 3: the frame moves by 75 over a picture with 50 to spare on each side.
    const way = shiftToCover(document, shotOf(document), layerOf(document, 'back'))!;
    near(way, [25, 0], 0.7);
    const cured = apply(document, moveToCover('shot', 'back'));
    expect(Math.max(...bareFrames(cured, shotOf(cured)))).to.equal(0);
  });

  it('counts what a blur leaves clear at the border, and the cure with it', () => {
    const blurred = apply(
      withBack(),
      setProperty('shot', 'back', 'scale', 0, 1),
      setProperty('shot', 'back', 'blur', 0, 8),
    );
    expect(Math.max(...bareFrames(blurred, shotOf(blurred)))).to.be.greaterThan(0.05);
    const cured = apply(blurred, enlargeToCover('shot', 'back'));
    expect(Math.max(...bareFrames(cured, shotOf(cured)))).to.equal(0);
  });

  it('cannot be cured by a move where the picture is too small for all of the way', () => {
    const document = apply(withBack(), setFraming('shot', 'last', { ...restFraming, x: 400 }));
    expect(shiftToCover(document, shotOf(document), layerOf(document, 'back'))).to.equal(null);
  });

  it('is nowhere once a colour lies behind everything', () => {
    const document = apply(
      withBack(),
      setFraming('shot', 'last', { ...restFraming, x: 400 }),
      addLayer('shot', { id: 'sky', name: 'Sky', depth: 40 }, { source: { kind: 'colour' }, colour: [9, 9, 9, 1] }),
    );
    expect(Math.max(...bareFrames(document, shotOf(document)))).to.equal(0);
  });
});

describe('focus', () => {
  it('is sharp where it is, blurs the rest by distance, and is pulled by keyframes', () => {
    const document = apply(
      empty(),
      card('near', 2),
      card('far', 8),
      setCamera('Aperture', 'shot', { aperture: 40 }),
      setFocus('shot', 0, 2),
    );
    expect(drawOf(document, 'near').blur).to.equal(0);
    expect(drawOf(document, 'far').blur).closeTo((40 * (6 / 8)) / 4, 1e-9);
  });
});

describe('poses', () => {
  const posed = (): Document => {
    let document = apply(empty(), card('a', 3, [-80, 0]), card('b', 4, [0, 0]), card('late', 5, [50, 50]));
    document = apply(document, setHidden('shot', 'late', true), storePose('shot', 'pose-a', 0));
    document = apply(
      document,
      setProperty('shot', 'a', 'position', 0, [90, 20]),
      setHidden('shot', 'late', false),
      setHidden('shot', 'b', true),
      storePose('shot', 'pose-b', 40),
    );
    return document;
  };

  it('say what travels, appears and disappears, and play it', () => {
    const document = posed();
    const [a, b] = shotOf(document).poses;
    expect(moveList(a!, b!)).to.deep.equal({
      travels: ['a'],
      stays: [],
      appears: ['late'],
      disappears: ['b'],
      becomes: [],
    });
    near(seenAt(document, 'a', 20, 10, 0), [-80, 0]);
    near(seenAt(document, 'a', 20, 10, 20), [5, 10], 1e-4);
    near(seenAt(document, 'a', 20, 10, 40), [90, 20]);
    const there = (frame: number): string[] =>
      evaluateFrame(document, shotOf(document), frame)
        .draws.map((d) => d.layer)
        .sort();
    expect([there(0), there(20), there(40)]).to.deep.equal([
      ['a', 'b'],
      ['a', 'b', 'late'],
      ['a', 'late'],
    ]);
  });

  it('are held, moved in time and matched by hand', () => {
    let document = apply(posed(), changePose('shot', 'pose-a', { hold: 10 }));
    near(seenAt(document, 'a', 20, 10, 10), [-80, 0]);
    document = apply(document, changePose('shot', 'pose-b', { frame: 50 }));
    near(seenAt(document, 'a', 20, 10, 50), [90, 20]);
    document = apply(document, matchLayers('shot', 'pose-a', 'b', 'late'));
    expect(moveList(shotOf(document).poses[0]!, shotOf(document).poses[1]!).becomes).to.deep.equal([
      { layer: 'b', next: 'late' },
    ]);
    // The one that leaves goes to where the other will be, which comes from where it was.
    near(seenAt(document, 'b', 20, 10, 50), [50, 50]);
    near(seenAt(document, 'late', 20, 10, 0), [0, 0]);
  });
});

describe('shots in order', () => {
  const two = (): Document =>
    apply(
      empty(),
      card('a', 3, [-80, 0]),
      duplicateShot('shot', 'shot-2'),
      setProperty('shot-2', 'shot-2-0', 'position', 0, [80, 0]),
    );

  it('follow one another, and overlap for as long as they go over', () => {
    const document = two();
    expect(projectLength(document)).to.equal(120);
    const over = apply(document, setTransition('shot', { kind: 'crossfade', frames: 20 }));
    expect(placedShots(over).map(({ first, end }) => [first, end])).to.deep.equal([
      [0, 60],
      [40, 100],
    ]);
    const at = (d: Document, frame: number): string[] => evaluateProject(d, frame).draws.map((draw) => draw.layer);
    expect([at(document, 59), at(document, 60)]).to.deep.equal([['a'], ['shot-2-0']]);
    const middle = evaluateProject(over, 50).draws.at(-1)!;
    expect([middle.content.kind, middle.opacity]).to.deep.equal(['together', 11 / 21]);
    const wiped = evaluateProject(apply(document, setTransition('shot', { kind: 'wipe', frames: 20 })), 50).draws.at(
      -1,
    )!;
    expect(wiped.window!.free!.dx).to.equal(-1);
  });

  it('matched, what both show travels from one place to the other', () => {
    const document = apply(two(), setTransition('shot', { kind: 'pose-match', frames: 21 }));
    const placed = placedShots(document)[1]!;
    const { draws } = evaluateProject(document, placed.first + 10);
    expect(draws).to.have.length(1);
    const [x] = transform(draws[0]!.matrix, 20, 10);
    expect(x - width / 2).closeTo(0, 1e-6);
  });

  it('an empty shot can be added, and what a copy ties stays in the copy', () => {
    const document = apply(
      empty(),
      card('a'),
      card('b'),
      fastenLayer('shot', 'b', 'a', 0),
      duplicateShot('shot', 'copy'),
      addShot('copy', 'last'),
    );
    expect(document.shots.map((s) => s.layers.length)).to.deep.equal([2, 2, 0]);
    const names = new Set(document.shots[1]!.layers.map((l) => l.id));
    expect(names.has(document.shots[1]!.layers.find((l) => l.fastened)!.fastened!.to)).to.equal(true);
  });
});
