import { createCanvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import { plainLayer } from '../document/layer.ts';
import { setLayer, setProperty } from '../edits/layer-edits.ts';
import { addProp, changeProp } from '../edits/prop-edits.ts';
import { newRepeat, setRepeat } from '../edits/repeat-edits.ts';
import { apply, card, empty, layerOf, shotOf } from '../edits/test-cards.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';
import type { Draw } from '../scene/draw.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import { compose, type Matrix } from '../scene/matrix.ts';
import { storedFrom, valuesAt } from '../settings/setting.ts';
import { cloudAt, cloudLattices, latticeOf, noiseAt } from '../props/noise.ts';
import { nearness, travelled } from '../props/particles.ts';
import { speckSize, type PropMoment, type Specks } from '../props/prop.ts';
import { propKind, propKinds } from '../props/props.ts';

const moment = (frame: number, loop: number | null = 60): PropMoment => ({
  frame,
  loop,
  width: 400,
  height: 300,
  raster: 0.5,
});
const valuesOf = (id: string, change: Record<string, unknown> = {}) => {
  const { settings } = propKind(id)!;
  return valuesAt(settings, storedFrom(settings, change), 0) as never;
};
const make = (id: string, at: PropMoment, change?: Record<string, unknown>) =>
  propKind(id)!.make(valuesOf(id, change), at);

const document = (kind: string, values?: Record<string, unknown>) =>
  apply(
    empty(),
    addProp('shot', kind, { id: 'prop', depth: 4 }, values),
    // Also the frame after the last, which is the first of the next round.
    setLayer('Change timing', 'shot', 'prop', { timing: { ...plainLayer.timing, bar: { first: 0, end: 61 } } }),
  );

function pixels(from: ReturnType<typeof document>, frame: number, scale = 0.5): Uint8ClampedArray {
  const { width, height } = from.frame;
  const canvas = createCanvas(width * scale, height * scale);
  const context = contextOf(canvas);
  const fresh = testStudio({});
  paintFrame(context, evaluateFrame(from, shotOf(from), frame), fresh, { scale, ground: '#405060' });
  return context.getImageData(0, 0, width * scale, height * scale).data;
}
const furthest = (a: Uint8ClampedArray, b: Uint8ClampedArray): number =>
  a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);
const mean = (a: Uint8ClampedArray, b: Uint8ClampedArray): number =>
  a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0) / a.length;

