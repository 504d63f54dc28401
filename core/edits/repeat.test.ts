import { expect } from 'chai';
import type { Document } from '../document/document.ts';
import type { Repeat } from '../document/layer.ts';
import type { Draw } from '../scene/draw.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { transform } from '../scene/matrix.ts';
import { addLayer } from './arrange-edits.ts';
import { numbersOfPath } from '../document/points.ts';
import { rectangle } from '../path/forms.ts';
import { addKey, removeLayers, setHidden, setProperty } from './layer-edits.ts';
import { newRepeat, setRepeat, takeRepeatApart } from './repeat-edits.ts';
import { apply, card, empty, height, layerOf, near, shotOf, width } from './test-cards.ts';

/** Where the middles and left ends of all copies are seen, from the centre of the frame, the first copy first. */
function places(document: Document, frame = 0): { middle: number[]; left: number[]; opacity: number }[] {
  const { draws } = evaluateFrame(document, shotOf(document), frame);
  return draws
    .map(({ matrix, opacity }) => {
      const seen = (x: number, y: number): number[] => {
        const [u, v] = transform(matrix, x, y);
        return [u - width / 2, v - height / 2];
      };
      return { middle: seen(20, 10), left: seen(0, 10), opacity };
    })
    .reverse();
}
const repeated = (change: Partial<Repeat>): Document =>
  apply(empty(), card('flag'), setRepeat('shot', 'flag', { ...newRepeat(40), ...change }));

