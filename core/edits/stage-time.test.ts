import { expect } from 'chai';
import { addLayer } from './arrange-edits.ts';
import { bareFrames, bareStretches, shiftToCover, toBlame } from '../scene/bare.ts';
import { enlargeToCover, moveToCover } from './bare-cures.ts';
import { setCamera, setFocus, setFraming } from './camera-edits.ts';
import type { Document } from '../document/document.ts';
import { finishPath, propertyAt } from '../document/properties.ts';
import { keysOf } from '../motion/keys.ts';
import { valueAt, type Property } from '../motion/property.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { addFinish } from './finish-edits.ts';
import { changePace, pasteKeys, copiedKeys, setWandering, staggerLayers } from './key-edits.ts';
import { addKey, fastenLayer, setHidden, setLayer, setProperty } from './layer-edits.ts';
import { plainLayer, type Timing } from '../document/layer.ts';
import { hangPicture } from './lift-edit.ts';
import { transform } from '../scene/matrix.ts';
import { layerValue } from '../scene/values.ts';
import { changePose, matchLayers, moveList, storePose } from './pose-edits.ts';
import { addPicture, setFrameRate } from './project-edits.ts';
import { evaluateProject, placedShots, projectLength } from '../scene/sequence.ts';
import { addShot, duplicateShot, setTransition } from './shot-edits.ts';
import { restFraming } from '../document/shot.ts';
import { clipMoment } from '../scene/clip-time.ts';
import { hash, width, apply, card, empty, shotOf, layerOf, drawOf, seenAt, near } from './test-cards.ts';

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
      [0, 1, 2, 3, 4, 5, 6, 7].map(
        (f) => clipMoment({ frames: 4, rate: 10 }, 10, f, { timing: { ...timing, ...change } }).index,
      );
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

  const tint = finishPath('f', 'colour');
  const tinted = (frame: number, document: Document): number[] =>
    valueAt(propertyAt(layerOf(document, 'a'), tint) as Property<number[]>, frame);

  it('hold how things look too: a colour of a finish, a blur, each its own in every pose', () => {
    let document = apply(empty(), card('a'), addFinish('shot', 'a', 'flash', 'f', { colour: [200, 0, 0, 1] }));
    document = apply(document, storePose('shot', 'pose-a', 0));
    for (const [k, colour] of [
      [0, 0, 200, 1],
      [0, 200, 0, 1],
    ].entries())
      document = apply(
        document,
        setProperty('shot', 'a', tint, 20 * (k + 1), colour),
        setProperty('shot', 'a', 'blur', 20 * (k + 1), 5 * k),
        storePose('shot', `pose-${k + 2}`, 20 * (k + 1)),
      );
    expect([0, 20, 40].map((frame) => tinted(frame, document))).to.deep.equal([
      [200, 0, 0, 1],
      [0, 0, 200, 1],
      [0, 200, 0, 1],
    ]);
    expect([0, 20, 40].map((frame) => drawOf(document, 'a', frame).blur)).to.deep.equal([0, 0, 5]);
    // Half way between two poses the colours are between theirs.
    near(tinted(10, document), [100, 0, 100, 1], 1);
    // Moved in time, they take their colours along and leave no key behind.
    const moved = apply(document, changePose('shot', 'pose-2', { frame: 26 }));
    expect(tinted(26, moved)).to.deep.equal([0, 0, 200, 1]);
    expect(keysOf(propertyAt(layerOf(moved, 'a'), tint)!).map((key) => key.frame)).to.deep.equal([0, 26, 40]);
    expect(moveList(shotOf(document).poses[1]!, shotOf(document).poses[2]!).travels).to.deep.equal(['a']);
  });

  it('say that a layer stays whose looks are known to one pose only: an older one, or before a finish came', () => {
    const first = apply(empty(), card('a'), storePose('shot', 'p', 0));
    const later = apply(first, addFinish('shot', 'a', 'flash', 'f'), storePose('shot', 'q', 20));
    const [p, q] = shotOf(later).poses;
    expect(moveList(p!, q!).stays).to.deep.equal(['a']);
    const older = { ...p!, layers: p!.layers.map((one) => ({ ...one, look: {} })) };
    expect(moveList(older, q!).stays).to.deep.equal(['a']);
    const blurred = apply(later, setProperty('shot', 'a', 'blur', 20, 7), storePose('shot', 'q', 20));
    expect(moveList(shotOf(blurred).poses[0]!, shotOf(blurred).poses[1]!).travels).to.deep.equal(['a']);
  });

  it('leave a look alone that is the same in all of them, with the keys it has between', () => {
    const base = apply(empty(), card('a'), addFinish('shot', 'a', 'flash', 'f', { colour: [9, 9, 9, 1] }));
    const keyed = apply(
      base,
      addKey('shot', 'a', tint, 5, [9, 9, 9, 1]),
      addKey('shot', 'a', tint, 10, [80, 9, 9, 1]),
      addKey('shot', 'a', tint, 15, [9, 9, 9, 1]),
    );
    const stored = apply(keyed, storePose('shot', 'p', 0), storePose('shot', 'q', 30));
    expect(propertyAt(layerOf(stored, 'a'), tint)).to.deep.equal(propertyAt(layerOf(keyed, 'a'), tint));
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