describe('props', () => {
  for (const { id, moves, settings } of propKinds) {
    const moving = moves(valuesOf(id));
    it(`${id}: is seen, and its first frame follows on its last: after the loop it is as it was`, () => {
      const made = document(id);
      const ground = pixels(empty(), 0);
      expect(mean(pixels(made, 0), ground), 'seen').to.be.greaterThan(0.02);
      expect(furthest(pixels(made, 60), pixels(made, 0))).to.be.at.most(1);
      if (moving) expect(mean(pixels(made, 30), pixels(made, 0)), 'moves').to.be.greaterThan(0.01);
      else expect(furthest(pixels(made, 30), pixels(made, 0))).to.equal(0);
    });

    it(`${id}: the same seed is the same picture, another one another`, () => {
      const made = document(id);
      expect(furthest(pixels(made, 17), pixels(document(id), 17))).to.equal(0);
      if ('seed' in settings)
        expect(mean(pixels(made, 17), pixels(document(id, { seed: 2 }), 17))).to.be.greaterThan(0.01);
    });

    it(`${id}: a coarse preview looks like the export made smaller`, () => {
      const [coarse, fine] = [pixels(document(id), 9, 0.5), pixels(document(id), 9, 1)];
      const [w, h] = [200, 150];
      const small = new Uint8ClampedArray(w * h * 4);
      for (let y = 0; y < h; y++)
        for (let x = 0; x < w; x++)
          for (let n = 0; n < 4; n++) {
            const at = (dx: number, dy: number): number => fine[((2 * y + dy) * 2 * w + 2 * x + dx) * 4 + n]!;
            small[(y * w + x) * 4 + n] = (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4;
          }
      expect(mean(coarse, small)).to.be.below(4);
    });
  }

  it('as many things are there as asked for, and with a speed they go so many pixels a frame', () => {
    const of = (frame: number): Specks =>
      make('snow', moment(frame, null), { amount: 50, sway: 0, wind: 0, speed: 5 })[0] as Specks;
    const [before, after] = [of(10).values, of(11).values];
    expect(before.length / speckSize).to.equal(50);
    let falling = 0;
    for (let i = 0; i < before.length; i += speckSize) {
      const way = after[i + 1]! - before[i + 1]!;
      // One that left the box has come in again above.
      if (way < 0) continue;
      falling++;
      expect(way).to.be.within(5 * 0.7 * nearness(1) - 1e-3, 5 * 1.3 + 1e-3);
      expect(after[i]).to.be.closeTo(before[i]!, 1e-3);
    }
    expect(falling).to.be.greaterThan(40);
  });

  it('what travels in a loop goes whole rounds, and at least one', () => {
    for (const way of [0.01, 3, -7]) {
      const at = (frame: number): number => travelled(way, 0.3, 400, moment(frame));
      expect(at(60)).to.be.closeTo(at(0), 1e-6);
      expect(at(20)).to.not.be.closeTo(at(0), 1e-3);
    }
    expect(travelled(0, 0.3, 400, moment(33))).to.equal(travelled(0, 0.3, 400, moment(0)));
  });

  it('noise repeats with its lattice, is even at its joints and spread over 0 to 1', () => {
    const lattice = latticeOf(3, 5, 4, 3);
    for (const [x, y, z] of [
      [0.3, 1.7, 0.4],
      [4.9, 3.2, 2.8],
      [2, 1, 0],
    ] as const) {
      expect(noiseAt(lattice, x + 5, y, z)).to.be.closeTo(noiseAt(lattice, x, y, z), 1e-6);
      expect(noiseAt(lattice, x, y + 4, z + 3)).to.be.closeTo(noiseAt(lattice, x, y, z), 1e-6);
      expect(noiseAt(lattice, x, y, z)).to.be.closeTo(noiseAt(lattice, x + 1e-7, y, z), 1e-5);
    }
    expect(noiseAt(lattice, 2, 1, 2)).to.be.closeTo(lattice.values[(2 * 4 + 1) * 5 + 2]!, 1e-9);
    const clouds = cloudLattices(1, 8, 8, 2, 4);
    const all = Array.from({ length: 4000 }, (_, k) => cloudAt(clouds, (k % 63) / 7, Math.floor(k / 63) / 8, 0.3));
    expect(Math.min(...all)).to.be.within(0, 0.4);
    expect(Math.max(...all)).to.be.within(0.6, 1);
  });

  it('glows have no bands: along a ray no value stays for longer than the ramp asks, but for the noise', () => {
    const data = make('lamp', { ...moment(0), raster: 1 }, { size: 190, strength: 0.5 })[0] as {
      data: Uint8ClampedArray;
      width: number;
      height: number;
    };
    const row = Math.floor(data.height / 2);
    let [run, longest] = [1, 1];
    for (let x = Math.floor(data.width / 2) + 5; x < data.width * 0.72; x++) {
      const [a, b] = [data.data[(row * data.width + x) * 4 + 3], data.data[(row * data.width + x - 1) * 4 + 3]];
      run = a === b ? run + 1 : 1;
      longest = Math.max(longest, run);
    }
    expect(longest).to.be.at.most(8);
  });
});

describe('props that lie between two distances', () => {
  const snowing = () =>
    apply(
      empty(),
      addProp('shot', 'snow', { id: 'snow', depth: 4 }, { amount: 300 }),
      changeProp('shot', 'snow', { near: 0.5, far: 2 }),
    );

  it('come in slices around the layers that stand inside them, and together show every flake once', () => {
    const around = apply(snowing(), card('near', 3), card('far', 6), card('before', 1));
    const order = evaluateFrame(around, shotOf(around), 0).draws.map((d) => d.layer);
    expect(order).to.deep.equal(['snow', 'far', 'snow', 'near', 'snow', 'before']);
    const ranges = evaluateFrame(around, shotOf(around), 0).draws.flatMap(({ content }) =>
      content.kind === 'prop' ? [[content.slab!.from, content.slab!.to]] : [],
    );
    // From 2 to 8: 6 lies at two thirds, 3 at a sixth.
    expect(ranges[0]![0]).to.be.closeTo(2 / 3, 1e-9);
    expect(ranges[1]).to.deep.equal([1 / 6, 2 / 3].map((v, k) => (k === 0 ? v : ranges[0]![0])));
    expect(ranges[2]![0]).to.equal(0);
  });

  it('a camera that pushes in passes near flakes sooner: what is near moves more', () => {
    const made = snowing();
    const shot = shotOf(made);
    const still = evaluateFrame(made, shot, 0, { x: 0, y: 0, z: 0 }).draws[0]!;
    const pushed = evaluateFrame(made, shot, 0, { x: 0, y: 0, z: 1 }).draws[0]!;
    if (still.content.kind !== 'prop' || pushed.content.kind !== 'prop') throw new Error('no prop');
    // As with planes: at distance d a push by 1 enlarges by d / (d - 1).
    expect(pushed.content.slab!.camera.z).to.equal(1);
    expect([pushed.content.slab!.near, pushed.content.slab!.far]).to.deep.equal([2, 8]);
    const at = (camera: { x: number; y: number; z: number }): Uint8ClampedArray => {
      const canvas = createCanvas(400, 300);
      paintFrame(contextOf(canvas), evaluateFrame(made, shot, 0, camera), testStudio({}), { scale: 1, ground: '#000' });
      return contextOf(canvas).getImageData(0, 0, 400, 300).data;
    };
    expect(mean(at({ x: 0, y: 0, z: 1 }), at({ x: 0, y: 0, z: 0 }))).to.be.greaterThan(0.2);
    // At the lens itself nothing is left of it.
    expect(
      mean(
        at({ x: 0, y: 0, z: 9 }),
        new Uint8ClampedArray(400 * 300 * 4).map((_, i) => (i % 4 === 3 ? 255 : 0)),
      ),
    ).to.equal(0);
  });

  it('a setting with keys changes over time, and a prop goes with its layer', () => {
    const made = apply(document('lamp'), setProperty('shot', 'prop', 'prop/size', 0, 40));
    expect(layerOf(made, 'prop').blend).to.equal('plus-lighter');
    const moved = apply(made, setProperty('shot', 'prop', 'position', 0, [60, 0]));
    const [a, b] = [pixels(made, 0, 1), pixels(moved, 0, 1)];
    const brightest = (data: Uint8ClampedArray): number => {
      let [best, at] = [-1, 0];
      for (let x = 0; x < 400; x++) if (data[(150 * 400 + x) * 4]! > best) [best, at] = [data[(150 * 400 + x) * 4]!, x];
      return at;
    };
    expect(brightest(b) - brightest(a)).to.be.closeTo(60, 3);
  });
});

describe('many copies of one outline', () => {
  it('look as each of them painted by itself does', () => {
    const grid = (count: number) =>
      apply(
        empty(),
        card('dot', 3, [-150, -100]),
        setProperty('shot', 'dot', 'scale', 0, 0.4),
        setProperty('shot', 'dot', 'rotation', 0, 20),
        setRepeat('shot', 'dot', { ...newRepeat(16), form: 'grid', count, rows: 7, step: [30.3, 28.7], opacity: 0.97 }),
      );
    const many = pixels(grid(10), 0, 1);
    const frame = evaluateFrame(grid(10), shotOf(grid(10)), 0);
    const [first] = frame.draws;
    if (first?.content.kind !== 'copies') throw new Error('many copies are one draw');
    const { of, places } = first.content;
    expect(places).to.have.length(70 * 7);
    const apart = Array.from({ length: 70 }, (_, k): Draw => {
      const place = [...places.subarray(7 * k, 7 * k + 6)] as unknown as Matrix;
      return { ...of, matrix: compose(first.matrix, place), opacity: places[7 * k + 6]! };
    });
    const single = { ...frame, draws: apart };
    const canvas = createCanvas(400, 300);
    paintFrame(contextOf(canvas), single, testStudio({}), { scale: 1, ground: '#405060' });
    const each = contextOf(canvas).getImageData(0, 0, 400, 300).data;
    expect(mean(many, each)).to.be.below(0.8);
    expect(mean(each, pixels(empty(), 0, 1))).to.be.greaterThan(3);
  });

  it('of an even grid look so too, row upon row', () => {
    const grid = (opacity: number) =>
      apply(
        empty(),
        card('dot', 3, [-150, -100]),
        setProperty('shot', 'dot', 'scale', 0, 0.4),
        setProperty('shot', 'dot', 'rotation', 0, 20),
        setRepeat('shot', 'dot', { ...newRepeat(16), form: 'grid', count: 10, rows: 7, step: [30.3, 28.7], opacity }),
      );
    const [rows] = evaluateFrame(grid(1), shotOf(grid(1)), 0).draws;
    expect(rows!.content.kind === 'copies' && rows!.content.places.length).to.equal(7 * 7);
    // An opacity that is as good as full tells the copies apart.
    expect(mean(pixels(grid(1), 0, 1), pixels(grid(0.99999), 0, 1))).to.be.below(0.8);
  });
});
