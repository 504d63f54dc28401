import { createCanvas } from '@napi-rs/canvas';
import { expect } from 'chai';
import { addLayer, groupLayers } from '../edits/arrange-edits.ts';
import { addFinish, setFinish } from '../edits/finish-edits.ts';
import { easeKeys } from '../edits/key-edits.ts';
import { addKey, setLayer, setProperty } from '../edits/layer-edits.ts';
import { setMotionBlur } from '../edits/shot-edits.ts';
import { apply, card, drawOf, empty, height, layerOf, seenAt, shotOf, width } from '../edits/test-cards.ts';
import { finishPath, propertyAt, propertyName, propertyPaths } from '../document/properties.ts';
import { numbersOfPath } from '../document/points.ts';
import { plainShape } from '../path/shapes.ts';
import { rectangle } from '../path/forms.ts';
import { finishKinds } from '../finish/finishes.ts';
import { bareShare } from '../scene/bare.ts';
import { everyDraw, lightened } from '../scene/draw.ts';
import { evaluateFrame } from '../scene/evaluate.ts';
import type { Document } from '../document/document.ts';
import type { Edit } from '../edits/edit.ts';
import { paintFrame } from './painter.ts';
import { contextOf, testStudio } from './test-studio.ts';

const grade = (id: string, depth: number): Edit =>
  addLayer('shot', { id, name: id, depth }, { source: { kind: 'grade' } });
const ground = (colour: number[]): Edit =>
  addLayer('shot', { id: 'ground', name: 'ground', depth: 30 }, { source: { kind: 'colour' }, colour });

function paint(document: Document, frame = 0, scale = 1, studio = testStudio({})) {
  const canvas = createCanvas(width * scale, height * scale);
  const evaluated = evaluateFrame(document, shotOf(document), frame);
  paintFrame(contextOf(canvas), evaluated, studio, { scale, ground: '#ffffff' });
  const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
  /** Colour at a point from the middle of the frame, in frame pixels. */
  const at = (x: number, y: number): number[] => {
    const i = (Math.round((y + height / 2) * scale) * canvas.width + Math.round((x + width / 2) * scale)) * 4;
    return [...data.subarray(i, i + 3)];
  };
  return { at, data };
}

const near = (got: readonly number[], wanted: readonly number[], within = 3): void =>
  wanted.forEach((v, k) => expect(got[k], `${got.join()} is ${wanted.join()}`).closeTo(v, within));

