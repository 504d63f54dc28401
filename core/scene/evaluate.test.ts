import { expect } from 'chai';
import { addLayer, groupLayers } from '../edits/arrange-edits.ts';
import { setArrival, setArrivalValues } from '../edits/arrival-edits.ts';
import { addFinish } from '../edits/finish-edits.ts';
import { joinLayer, type JoinHow } from '../edits/join-edits.ts';
import { setLayer, setProperty } from '../edits/layer-edits.ts';
import { apply, card, drawOf, empty, height, layerOf, near, seenAt, shotOf, width } from '../edits/test-cards.ts';
import type { Document } from '../document/document.ts';
import { plainWords, type Bubble } from '../document/words.ts';
import { restFraming } from '../document/shot.ts';
import { setFraming } from '../edits/camera-edits.ts';
import { loadTestFaces } from '../text/test-faces.ts';
import { atRest } from '../arrive/arrival.ts';
import { stateMatrix } from './arriving.ts';
import { evaluateFrame } from './evaluate.ts';
import { transform, type Matrix } from './matrix.ts';
import { boundsOfDraws } from './moved-draw.ts';
import { steadied, pointAt } from './points-of-clip.ts';

const frameOf = (document: Document, frame = 0) => evaluateFrame(document, shotOf(document), frame);
const corner = (matrix: Matrix): [number, number] => transform(matrix, 0, 0);

describe('how a layer lies', () => {
  it('turned and flipped: flipped first, about its pivot, then turned as the clock goes', () => {
    const turns = { sideways: [-1, 1], upright: [1, -1], both: [-1, -1], neither: [1, 1] } as const;
    for (const [name, [fx, fy]] of Object.entries(turns)) {
      const document = apply(
        empty(),
        card('sign', 3, [60, 20]),
        setProperty('shot', 'sign', 'rotation', 0, 90),
        setProperty('shot', 'sign', 'scale', 0, 2),
        setLayer('Flip', 'shot', 'sign', { flip: { sideways: fx < 0, upright: fy < 0 } }),
      );
      // (20, 10) is its pivot; 90 degrees take what lies to the right to below, and what lies below to the left.
      near(seenAt(document, 'sign', 30, 10), [60, 20 + 2 * fx * 10]);
      near(seenAt(document, 'sign', 20, 15), [60 - 2 * fy * 5, 20]);
      expect(Math.hypot(...drawOf(document, 'sign').matrix.slice(0, 2)), name).closeTo(2, 1e-9);
    }
  });
});

describe('a group that arrives', () => {
  const grouped = () =>
    apply(
      empty(),
      card('a', 3, [-60, 0]),
      card('b', 3, [60, 30]),
      groupLayers('shot', ['a', 'b'], { id: 'group', name: 'Pair' }),
    );
  const arriving = () =>
    apply(
      grouped(),
      setArrival('shot', ['group'], 'from-side'),
      setArrivalValues('shot', 'group', 'arrive', { distance: 50 }),
    );

  it('comes as one: all in it go the same way at once, and rest where they are', () => {
    const [rest, coming] = [frameOf(grouped()), frameOf(arriving(), 3)];
    const drawsIn = (draws: typeof rest.draws) =>
      draws.flatMap((d) => (d.content.kind === 'together' ? d.content.draws : [d]));
    const ways = ['a', 'b'].map((id) => {
      const [from, to] = [rest, coming].map(({ draws }) => corner(drawsIn(draws).find((d) => d.layer === id)!.matrix));
      return [to![0] - from![0], to![1] - from![1]];
    });
    near(ways[0]!, ways[1]!);
    expect(Math.hypot(...(ways[0] as [number, number]))).to.be.above(5);
    expect(frameOf(arriving(), 50).draws.map(({ matrix }) => matrix)).to.deep.equal(
      frameOf(grouped(), 50).draws.map(({ matrix }) => matrix),
    );
  });

  it('grows about the middle of what is in it, not about the frame', () => {
    const growing = apply(grouped(), setArrival('shot', ['group'], 'grow'));
    const middle = ({ draws }: ReturnType<typeof frameOf>): number[] => {
      const { x, y, width: w, height: h } = boundsOfDraws(draws);
      return [x + w / 2, y + h / 2];
    };
    const wanted = middle(frameOf(grouped(), 50));
    for (const frame of [4, 8]) near(middle(frameOf(growing, frame)), wanted, 1e-6);
    const wide = (frame: number): number => boundsOfDraws(frameOf(growing, frame).draws).width;
    expect(wide(4)).to.be.below(wide(8));
    expect(wide(50)).closeTo(boundsOfDraws(frameOf(grouped(), 50).draws).width, 1e-6);
  });
});

