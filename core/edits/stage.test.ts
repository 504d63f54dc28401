import { plainWords } from '../document/words.ts';
import { expect } from 'chai';
import { rectangle } from '../path/forms.ts';
import { seenBox } from '../scene/seen-box.ts';
import {
  addLayer,
  alignLayers,
  distributeLayers,
  duplicateLayers,
  groupLayers,
  hangBetween,
  ungroup,
} from './arrange-edits.ts';
import { setFraming } from './camera-edits.ts';
import type { Document } from '../document/document.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { setWandering, turnIntoKeys } from './key-edits.ts';
import {
  addKey,
  changeText,
  fastenLayer,
  movePivot,
  setDepth,
  setFastening,
  setHidden,
  setLayer,
  setProperty,
} from './layer-edits.ts';
import { transform } from '../scene/matrix.ts';
import { positionMovedBy } from '../scene/move.ts';
import { cameraAt, layerMatrix } from '../scene/place.ts';
import { layerValue } from '../scene/values.ts';
import { numbersOfPath, pathOfNumbers } from '../document/points.ts';
import { storePose } from './pose-edits.ts';
import { restFraming } from '../document/shot.ts';
import { frameLines, snap } from '../scene/snap.ts';
import { width, height, apply, card, empty, shotOf, layerOf, drawOf, seenAt, near } from './test-cards.ts';

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

  it('leave nothing behind that names them when they are taken apart', () => {
    const follow = { layer: 'group', of: 'x', factor: 1, delay: 0 } as const;
    const posed = apply(
      grouped(),
      setWandering('shot', 'a', 'opacity', 'follow', follow),
      storePose('shot', 'pose', 0),
      ungroup('shot', 'group'),
    );
    expect(layerOf(posed, 'a').opacity).to.deep.equal({ value: 1 });
    expect(shotOf(posed).poses[0]!.layers.map(({ layer }) => layer)).to.have.members(['a', 'b']);
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

  it('a member seen through its own group, or two layers through each other, come to an end', () => {
    const window = (to: string) => ({ to, how: 'inside' as const, by: 'alpha' as const, free: null });
    const inside = apply(grouped(), setLayer('Window', 'shot', 'a', { window: window('group') }));
    const [b, a] = evaluateFrame(inside, shotOf(inside), 0).draws;
    expect([b!.layer, a!.layer]).to.deep.equal(['b', 'a']);
    expect(a!.window!.matte.map((d) => [d.layer, d.window])).to.deep.equal([
      ['b', null],
      ['a', null],
    ]);
    const ring = apply(inside, setLayer('Window', 'shot', 'b', { window: window('a') }));
    expect(evaluateFrame(ring, shotOf(ring), 0).draws).to.have.length(2);
  });

  it('are shown with their solo member, and nothing else is', () => {
    const document = apply(grouped(), card('c'), setLayer('Solo', 'shot', 'a', { solo: true }));
    expect(evaluateFrame(document, shotOf(document), 0).draws.map((d) => d.layer)).to.deep.equal(['a']);
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

  it('copies are numbered on', () => {
    const copy = (of: string, id: string) => duplicateLayers('shot', [{ of, id }]);
    const document = apply(empty(), card('flag'), copy('flag', 'a'), copy('a', 'b'), copy('b', 'c'), copy('flag', 'd'));
    const name = (id: string): string => layerOf(document, id).name;
    expect(['a', 'b', 'c', 'd'].map(name)).to.deep.equal(['flag 2', 'flag 3', 'flag 4', 'flag 5']);
  });

  it('words set late keep what was set meanwhile, and take the room they need then', () => {
    const source = {
      ...plainWords,
      text: 'Flood',
      face: 'slab',
      size: 40,
      align: 'left' as const,
      leading: 1.1,
      box: { width: 100, height: 44 },
    };
    const measure = ({ text, size }: { text: string; size: number }) => ({ width: text.length * size, height: size });
    const start = apply(empty(), addLayer('shot', { id: 't', name: 't', depth: 3 }, { source, colour: [0, 0, 0, 1] }));
    // The first waits for its face, and is done after the second.
    const late = changeText('shot', 't', { face: 'script' }, measure);
    const done = apply(start, changeText('shot', 't', { text: 'High water' }, measure), late);
    expect(layerOf(done, 't').source).to.deep.include({ text: 'High water', face: 'script' });
    expect(layerOf(done, 't').source).to.deep.include({ box: { width: 400, height: 40 } });
    const unmeasured = apply(
      start,
      changeText('shot', 't', { size: 80 }, () => undefined),
    );
    expect(layerOf(unmeasured, 't').source).to.deep.include({ size: 80, box: source.box });
  });

  it('a copied group has copies of what is in it, also of groups in it, and the first one keeps its own', () => {
    const inner = apply(empty(), card('a'), card('b'), groupLayers('shot', ['a', 'b'], { id: 'inner', name: 'Inner' }));
    const both = apply(inner, card('c'), groupLayers('shot', ['inner', 'c'], { id: 'outer', name: 'Outer' }));
    const document = apply(both, duplicateLayers('shot', [{ of: 'outer', id: 'copy' }]));
    const { layers } = shotOf(document);
    const within = (group: string): string[] => layers.filter((l) => l.group === group).map((l) => l.id);
    expect(within('outer')).to.have.members(['inner', 'c']);
    expect(within('inner')).to.have.members(['a', 'b']);
    expect(within('copy')).to.have.length(2);
    const copiedInner = layers.find((l) => l.group === 'copy' && l.source.kind === 'group')!;
    expect(within(copiedInner.id)).to.have.length(2);
    // Only the group itself is set aside: its members lie in it as they did.
    const [first, second] = ['a', within(copiedInner.id)[1]!].map((id) => layerOf(document, id).position);
    expect(second).to.deep.equal(first);
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