describe('finishes on layers', () => {
  it('never change a place: matrix, box, cover and bare frame are those of the unfinished layer, with any of them', () => {
    const plain = apply(empty(), card('a'), ground([200, 200, 200, 1]));
    for (const kind of finishKinds) {
      const values = Object.fromEntries(
        Object.entries(kind.settings).flatMap(([key, s]) => (s.kind === 'number' ? [[key, s.most]] : [])),
      );
      const finished = apply(
        plain,
        addFinish('shot', 'a', kind.id, 'f', values),
        addFinish('shot', 'ground', kind.id, 'g'),
      );
      for (const id of ['a', 'ground']) {
        const [before, after] = [drawOf(plain, id), drawOf(finished, id)];
        expect({ ...after, finishes: null }, kind.id).to.deep.equal(before);
      }
      expect(seenAt(finished, 'a')).to.deep.equal(seenAt(plain, 'a'));
      expect(bareShare(finished, shotOf(finished), 0)).to.equal(bareShare(plain, shotOf(plain), 0));
    }
  });

  it('that change from frame to frame are those of a studio that paints each frame anew, also when the layer is changed between', () => {
    const keyed = apply(
      empty(),
      card('a'),
      ground([200, 200, 200, 1]),
      setProperty('shot', 'a', 'scale', 0, 3),
      addFinish('shot', 'a', 'hue-saturation', 'h'),
      addFinish('shot', 'a', 'drop-shadow', 's'),
      addKey('shot', 'a', finishPath('h', 'hue'), 0, 0),
      addKey('shot', 'a', finishPath('h', 'hue'), 8, 160),
    );
    const other = apply(keyed, setProperty('shot', 'a', 'scale', 0, 2));
    const studio = testStudio({});
    const looks = new Set<string>();
    for (const document of [keyed, other, keyed])
      for (let frame = 0; frame <= 8; frame += 2) {
        const { data, at } = paint(document, frame, 1, studio);
        looks.add(at(0, 0).join());
        expect(Buffer.compare(Buffer.from(data), Buffer.from(paint(document, frame).data)), `${frame}`).to.equal(0);
      }
    expect(looks.size).to.be.greaterThan(4);
  });

  it('an outline and a shadow are seen round the layer, as large as set in frame pixels, at any scale of the preview', () => {
    const document = apply(
      empty(),
      card('a'),
      setProperty('shot', 'a', 'scale', 0, 3),
      addFinish('shot', 'a', 'outline', 'o', { width: 12, colour: [0, 0, 255, 1] }),
    );
    for (const scale of [0.5, 1, 2]) {
      const { at } = paint(document, 0, scale);
      // The card is 120 x 60 about the middle.
      near(at(0, 0), [200, 40, 40]);
      near(at(66, 0), [0, 0, 255]);
      near(at(0, -36), [0, 0, 255]);
      near(at(78, 0), [255, 255, 255]);
    }
  });

  it('are applied in their order, not at all while muted, and fade and blend with the layer', () => {
    const base = apply(empty(), card('a'));
    const inverted = apply(base, addFinish('shot', 'a', 'invert', 'i'));
    near(paint(inverted).at(0, 0), [55, 215, 215]);
    near(paint(apply(inverted, setFinish('shot', 'a', 'i', { muted: true }))).at(0, 0), [200, 40, 40]);
    near(paint(apply(inverted, setProperty('shot', 'a', 'opacity', 0, 0.5))).at(0, 0), [155, 235, 235], 4);
    const flashed = addFinish('shot', 'a', 'flash', 'f', { strength: 1, colour: [0, 0, 0, 1] });
    near(paint(apply(base, flashed, addFinish('shot', 'a', 'invert', 'i'))).at(0, 0), [255, 255, 255]);
    near(paint(apply(base, addFinish('shot', 'a', 'invert', 'i'), flashed)).at(0, 0), [0, 0, 0]);
  });

  it('settings have keys like any property, named by a path', () => {
    const path = finishPath('f', 'strength');
    const document = apply(
      empty(),
      card('a'),
      addFinish('shot', 'a', 'flash', 'f', { colour: [0, 0, 0, 1] }),
      addKey('shot', 'a', path, 0, 0),
      addKey('shot', 'a', path, 20, 1),
    );
    const layer = layerOf(document, 'a');
    expect(propertyPaths(layer)).to.include(path);
    expect(propertyName(layer, path)).to.equal('Flash: Strength');
    expect(propertyAt(layer, path)).to.have.property('keys').with.length(2);
    near(paint(document, 0).at(0, 0), [200, 40, 40]);
    near(paint(document, 20).at(0, 0), [0, 0, 0]);
    const [middle] = paint(document, 10).at(0, 0);
    expect(middle).to.be.within(20, 180);
  });

  it('masks cut before a finish, so an outline runs along the mask; windows cut after it', () => {
    const mask = { ...plainShape, id: 'm', path: rectangle({ x: 0, y: 0, width: 20, height: 20 }) };
    const document = apply(
      empty(),
      card('a'),
      setProperty('shot', 'a', 'scale', 0, 4),
      setLayer('Mask', 'shot', 'a', { masks: [mask] }),
      addFinish('shot', 'a', 'outline', 'o', { width: 10, colour: [0, 0, 255, 1] }),
    );
    // The left half of the card is left: from -80 to 0.
    const { at } = paint(document);
    near(at(-40, 0), [200, 40, 40]);
    near(at(5, 0), [0, 0, 255]);
    near(at(30, 0), [255, 255, 255]);
    const half = apply(
      empty(),
      card('hole', 3, [-40, 0]),
      setProperty('shot', 'hole', 'scale', 0, 2),
      card('a'),
      addFinish('shot', 'a', 'outline', 'o', { width: 10, colour: [0, 0, 255, 1] }),
      setLayer('Window', 'shot', 'a', { window: { to: 'hole', how: 'inside', by: 'alpha', free: null } }),
      setLayer('Hide', 'shot', 'hole', { hidden: true }),
    );
    near(paint(half).at(-25, 0), [0, 0, 255]);
    near(paint(half).at(25, 0), [255, 255, 255]);
  });

  it('a grade layer changes what is behind it and nothing in front, by its opacity', () => {
    const scene = apply(
      empty(),
      ground([100, 150, 200, 1]),
      card('near', 2, [-60, 0]),
      card('far', 9, [60, 0]),
      grade('g', 4),
    );
    const document = apply(scene, addFinish('shot', 'g', 'invert', 'i'));
    const { at } = paint(document);
    near(at(-60, 0), [200, 40, 40]);
    near(at(60, 0), [55, 215, 215]);
    near(at(0, 100), [155, 105, 55]);
    near(paint(apply(document, setProperty('shot', 'g', 'opacity', 0, 0.5))).at(0, 100), [127, 127, 127], 4);
    near(paint(scene).at(60, 0), [200, 40, 40]);
    // In a group it changes only what is behind it there.
    const grouped = apply(document, groupLayers('shot', ['far', 'g'], { id: 'group', name: 'Group' }));
    near(paint(grouped).at(0, 100), [100, 150, 200]);
  });

  it('a group is finished as one thing', () => {
    const document = apply(
      empty(),
      card('a', 3, [-30, 0]),
      card('b', 3, [0, 0]),
      groupLayers('shot', ['a', 'b'], { id: 'group', name: 'Group' }),
      addFinish('shot', 'group', 'outline', 'o', { width: 8, colour: [0, 0, 255, 1] }),
    );
    const { at } = paint(document);
    near(at(-12, 0), [200, 40, 40]);
    near(at(24, 0), [0, 0, 255]);
    near(at(-54, 0), [0, 0, 255]);
  });

  it('settle in and light wrap look at what lies behind where the layer is', () => {
    const document = apply(
      empty(),
      ground([30, 60, 120, 1]),
      card('a'),
      addFinish('shot', 'a', 'settle-in', 's', { light: 1, colour: 1, contrast: 0 }),
    );
    near(paint(document).at(0, 0), [30, 60, 120], 6);
  });

  it('what stands still is finished once, however the layer moves', () => {
    const moving = apply(
      empty(),
      card('a'),
      addKey('shot', 'a', 'position', 0, [0, 0]),
      addKey('shot', 'a', 'position', 30, [80, 0]),
      addFinish('shot', 'a', 'drop-shadow', 's'),
    );
    /** How often pixels were finished, and how often what is finished was read. */
    const counted = (document: Document): { finished: number; read: number } => {
      const studio = testStudio({});
      const scratch = studio.scratch.bind(studio);
      const counts = { finished: 0, read: 0 };
      const seen = new WeakSet<object>();
      studio.scratch = (w, h) => {
        const made = scratch(w, h);
        if (seen.has(made.context)) return made;
        seen.add(made.context);
        const get = made.context.getImageData.bind(made.context);
        made.context.getImageData = (...args) => {
          counts.read++;
          return get(...args);
        };
        const put = made.context.putImageData.bind(made.context);
        made.context.putImageData = (...args) => {
          counts.finished++;
          put(...args);
        };
        return made;
      };
      for (let frame = 0; frame < 8; frame++) paint(document, frame, 1, studio);
      return counts;
    };
    expect(counted(moving)).to.deep.equal({ finished: 1, read: 1 });
    // Grain moves by itself and is made for every frame; what it is laid on stands still.
    expect(counted(apply(moving, addFinish('shot', 'a', 'grain', 'g')))).to.deep.equal({ finished: 8, read: 2 });
  });

  it('motion blur is the mean over the open shutter; what rests, or leaves it out, is as it was', () => {
    const moving = apply(
      empty(),
      card('a'),
      card('b', 3, [0, 100]),
      addKey('shot', 'a', 'position', 0, [0, 0]),
      addKey('shot', 'a', 'position', 10, [160, 0]),
      easeKeys('shot', [{ layer: 'a', property: 'position', frame: 0 }], 'linear'),
      setMotionBlur('shot', { angle: 360, samples: 16 }),
    );
    expect(drawOf(moving, 'a', 2).content.kind).to.equal('mean');
    expect(drawOf(moving, 'b', 2).content.kind).to.equal('shape');
    // At frame 2 the card of 40 x 20 goes from 32 to 48 and is open for that: its left edge from 12 to 28.
    const { at } = paint(moving, 2);
    near(at(32, 0), [200, 40, 40], 2);
    const coverage = (x: number): number => (255 - at(x, 0)[1]!) / 215;
    for (const [x, wanted] of [
      [8, 0],
      [16, 4 / 16],
      [20, 8 / 16],
      [24, 12 / 16],
      [60, 8 / 16],
    ] as const)
      expect(coverage(x), `${x}`).closeTo(wanted, 0.08);
    const without = apply(moving, setLayer('Leave out', 'shot', 'a', { motionBlur: false }));
    expect(drawOf(without, 'a', 2).content.kind).to.equal('shape');
    // Its place, its cover and what lightens the view are those of the frame itself.
    const [smeared, plain] = [drawOf(moving, 'a', 2), drawOf(without, 'a', 2)];
    expect([smeared.matrix, smeared.width, smeared.opaque]).to.deep.equal([plain.matrix, plain.width, plain.opaque]);
    expect(lightened(evaluateFrame(moving, shotOf(moving), 2)).draws).to.deep.equal(
      evaluateFrame(without, shotOf(without), 2).draws,
    );
  });

  it('a shape whose points were moved beyond its corner is finished whole', () => {
    const moved = apply(
      empty(),
      card('a'),
      setProperty('shot', 'a', 'points', 0, numbersOfPath(rectangle({ x: -60, y: -30, width: 40, height: 20 }))),
      addFinish('shot', 'a', 'invert', 'i'),
    );
    // The pivot at (20, 10) is in the middle of the frame.
    near(paint(moved).at(-60, -30), [55, 215, 215]);
    near(paint(moved).at(-78, -38), [55, 215, 215]);
  });

  it('a gradient is the ramp it says to less than a step, with no band much wider than the ramp asks for', () => {
    const gradient = {
      kind: 'linear' as const,
      angle: 0,
      stops: [
        { at: 0, colour: [20, 30, 40, 1] as [number, number, number, number] },
        { at: 1, colour: [50, 50, 50, 1] as [number, number, number, number] },
      ],
    };
    const wide = apply(
      empty(),
      card('a'),
      setProperty('shot', 'a', 'scale', 0, 10),
      setLayer('Gradient', 'shot', 'a', {
        source: { kind: 'shape', made: null, closed: true, filled: true, gradient, stroke: null },
      }),
    );
    const { at } = paint(wide);
    let [longest, run, sum] = [0, 1, 0];
    for (let x = -190; x < 190; x++) {
      const wanted = 20 + (30 * (x + 0.5 + 200)) / 400;
      expect(Math.abs(at(x, 0)[0]! - wanted), `${x}`).to.be.at.most(1.01);
      sum += at(x, 0)[0]! - wanted;
      run = at(x, 0)[0] === at(x - 1, 0)[0] ? run + 1 : 1;
      longest = Math.max(longest, run);
    }
    expect(Math.abs(sum / 380)).to.be.lessThan(0.1);
    expect(longest).to.be.lessThan(13);
  });

  it('heavy ones are left out with the other heavy effects, light ones stay', () => {
    const document = apply(
      empty(),
      card('a'),
      addFinish('shot', 'a', 'drawn', 'd'),
      addFinish('shot', 'a', 'invert', 'i'),
    );
    const { draws } = lightened(evaluateFrame(document, shotOf(document), 0));
    expect([...everyDraw(draws)].flatMap((d) => d.finishes?.list.map((f) => f.kind))).to.deep.equal(['invert']);
  });

  it('an old document without finishes opens and looks the same, pixel for pixel', () => {
    const document = apply(empty(), card('a'), ground([90, 120, 60, 1]));
    const old = JSON.parse(JSON.stringify(document)) as { shots: { layers: { finishes?: unknown }[] }[] };
    for (const layer of old.shots[0]!.layers) delete layer.finishes;
    const opened = apply(old as unknown as Document);
    expect(opened).to.deep.equal(document);
    expect(paint(opened).data).to.deep.equal(paint(document).data);
  });
});