describe('finishes of a layer at a frame', () => {
  it('are those that are there and not muted', () => {
    const base = apply(
      empty(),
      card('sign'),
      addFinish('shot', 'sign', 'outline', 'first'),
      addFinish('shot', 'sign', 'glow', 'second'),
    );
    const kinds = (change: (finish: { id: string; kind: string; muted: boolean }) => object) => {
      const { finishes } = layerOf(base, 'sign');
      const layers = [{ ...layerOf(base, 'sign'), finishes: finishes.map((one) => ({ ...one, ...change(one) })) }];
      return drawOf({ ...base, shots: [{ ...shotOf(base), layers }] }, 'sign').finishes?.list.map(({ kind }) => kind);
    };
    expect(kinds(() => ({}))).to.deep.equal(['outline', 'glow']);
    expect(kinds(({ id }) => ({ muted: id === 'second' }))).to.deep.equal(['outline']);
    expect(kinds(() => ({ muted: true }))).to.equal(undefined);
    // One that this version does not know is left alone.
    expect(kinds(({ id }) => (id === 'first' ? { kind: 'no such finish' } : {}))).to.deep.equal(['glow']);
  });
});

describe('what is one with another layer', () => {
  it('is a layer of its own again when that is gone', () => {
    const document = joined('cut out');
    const left = { ...shotOf(document), layers: shotOf(document).layers.filter(({ id }) => id !== 'sign') };
    expect(frameOf({ ...document, shots: [left] }).draws.map((d) => d.layer)).to.deep.equal(['drip']);
  });

  const joined = (how: JoinHow) =>
    apply(empty(), card('sign', 3, [0, 0]), card('drip', 3, [10, 8]), joinLayer('shot', 'drip', 'sign', how, 0));

  it('has the colours of a picture only; of a shape it keeps its own, and lies behind it', () => {
    const { draws } = frameOf(joined('its colours'));
    expect(draws.map((d) => [d.layer, d.content.kind])).to.deep.equal([
      ['drip', 'shape'],
      ['sign', 'shape'],
    ]);
  });

  it('is cut out where it lies, and leaves nothing of itself', () => {
    const { draws } = frameOf(joined('cut out'));
    expect(draws.map((d) => d.layer)).to.deep.equal(['sign']);
    expect(draws[0]!.window!.matte.map((d) => d.layer)).to.deep.equal(['drip']);
    expect(draws[0]!.window!.how).to.equal('outside');
  });

  it('is one picture as large as the frame where both are blurred, faded or finished as one', () => {
    for (const how of ['cut out', 'its colours'] as const) {
      const { draws } = frameOf(apply(joined(how), setProperty('shot', 'sign', 'opacity', 0, 0.5)));
      expect(draws.map((d) => [d.layer, d.content.kind, d.opacity])).to.deep.equal([['sign', 'together', 0.5]]);
      expect([draws[0]!.width, draws[0]!.height]).to.deep.equal([width, height]);
    }
  });
});

describe('layers shown alone', () => {
  const members = () =>
    apply(
      empty(),
      card('a'),
      card('b'),
      card('c'),
      groupLayers('shot', ['a', 'b'], { id: 'inner', name: 'Pair' }),
      groupLayers('shot', ['inner'], { id: 'outer', name: 'All' }),
    );
  const shownWith = (...alone: string[]): string[] => {
    const document = alone.reduce((d, id) => apply(d, setLayer('Solo', 'shot', id, { solo: true })), members());
    return frameOf(document)
      .draws.map(({ layer }) => layer)
      .sort();
  };

  it('are seen with the groups they are in and with what is in them, however deep', () => {
    expect(shownWith()).to.deep.equal(['a', 'b', 'c']);
    expect(shownWith('a')).to.deep.equal(['a']);
    expect(shownWith('inner')).to.deep.equal(['a', 'b']);
    expect(shownWith('outer')).to.deep.equal(['a', 'b']);
    expect(shownWith('c', 'b')).to.deep.equal(['b', 'c']);
  });
});

