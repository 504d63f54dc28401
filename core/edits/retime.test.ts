import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import type { Layer } from '../document/layer.ts';
import { plainWords, type TextChanges } from '../document/words.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { addLayer } from './arrange-edits.ts';
import { changeArrival, setArrival, setLeaving } from './arrival-edits.ts';
import { addKey, setLayer } from './layer-edits.ts';
import { setWandering } from './key-edits.ts';
import { setEnds, setFrameRate } from './project-edits.ts';
import { newRepeat, setRepeat } from './repeat-edits.ts';
import { apply, card, empty, layerOf, near, seenAt, shotOf } from './test-cards.ts';

const sway = { id: 'wave', region: null, soft: 0, direction: 90, size: 50, strength: 5, pinned: 'none', shade: 0 };
const words = (id: string, changes: TextChanges) =>
  addLayer(
    'shot',
    { id, name: id, depth: 3 },
    {
      source: { ...plainWords, text: '#', face: 'condensed', size: 40, box: { width: 80, height: 40 }, changes },
      colour: [0, 0, 0, 1],
    },
  );

/** A project at 30 frames a second in which everything that counts frames does. */
function busy(): Document {
  const document = apply(
    empty(),
    card('flag'),
    addKey('shot', 'flag', 'position', 10, [0, 0]),
    addKey('shot', 'flag', 'position', 40, [90, 0]),
    setWandering('shot', 'flag', 'rotation', 'bob', { amount: 8, period: 20, phase: 0 }),
    setWandering('shot', 'flag', 'scale', 'jitter', { amount: 0.1, period: 12, seed: 3 }),
    setArrival('shot', ['flag'], 'fade'),
    setLeaving('shot', ['flag'], 'fade'),
    changeArrival('shot', 'flag', 'arrive', { length: 8 }),
    changeArrival('shot', 'flag', 'leave', { length: 14 }),
    setRepeat('shot', 'flag', { ...newRepeat(40), delay: 6 }),
    setLayer('Sway', 'shot', 'flag', {
      sways: [{ ...sway, period: 30, phase: 0, loops: true, like: null }] as Layer['sways'],
    }),
    setLayer('Bar', 'shot', 'flag', {
      timing: { ...layerOf(apply(empty(), card('a')), 'a').timing, bar: { first: 4, end: 56 } },
    }),
    words('list', {
      kind: 'words',
      list: [
        { text: 'Tide', frames: 12 },
        { text: 'Clock', frames: 18 },
      ],
      repeats: true,
    }),
    words('count', {
      kind: 'number',
      from: 0,
      to: 9,
      decimals: 0,
      grouped: false,
      begin: 10,
      length: 20,
      easing: 'linear',
    }),
    setEnds({ kind: 'crossfade', frames: 16 }),
  );
  const shot = {
    ...shotOf(document),
    camera: { ...shotOf(document).camera, shake: { amount: 4, roll: 0, period: 8, seed: 1 } },
    markers: [{ frame: 22, name: 'Gust' }],
    workArea: { first: 10, end: 50 },
    transition: { ...shotOf(document).transition, frames: 24 },
  } as Document['shots'][0];
  return { ...document, shots: [shot] };
}

/** Everything that is a time, in seconds. */
function secondsIn(document: Document): Record<string, number | number[]> {
  const { rate } = document.frame;
  const [shot, flag] = [shotOf(document), layerOf(document, 'flag')];
  const changesOf = (id: string) => {
    const { source } = layerOf(document, id);
    return source.kind === 'text' ? source.changes! : null;
  };
  const [list, count] = [changesOf('list'), changesOf('count')];
  const frames: Record<string, number | number[]> = {
    length: shot.length,
    keys: 'keys' in flag.position ? flag.position.keys.map(({ frame }) => frame) : [],
    bob: flag.rotation.bob!.period,
    jitter: flag.scale.jitter!.period,
    arrival: flag.arrive!.length,
    leaving: flag.leave!.length,
    'delay of copies': flag.repeat!.delay,
    sway: flag.sways[0]!.period,
    bar: [flag.timing.bar!.first, flag.timing.bar!.end],
    words: list?.kind === 'words' ? list.list.map((word) => word.frames) : [],
    count: count?.kind === 'number' ? [count.begin, count.length] : [],
    shake: shot.camera.shake!.period,
    markers: shot.markers.map(({ frame }) => frame),
    'work area': [shot.workArea!.first, shot.workArea!.end],
    transition: shot.transition.frames,
    ends: document.ends.frames,
  };
  const inSeconds = (v: number): number => Number((v / rate).toFixed(9));
  return Object.fromEntries(
    Object.entries(frames).map(([name, v]) => [name, Array.isArray(v) ? v.map(inSeconds) : inSeconds(v)]),
  );
}

describe('another frame rate', () => {
  for (const rate of [15, 60])
    it(`of ${rate} leaves everything at its seconds`, () => {
      expect(secondsIn(apply(busy(), setFrameRate(rate)))).to.deep.equal(secondsIn(busy()));
    });

  it('shows at a time what was shown at that time, copies that follow later too', () => {
    const document = apply(
      empty(),
      card('flag'),
      addKey('shot', 'flag', 'position', 10, [0, 0]),
      addKey('shot', 'flag', 'position', 40, [90, 0]),
      setRepeat('shot', 'flag', { ...newRepeat(40), count: 3, step: [0, 30], delay: 6 }),
    );
    const at = (d: Document, frame: number): number[][] =>
      evaluateFrame(d, shotOf(d), frame).draws.map(({ matrix }) => [...matrix]);
    const faster = apply(document, setFrameRate(60));
    for (const frame of [12, 20, 38])
      at(faster, 2 * frame).forEach((matrix, k) => near(matrix, at(document, frame)[k]!));
    near(seenAt(faster, 'flag', 20, 10, 50), seenAt(document, 'flag', 20, 10, 25));
  });

  it('lets the later of two keys give way that would fall on one frame', () => {
    const close = apply(
      empty(),
      card('flag'),
      addKey('shot', 'flag', 'position', 10, [1, 0]),
      addKey('shot', 'flag', 'position', 11, [2, 0]),
      addKey('shot', 'flag', 'position', 30, [3, 0]),
    );
    const { position } = layerOf(apply(close, setFrameRate(12)), 'flag');
    expect('keys' in position && position.keys.map(({ frame, value }) => [frame, value[0]])).to.deep.equal([
      [4, 1],
      [12, 3],
    ]);
  });
});