describe('repeats', () => {
  it('a row goes on by its step, smaller, fainter and turned a little more each time', () => {
    const all = places(repeated({ count: 4, step: [50, 10], turn: 90, scale: 0.5, opacity: 0.5 }));
    expect(all).to.have.length(4);
    all.forEach(({ middle, opacity }, k) => {
      near(middle, [50 * k, 10 * k]);
      expect(opacity).to.be.closeTo(0.5 ** k, 1e-9);
    });
    // The second stands upright and is half as large: its left end, 20 from its middle, is 10 above it.
    near(all[1]!.left, [50, 10 - 10]);
  });

  it('a grid has columns and rows, a ring stands around its middle and turns with it unless told otherwise', () => {
    const grid = places(repeated({ form: 'grid', count: 3, rows: 2, step: [30, 40] }));
    expect(grid.map(({ middle }) => middle.map(Math.round).map((v) => v + 0))).to.deep.equal([
      [0, 0],
      [30, 0],
      [60, 0],
      [0, 40],
      [30, 40],
      [60, 40],
    ]);
    const ring = places(repeated({ form: 'ring', count: 12, radius: 100 }));
    for (const { middle } of ring) expect(Math.hypot(...middle)).to.be.closeTo(100, 1e-9);
    near(ring[3]!.middle, [100, 0]);
    near(ring[3]!.left, [100, -20]);
    const upright = places(repeated({ form: 'ring', count: 12, radius: 100, upright: true }));
    near(upright[3]!.left, [80, 0]);
  });

  it('every other one is mirrored when asked, and each follows its key some frames later', () => {
    const mirrored = places(repeated({ count: 2, step: [50, 0], mirrored: true }));
    near(mirrored[1]!.left, [70, 0]);
    const moving = apply(
      empty(),
      card('flag'),
      addKey('shot', 'flag', 'rotation', 0, 0),
      addKey('shot', 'flag', 'rotation', 10, 90),
      setRepeat('shot', 'flag', { ...newRepeat(40), count: 3, step: [0, 0], delay: 5 }),
    );
    const angles = places(moving, 10).map(({ middle, left }) =>
      Math.round((Math.atan2(middle[1]! - left[1]!, middle[0]! - left[0]!) * 180) / Math.PI),
    );
    expect(angles).to.deep.equal([90, 45, 0]);
  });

  it('steps are frame pixels whatever the size of the layer', () => {
    const large = apply(repeated({ count: 2, step: [50, 0] }), setProperty('shot', 'flag', 'scale', 0, 3));
    near(places(large)[1]!.middle, [50, 0]);
  });

  it('along a path they stand at even steps of its length and turn with it', () => {
    const along = (change: Partial<Repeat>, closed: boolean): Document =>
      apply(
        empty(),
        card('flag'),
        addLayer(
          'shot',
          { id: 'line', name: 'line', depth: 3, position: [-50, 20] },
          {
            source: { kind: 'shape', made: null, closed, filled: false, gradient: null, stroke: null },
            colour: [0, 0, 0, 1],
            points: numbersOfPath(rectangle({ x: 0, y: 0, width: 100, height: 60 })),
            pivot: [0, 0],
          },
        ),
        setHidden('shot', 'line', true),
        setRepeat('shot', 'flag', { ...newRepeat(40), form: 'path', path: 'line', ...change }),
      );
    // Round a rectangle of 320 in eight steps of 40, its first corner at (-50, 20).
    const round = places(along({ count: 8 }, true));
    const wanted = [
      [-50, 20],
      [-10, 20],
      [30, 20],
      [50, 40],
      [50, 80],
      [10, 80],
      [-30, 80],
      [-50, 60],
    ];
    round.forEach(({ middle }, k) => near(middle, wanted[k]!));
    near(round[3]!.left, [50, 20]);
    // Open, it has three sides, and the last stands at its end.
    const open = places(along({ count: 3, upright: true }, false));
    near(open[0]!.middle, [-50, 20]);
    near(open[2]!.middle, [-50, 80]);
    near(open[1]!.left, [open[1]!.middle[0]! - 20, open[1]!.middle[1]!]);
    // They follow the line where it goes, and without it they stand in their row.
    const moved = apply(along({ count: 8 }, true), setProperty('shot', 'line', 'position', 0, [0, 0]));
    near(places(moved)[2]!.middle, [80, 0]);
    expect(layerOf(apply(moved, removeLayers('shot', ['line'])), 'flag').repeat!.path).to.equal(null);
  });

  it('hues go on round the circle: of three a third each, red becomes green and then blue', () => {
    const coloured = apply(repeated({ count: 3, hue: 120 }), setProperty('shot', 'flag', 'colour', 0, [255, 0, 0, 1]));
    const fills = (document: Document): number[][] =>
      evaluateFrame(document, shotOf(document), 0)
        .draws.map(({ content }) => (content.kind === 'shape' ? [...content.fill!] : []))
        .reverse();
    const [red, green, blue] = fills(coloured);
    near(red!, [255, 0, 0, 1], 1);
    near(green!, [0, 255, 0, 1], 1);
    near(blue!, [0, 0, 255, 1], 1);
    const apart = apply(coloured, takeRepeatApart('shot', 'flag'));
    const turns = shotOf(apart).layers.map((l) => l.finishes.map(({ settings }) => settings.hue));
    expect(turns).to.deep.equal([[], [{ value: 120 }], [{ value: 240 }]]);
  });

  it('taken apart, all are layers of their own in the same places at the same times; too many stay as they are', () => {
    const whole = apply(
      empty(),
      card('flag', 3, [30, 20]),
      setProperty('shot', 'flag', 'scale', 0, 1.5),
      addKey('shot', 'flag', 'position', 0, [30, 20]),
      addKey('shot', 'flag', 'position', 20, [60, 20]),
      setRepeat('shot', 'flag', {
        ...newRepeat(40),
        form: 'ring',
        count: 6,
        radius: 80,
        delay: 3,
        scale: 0.9,
        mirrored: true,
      }),
    );
    const apart = apply(whole, takeRepeatApart('shot', 'flag'));
    expect(shotOf(apart).layers).to.have.length(6);
    expect(new Set(shotOf(apart).layers.map((l) => l.name)).size).to.equal(6);
    const byPlace = (document: Document, frame: number): string[] =>
      places(document, frame)
        .map(({ middle, left }) => [...middle, ...left].map((v) => Math.round(v * 10) / 10 + 0).join())
        .sort();
    for (const frame of [20, 30]) expect(byPlace(apart, frame)).to.deep.equal(byPlace(whole, frame));
    const many = repeated({ form: 'grid', count: 150, rows: 150 });
    expect(layerOf(apply(many, takeRepeatApart('shot', 'flag')), 'flag').repeat).to.not.equal(null);
    const [grid] = evaluateFrame(many, shotOf(many), 0).draws;
    const copiesIn = ({ content }: Draw): number =>
      content.kind === 'copies' ? (content.places.length / 7) * copiesIn(content.of) : 1;
    expect(copiesIn(grid!)).to.equal(22_500);
  });
});