describe('a layer that partly breaks out of its window', () => {
  const free = (angle: number, change: Parameters<typeof setLayer>[3] = {}, turn = 0) => {
    const document = apply(
      empty(),
      card('ring', 3, [50, 20]),
      card('figure', 3, [50, 20]),
      setProperty('shot', 'ring', 'rotation', 0, turn),
      setProperty('shot', 'ring', 'scale', 0, 2),
      setLayer('Flip', 'shot', 'ring', change),
      setLayer('Window', 'shot', 'figure', {
        window: { to: 'ring', how: 'inside', by: 'alpha', free: { at: [20, 5], angle, soft: 3 } },
      }),
    );
    return drawOf(document, 'figure').window!.free!;
  };
  const middle = [width / 2 + 50, height / 2 + 20] as const;

  it('is whole beyond a line that goes with the window, to the side it says', () => {
    // 5 above the pivot, enlarged twice; the free side is that into which the angle points.
    near(Object.values(free(0)), [middle[0], middle[1] - 10, 1, 0, 6]);
    near(Object.values(free(90)), [middle[0], middle[1] - 10, 0, 1, 6]);
    near(Object.values(free(0, {}, 90)), [middle[0] + 10, middle[1], 0, 1, 6]);
  });

  it('is so in a mirrored window too: the free side is mirrored with it', () => {
    const flip = { flip: { sideways: true, upright: false } };
    near(Object.values(free(0, flip)), [middle[0], middle[1] - 10, -1, 0, 6]);
    near(Object.values(free(90, flip)), [middle[0], middle[1] - 10, 0, 1, 6]);
    near(Object.values(free(30, flip)).slice(2, 4), [-Math.cos(Math.PI / 6), 0.5]);
  });
});

describe('how a thing stands while it arrives', () => {
  it('is moved, turned as the clock goes and enlarged about a place in its box', () => {
    const box = { x: 10, y: 20, width: 40, height: 20 };
    const state = {
      ...atRest,
      move: [5, -3] as [number, number],
      turn: 90,
      grow: [2, 1] as [number, number],
      about: [0.25, 1] as [number, number],
    };
    const matrix = stateMatrix(state, box);
    const about = [20, 40];
    near(transform(matrix, about[0]!, about[1]!), [25, 37]);
    // Twice as far across, then turned: what lay to the right lies below.
    near(transform(matrix, about[0]! + 4, about[1]!), [25, 37 + 8]);
    near(transform(matrix, about[0]!, about[1]! + 4), [25 - 4, 37]);
  });
});

describe('the tail of a bubble', () => {
  before(() => loadTestFaces('condensed'));

  it('ends at a point of another layer wherever that is, seen from the words, or at a place of its own', () => {
    const tail = { to: 'speaker', at: [30, 5] as [number, number], width: 20 };
    const bubble: Bubble = { form: 'round', padding: 10, colour: [1, 1, 1, 1], stroke: null, tail };
    const source = { ...plainWords, text: 'Tide', face: 'condensed', size: 40, box: { width: 80, height: 40 }, bubble };
    const document = apply(
      empty(),
      card('speaker', 6, [70, 40]),
      addLayer(
        'shot',
        { id: 'words', name: 'words', depth: 2, position: [-50, -20] },
        { source, pivot: [40, 20], colour: [255, 255, 255, 1] },
      ),
      setProperty('shot', 'words', 'rotation', 0, 30),
      setProperty('shot', 'speaker', 'scale', 0, 2),
      setFraming('shot', 'first', { ...restFraming, x: 30, size: 0.8 }),
    );
    const tipOf = (d: Document) => {
      const { content } = drawOf(d, 'words');
      return content.kind === 'text' ? content.bubble!.tip! : null;
    };
    // Seen through the lens, the tip lies on the point of the other layer.
    near(seenAt(document, 'words', ...tipOf(document)!), seenAt(document, 'speaker', 30, 5));
    const alone = { ...source, bubble: { ...bubble, tail: { ...tail, to: null } } };
    expect(tipOf(apply(document, setLayer('Words', 'shot', 'words', { source: alone })))).to.deep.equal([30, 5]);
  });
});

describe('points of a clip that are not there', () => {
  it('move nothing', () => {
    const document = apply(empty(), card('clip'), card('label', 3, [30, 0]));
    const layer = layerOf(document, 'clip');
    expect(steadied(document, layer, { point: 'lost', second: null }, 4)).to.deep.equal([1, 0, 0, 1, 0, 0]);
    expect(pointAt(document, layer, 'lost', 4)).to.equal(null);
  });
});
